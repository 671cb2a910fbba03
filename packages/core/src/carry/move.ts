import { faceAt } from '../atlas/index.ts';
import type { Place, PlaceMove } from '../document/index.ts';
import type { Passage } from './carry.ts';
import { wayOfFace } from './way.ts';

/** Where a place of a sheet of before lies now, and how what stands there is turned and sized; null where nothing lies. */
export const moveOf =
	(passages: readonly Passage[]): PlaceMove =>
	(x, y): Place | null => {
		for (const { before, now, faces, across } of passages) {
			const lay = faceOr(before.map, x, y);
			const face = across && lay >= 0 ? (across.newFaceOf[lay] as number) : lay;
			if (face < 0 || !faces.has(face)) continue;
			const found = wayOfFace(now.mesh, now.map, before.mesh, before.map, face);
			if (!found) continue;
			const [a, b, c, d, e, f] = found.way;
			const area = a * e - b * d;
			return {
				x: a * x + b * y + c,
				y: d * x + e * y + f,
				turn: (Math.atan2(d, a) * 180) / Math.PI,
				scale: Math.sqrt(Math.abs(area)),
				flipped: area < 0,
			};
		}
		return null;
	};

/** The face at a texel, or the one that lies nearest around it. */
function faceOr(map: Passage['before']['map'], x: number, y: number): number {
	const found = faceAt(map, x, y);
	for (let r = 1; found < 0 && r <= 24; r++)
		for (let k = 0; k < 16; k++) {
			const near = faceAt(map, x + r * Math.cos((k * Math.PI) / 8), y + r * Math.sin((k * Math.PI) / 8));
			if (near >= 0) return near;
		}
	return found;
}
