import type { Engine } from '@eppu/core/engine';
import { unpackPicture } from '@eppu/core/format';
import { previewStroke, shippedStencilPicture, shippedStencils } from '@eppu/core/stroke';
import type { ToStudio } from '../studio/protocol.ts';
import type { Look } from '../studio/told.ts';

/** Has a picture of the library at hand; true where it is new. One that cannot be had is missed when it is used, in words. */
export async function fetchPicture({ pictures }: Engine, id: string): Promise<boolean> {
	if (pictures.has(id) || pictures.tip(id) !== undefined) return false;
	if (shippedStencils.some(({ name }) => name === id)) return false;
	const response = await fetch(`/api/library/${id}`, { signal: AbortSignal.timeout(30_000) }).catch(() => null);
	if (!response?.ok) return false;
	pictures.put(id, unpackPicture(new Uint8Array(await response.arrayBuffer())));
	return true;
}

/** Texels along the side of a stencil that is only chosen by: the plates are half of it. */
const PLATE_SIDE = 128;

const lookOf = (picture: { width: number; height: number; data: Uint8Array }): Look => ({
	width: picture.width,
	height: picture.height,
	data: new Uint8ClampedArray(picture.data),
});

/** A tip's stroke; a stencil's tone as alpha under its own colours; null where the picture is not at hand. */
export function lookAt(
	{ pictures, kernels }: Engine,
	message: Extract<ToStudio, { say: 'preview' | 'stencil' }>,
): Look | null {
	if (message.say === 'preview') {
		const tip = pictures.tip(message.tip.shape);
		if (tip === undefined) return null;
		return lookOf(previewStroke(kernels, message.tip, tip, message.width, message.height, message.color));
	}
	const found =
		(message.small && shippedStencilPicture(message.picture, PLATE_SIDE)) || pictures.stencil(message.picture);
	if (!found) return null;
	const data = new Uint8Array(found.rgba);
	for (let i = 0; i < found.tone.length; i++) data[i * 4 + 3] = found.tone[i] as number;
	return lookOf({ width: found.width, height: found.height, data });
}
