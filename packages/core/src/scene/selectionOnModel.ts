import type { Sheet } from '../document/index.ts';
import { contourOf } from '../raster/index.ts';
import { TILE } from '../surface/index.ts';
import { modelGround } from './modelGround.ts';
import type { Scene } from './scene.ts';

/** Lines along texel edges are cut into pieces no longer than this, so that they follow the surface. */
const PIECE = 3;

/**
 * The border of what is selected (A8 of the whole sheet, 128 or more is in) as pairs of places on the model: x, y, z
 * each. Where an island ends and the selection goes on over the seam there is no border.
 */
export function linesOnModel(scene: Scene, sheet: Sheet, tone: Uint8Array): Float32Array {
	const { width, height } = sheet;
	const ground = modelGround(scene, sheet);
	const { faceOfTexel } = scene.mapOf(sheet);
	const seams = scene.seamsOf(sheet);
	const cols = Math.ceil(width / TILE);
	const inside = tone.map((v, i) => (faceOfTexel[i] ? v : 0));
	/** Gutter texels of a tile and where on the sheet the surface goes on behind each. */
	const partners = new Map<number, Map<number, number>>();
	const goesOn = (x: number, y: number): boolean => {
		if (x < 0 || y < 0 || x >= width || y >= height || faceOfTexel[y * width + x]) return false;
		const tile = Math.floor(y / TILE) * cols + Math.floor(x / TILE);
		let list = partners.get(tile);
		if (!list) {
			const found = seams.partnersOf(tile);
			list = new Map();
			found.place.forEach((place, i) => {
				list?.set(place, Math.floor(found.y[i] as number) * width + Math.floor(found.x[i] as number));
			});
			partners.set(tile, list);
		}
		const there = list.get((y % TILE) * TILE + (x % TILE));
		return there !== undefined && (tone[there] as number) >= 128;
	};
	const out: number[] = [];
	for (const line of contourOf(inside, width, height))
		for (let i = 0; i < line.length; i += 2) {
			const j = (i + 2) % line.length;
			const [ax, ay, bx, by] = [line[i] as number, line[i + 1] as number, line[j] as number, line[j + 1] as number];
			const long = Math.max(Math.abs(bx - ax), Math.abs(by - ay));
			const [dx, dy] = [Math.sign(bx - ax), Math.sign(by - ay)];
			for (let from = 0; from < long; from += PIECE) {
				const to = Math.min(long, from + PIECE);
				const [x, y] = [ax + dx * from, ay + dy * from];
				// The texels on the right and on the left of the piece's beginning.
				const [rx, ry] = [x - (dy > 0 || dx < 0 ? 1 : 0), y - (dx < 0 || dy < 0 ? 1 : 0)];
				const [lx, ly] = [rx + dy, ry - dx];
				const face = (faceOfTexel[ry * width + rx] as number) - 1;
				if (face < 0 || goesOn(lx, ly)) continue;
				out.push(...ground.placeOf(face, x, y), ...ground.placeOf(face, ax + dx * to, ay + dy * to));
			}
		}
	return Float32Array.from(out);
}
