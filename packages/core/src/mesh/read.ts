import { readFigure } from '../figure/index.ts';
import { readGlb } from './glb.ts';
import { packGltf } from './gltf.ts';
import { type MeshResult, meshError } from './mesh.ts';
import { readObj, textOfObj } from './obj.ts';
import { readPly } from './ply.ts';
import { figureMesh } from './worn.ts';

/** Endings of the model files that are opened; a figure of boxes is JSON. */
export const modelEndings = ['.obj', '.glb', '.gltf', '.ply', '.json'] as const;

/** Whether a file is named as a model. */
export const isModelName = (file: string): boolean =>
	modelEndings.some((ending) => file.toLowerCase().endsWith(ending));

/** Whether a file is named as a figure of boxes. */
export const isFigureName = (file: string): boolean => /\.json$/i.test(file);

/** Bytes of the largest model file that is taken. */
export const MOST_MODEL_BYTES = 64 * 1024 * 1024;

/**
 * Reads a model by its file name's ending; the content must agree with it. Errors name the file and the way out. `uvSet`,
 * from 0, is the one that it is laid out by where it has several; the one that its colour uses where it is left out.
 */
export async function readModel(bytes: Uint8Array, file: string, uvSet?: number): Promise<MeshResult> {
	if (bytes.length > MOST_MODEL_BYTES)
		return meshError(
			'too-many-faces',
			`${file} is ${Math.round(bytes.length / 1048576)} MB; models of up to 64 MB are opened. Export the low-poly version.`,
		);
	const ending = /\.([a-z0-9]+)$/i.exec(file)?.[1]?.toLowerCase();
	const isGlb = bytes.length >= 4 && bytes[0] === 0x67 && bytes[1] === 0x6c && bytes[2] === 0x54 && bytes[3] === 0x46;
	if (ending === 'glb') return readGlb(bytes, file, uvSet);
	if (ending === 'gltf') {
		const packed = packGltf(bytes, new Map(), file);
		return packed.ok ? readGlb(packed.bytes, file, uvSet) : packed;
	}
	if (ending === 'obj') {
		if (isGlb)
			return meshError('unknown-format', `${file} is named .obj but holds GLB. Rename it to .glb and open it again.`);
		const text = textOfObj(bytes);
		if (text.slice(0, 4096).includes('\0'))
			return meshError('unknown-format', `${file} is named .obj but is not text. Eppu opens OBJ, GLB and PLY.`);
		return readObj(text, file);
	}
	if (ending === 'ply') return readPly(bytes, file);
	if (ending === 'json') {
		const read = readFigure(new TextDecoder().decode(bytes), file);
		return read.ok ? { ok: true, mesh: figureMesh(read.figure), notes: [] } : meshError('unknown-format', read.text);
	}
	return meshError('unknown-format', `${file} is not a model that Eppu opens. Export it as OBJ, GLB or PLY.`);
}
