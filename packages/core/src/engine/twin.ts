import { CommandError, type Id, layerOf } from '../document/index.ts';
import type { LaidMesh } from '../mesh/index.ts';
import { readBlock, writeBlock } from '../raster/index.ts';
import { modelGround, type Scene } from '../scene/index.ts';
import { createRecord, type Surface } from '../surface/index.ts';
import type { Engine } from './engine.ts';
import { whyNotPaint } from './refusal.ts';
import { surfaceFor } from './strokeSpec.ts';
import type { Workspace } from './workspace.ts';

const otherSide: readonly (readonly [RegExp, string])[] = [
	[/left/i, 'right'],
	[/right/i, 'left'],
];

/** The part that is a part's twin by its name: left for right. */
export function twinOf({ parts }: Pick<LaidMesh, 'parts'>, part: number): number | null {
	const name = parts[part]?.name ?? '';
	for (const [side, other] of otherSide) {
		if (!side.test(name)) continue;
		const found = parts.findIndex((each) => each.name.toLowerCase() === name.replace(side, other).toLowerCase());
		return found >= 0 ? found : null;
	}
	return null;
}

type Vec = readonly [number, number, number];
const less = (a: Vec, b: Vec): Vec => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
const dot = (a: Vec, b: Vec): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

/** Where on the sheet a place of the model lies, among some faces; null where none of them has it. */
function placeOnSheet(
	{ positions, uvs, indices }: LaidMesh,
	faces: readonly number[],
	at: Vec,
): readonly [number, number] | null {
	let best: readonly [number, number] | null = null;
	let nearest = Infinity;
	for (const face of faces) {
		const [a, b, c] = [0, 1, 2].map((k) => indices[face * 3 + k] as number) as [number, number, number];
		const corner = (v: number): Vec => [
			positions[v * 3] as number,
			positions[v * 3 + 1] as number,
			positions[v * 3 + 2] as number,
		];
		const [p, e, f] = [corner(a), less(corner(b), corner(a)), less(corner(c), corner(a))];
		const off = less(at, p);
		// Shares of the second and third corner of the place nearest in the face's plane.
		const [ee, ef, ff, oe, of] = [dot(e, e), dot(e, f), dot(f, f), dot(off, e), dot(off, f)];
		const det = ee * ff - ef * ef;
		if (!det) continue;
		const [s, t] = [(oe * ff - of * ef) / det, (of * ee - oe * ef) / det];
		if (s < -1e-4 || t < -1e-4 || s + t > 1 + 1e-4) continue;
		const away = less(off, [s * e[0] + t * f[0], s * e[1] + t * f[1], s * e[2] + t * f[2]]);
		const far = dot(away, away);
		if (far >= nearest) continue;
		nearest = far;
		const uv = (k: number): number =>
			(uvs[a * 2 + k] as number) * (1 - s - t) + (uvs[b * 2 + k] as number) * s + (uvs[c * 2 + k] as number) * t;
		best = [uv(0), uv(1)];
	}
	return best;
}

const facesOf = ({ mesh }: Scene, part: number): number[] => {
	const { firstFace, faces } = mesh.parts[part] as LaidMesh['parts'][number];
	return Array.from({ length: faces }, (_, i) => firstFace + i);
};

/** Paint that is repeated from one half of a model on the other. */
export function twins(workspace: Workspace): Pick<Engine, 'repeatOnTwin'> {
	const { kernels, scenes, surfaces, need, pushRecord, unders } = workspace;
	return {
		repeatOnTwin(modelId: Id, part: number, layers) {
			const scene = scenes.get(modelId);
			if (!scene) throw new CommandError('That model is not in this project any more. Nothing was changed.');
			const { mesh, model } = scene;
			const twin = twinOf(mesh, part);
			const [own, other] = [model.parts[part], twin === null ? undefined : model.parts[twin]];
			if (!own || twin === null || !other)
				throw new CommandError(
					`"${own?.name}" has no twin: it is found by its name, left for right. Nothing was changed.`,
				);
			if (own.sheet !== other.sheet)
				throw new CommandError(`"${own.name}" and "${other.name}" lie on two sheets. Nothing was changed.`);
			const sheet = need(own.sheet);
			const layer = layerOf(sheet, layers[sheet.id]);
			const refusal = whyNotPaint(workspace.project, sheet.id, layer?.id);
			if (refusal || !layer) return { ok: false, refusal: refusal as NonNullable<typeof refusal> };
			const surface = surfaces.get(surfaceFor(layer, false)) as Surface;
			const rect = { x: 0, y: 0, width: sheet.width, height: sheet.height };
			const block = readBlock(kernels, surface, rect);
			const from = block.data.slice();
			const ground = modelGround(scene, sheet);
			const [sources, targets] = [facesOf(scene, part), new Set(facesOf(scene, twin))];
			const changed = new Uint8Array(rect.width * rect.height);
			ground.facesIn(rect, 1).forEach((face, i) => {
				if (!targets.has(face)) return;
				const [x, y, z] = ground.placeOf(face, (i % rect.width) + 0.5, Math.floor(i / rect.width) + 0.5);
				const place = placeOnSheet(mesh, sources, [-x, y, z]);
				if (!place) return;
				const [u, v] = [Math.floor(place[0] * rect.width + 1e-3), Math.floor(place[1] * rect.height + 1e-3)];
				if (u < 0 || v < 0 || u >= rect.width || v >= rect.height) return;
				const at = (v * rect.width + u) * block.bytes;
				block.data.set(from.subarray(at, at + block.bytes), i * block.bytes);
				changed[i] = 1;
			});
			unders.drop();
			const record = createRecord(surface);
			writeBlock(kernels, record, block, changed);
			return { ok: true, dirty: pushRecord(`"${own.name}" on "${other.name}"`, [record], sheet.id) };
		},
	};
}
