import sharp from 'sharp';

/** A PNG's texels, RGBA8, read by a library that is not ours. */
export async function decodePng(
	bytes: Buffer,
): Promise<{ readonly width: number; readonly height: number; readonly data: Uint8Array }> {
	const { data, info } = await sharp(bytes).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
	return { width: info.width, height: info.height, data };
}
