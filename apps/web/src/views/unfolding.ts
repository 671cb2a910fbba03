import { type Camera, cameraBasis } from '@eppu/core/projection';
import type { ShownModel } from '../studio/told.ts';

interface Size {
	readonly width: number;
	readonly height: number;
}

/** How far apart sheets lie, in shares of a sheet. */
const GAP = 0.06;
/** How much of the view they take. */
const FULL = 0.86;

/**
 * Where each vertex of a model lies once all of it is laid flat: its sheets beside or below each other, whichever shows
 * them larger, on a plane that faces a camera and fills its view of `aspect`. Vertices are split where their places on
 * the sheet differ, so each has one.
 */
export function flatPlaces(
	model: ShownModel,
	sizeOf: (sheet: string) => Size | undefined,
	from: Camera,
	aspect: number,
): Float32Array {
	const { right, up } = cameraBasis(from);
	const { uvs } = model;
	const sheets = [...new Set(model.parts.map(({ sheet }) => sheet))].map((id) => {
		const { width, height } = sizeOf(id) ?? { width: 1, height: 1 };
		return { id, wide: width / Math.max(width, height), high: height / Math.max(width, height) };
	});
	const view = 2 * from.distance * Math.tan((from.fov * Math.PI) / 360) * FULL;
	const ways = (['wide', 'high'] as const).map((along) => {
		const across = along === 'wide' ? 'high' : 'wide';
		const long = sheets.reduce((sum, sheet) => sum + sheet[along] + GAP, -GAP);
		const most = Math.max(...sheets.map((sheet) => sheet[across]));
		const [w, h] = along === 'wide' ? [long, most] : [most, long];
		return { along, long, scale: Math.min((view * aspect) / w, view / h) };
	});
	const { along, long, scale } = ways.reduce((a, b) => (b.scale > a.scale ? b : a));
	const starts = new Map<string, number>();
	let start = -long / 2;
	for (const sheet of sheets) {
		starts.set(sheet.id, start);
		start += sheet[along] + GAP;
	}
	const out = new Float32Array(model.positions.length);
	for (const part of model.parts) {
		const { id, wide, high } = sheets.find((each) => each.id === part.sheet) as (typeof sheets)[number];
		const at = starts.get(id) as number;
		const [left, top] = along === 'wide' ? [at, -high / 2] : [-wide / 2, at];
		for (let i = part.firstFace * 3; i < (part.firstFace + part.faces) * 3; i++) {
			const v = model.indices[i] as number;
			const x = (left + (uvs[v * 2] as number) * wide) * scale;
			const y = (top + (uvs[v * 2 + 1] as number) * high) * scale;
			for (let k = 0; k < 3; k++)
				out[v * 3 + k] = (from.target[k] as number) + x * (right[k] as number) - y * (up[k] as number);
		}
	}
	return out;
}

/** Places a share of the way from one set to another. */
export function between(from: Float32Array, to: Float32Array, share: number, out: Float32Array): void {
	for (let i = 0; i < out.length; i++) out[i] = (from[i] as number) + ((to[i] as number) - (from[i] as number)) * share;
}
