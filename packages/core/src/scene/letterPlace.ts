import type { Sheet } from '../document/index.ts';
import { modelGround } from './modelGround.ts';
import type { Scene } from './scene.ts';

/** Where lettering stands on an island so that it reads right on the model. */
export interface LetterPlace {
	readonly x: number;
	readonly y: number;
	/** Degrees. */
	readonly turn: number;
	readonly mirrored: boolean;
	/** Room across, texels. */
	readonly box: number;
}

/** The middle of the island at a texel, upright as the model stands, mirrored where the island is; null beside the model. */
export function letterPlace(scene: Scene, sheet: Sheet, x: number, y: number): LetterPlace | null {
	const spot = scene.spotOn(sheet, null, x, y);
	if (!spot) return null;
	const { mesh, topology } = scene;
	const ground = modelGround(scene, sheet);
	// Up is where the model's y grows; on a level face, away from whoever stands in front of it.
	let [ux, uy] = ground.slopeOf(spot.face, 1);
	if (Math.hypot(ux, uy) < 0.01) {
		const [zx, zy] = ground.slopeOf(spot.face, 2);
		[ux, uy] = [-zx, -zy];
	}
	const long = Math.hypot(ux, uy) || 1;
	const angle = Math.atan2(ux / long, -uy / long);
	const texel = (k: number): [number, number] => {
		const v = mesh.indices[spot.face * 3 + k] as number;
		return [(mesh.uvs[v * 2] as number) * sheet.width, (mesh.uvs[v * 2 + 1] as number) * sheet.height];
	};
	const [a, b, c] = [texel(0), texel(1), texel(2)];
	const area = (b[0] - a[0]) * (c[1] - a[1]) - (c[0] - a[0]) * (b[1] - a[1]);
	const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
	let [u0, u1, v0, v1] = [Infinity, -Infinity, Infinity, -Infinity];
	topology.islandOfFace.forEach((island, face) => {
		if (island !== spot.island) return;
		for (let k = 0; k < 3; k++) {
			const v = mesh.indices[face * 3 + k] as number;
			const [px, py] = [(mesh.uvs[v * 2] as number) * sheet.width, (mesh.uvs[v * 2 + 1] as number) * sheet.height];
			const [u, w] = [px * cos + py * sin, -px * sin + py * cos];
			[u0, u1, v0, v1] = [Math.min(u0, u), Math.max(u1, u), Math.min(v0, w), Math.max(v1, w)];
		}
	});
	const [mu, mv] = [(u0 + u1) / 2, (v0 + v1) / 2];
	return {
		x: mu * cos - mv * sin,
		y: mu * sin + mv * cos,
		turn: Math.round((angle * 1800) / Math.PI) / 10 + 0,
		// Seen from outside, faces run counter-clockwise; with v downwards that is an area below 0.
		mirrored: area > 0,
		box: u1 - u0,
	};
}
