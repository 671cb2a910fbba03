import { TILE } from '../surface/index.ts';
import { modelGround } from './ground.ts';
import type { Sheet } from './project.ts';
import type { Scene } from './scene.ts';

/** Lines along texel edges are cut into pieces no longer than this, so that they follow the surface. */
const PIECE = 3;

/**
 * Closed lines of a sheet, with what they go round on their right, as pairs of places on the model: x, y, z each. Pieces
 * beside the model are left out.
 */
export function linesOnModel(scene: Scene, sheet: Sheet, lines: readonly Int32Array[]): Float32Array {
	const ground = modelGround(scene, sheet);
	const cols = Math.ceil(sheet.width / TILE);
	const faces = new Map<number, Int32Array>();
	const faceAt = (x: number, y: number): number => {
		if (x < 0 || y < 0 || x >= sheet.width || y >= sheet.height) return -1;
		const tile = Math.floor(y / TILE) * cols + Math.floor(x / TILE);
		let list = faces.get(tile);
		if (!list) {
			const rect = { x: (tile % cols) * TILE, y: Math.floor(tile / cols) * TILE, width: TILE, height: TILE };
			faces.set(tile, (list = ground.facesIn(rect, 1)));
		}
		return list[(y % TILE) * TILE + (x % TILE)] as number;
	};
	const out: number[] = [];
	for (const line of lines)
		for (let i = 0; i < line.length; i += 2) {
			const j = (i + 2) % line.length;
			const [ax, ay, bx, by] = [line[i] as number, line[i + 1] as number, line[j] as number, line[j + 1] as number];
			const long = Math.max(Math.abs(bx - ax), Math.abs(by - ay));
			const [dx, dy] = [Math.sign(bx - ax), Math.sign(by - ay)];
			for (let from = 0; from < long; from += PIECE) {
				const to = Math.min(long, from + PIECE);
				// The texel on the right of the piece's beginning.
				const face = faceAt(ax + dx * from - (dy > 0 || dx < 0 ? 1 : 0), ay + dy * from - (dx < 0 || dy < 0 ? 1 : 0));
				if (face < 0) continue;
				out.push(
					...ground.placeOf(face, ax + dx * from, ay + dy * from),
					...ground.placeOf(face, ax + dx * to, ay + dy * to),
				);
			}
		}
	return Float32Array.from(out);
}
