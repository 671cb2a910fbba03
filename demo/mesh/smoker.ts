/** The smoker can: body, lid and spout on the sheet "Can", bellows on the sheet "Bellows". One unit is about 20 cm. */
import type { LaidMesh } from '@eppu/core/mesh';
import { around, createMeshBuilder, type P3, type Rect } from './shapes.ts';

/** Rings of the body from the top: radius and height; beads at both rims. */
const rings: readonly (readonly [number, number])[] = [
	[0.5, 0.66],
	[0.535, 0.645],
	[0.535, 0.6],
	[0.5, 0.585],
	[0.495, 0.3],
	[0.5, -0.1],
	[0.508, -0.48],
	[0.54, -0.5],
	[0.54, -0.56],
	[0.5, -0.58],
];
const lid: readonly (readonly [number, number])[] = [
	[0.15, 1.06],
	[0.2, 1.0],
	[0.4, 0.83],
	[0.5, 0.735],
	[0.555, 0.7],
	[0.555, 0.655],
	[0.5, 0.65],
];

/** Along a profile by its length, so that texels are spread evenly. */
function lathe(profile: readonly (readonly [number, number])[]): {
	readonly n: number;
	at(v: number): readonly [number, number];
} {
	return {
		n: profile.length - 1,
		at: (v) => profile[Math.round(v * (profile.length - 1))] as readonly [number, number],
	};
}

/** Middle line of the spout: up from the lid, then bent forwards. */
const spoutMiddle = (v: number): { readonly p: P3; readonly turn: number } => {
	const turn = v * 0.95;
	return { p: [0, 1.0 + 0.62 * Math.sin(turn), 0.02 + 0.62 * (1 - Math.cos(turn))], turn };
};

const spoutPoint = (u: number, v: number, radius: number): P3 => {
	const { p, turn } = spoutMiddle(v);
	const a = 2 * Math.PI * u;
	const [side, ahead] = [radius * Math.sin(a), radius * Math.cos(a)];
	return [p[0] + side, p[1] - ahead * Math.sin(turn), p[2] + ahead * Math.cos(turn)];
};

export const canRects = {
	body: { x: 0.016, y: 0.016, w: 0.968, h: 0.4 },
	lid: { x: 0.016, y: 0.44, w: 0.64, h: 0.21 },
	spout: { x: 0.016, y: 0.675, w: 0.3, h: 0.24 },
	bottom: { x: 0.69, y: 0.44, w: 0.29, h: 0.29 },
	mouth: { x: 0.35, y: 0.675, w: 0.1, h: 0.1 },
} satisfies Record<string, Rect>;

export const bellowsRects = {
	near: { x: 0.025, y: 0.025, w: 0.42, h: 0.56 },
	far: { x: 0.48, y: 0.025, w: 0.42, h: 0.56 },
	leather: { x: 0.025, y: 0.62, w: 0.95, h: 0.2 },
	nearEdge: { x: 0.025, y: 0.85, w: 0.95, h: 0.04 },
	farEdge: { x: 0.025, y: 0.92, w: 0.95, h: 0.04 },
} satisfies Record<string, Rect>;

/** A board's outline: a rounded shield, 0..1 around, in its own plane. */
function boardOutline(t: number): readonly [number, number] {
	const a = 2 * Math.PI * t;
	const [c, s] = [Math.cos(a), Math.sin(a)];
	const square = (v: number): number => Math.sign(v) * Math.abs(v) ** 0.55;
	return [0.34 * square(c) * (1 - 0.18 * square(-s) * (s < 0 ? 1 : 0)), 0.5 * square(s)];
}

export function smokerMesh(): LaidMesh {
	const builder = createMeshBuilder();
	const tube = (profile: readonly (readonly [number, number])[], rect: Rect): void => {
		const { n, at } = lathe(profile);
		// Rows by the profile's length.
		const lengths = [0];
		for (let i = 1; i <= n; i++) {
			const [a, b] = [profile[i - 1] as readonly [number, number], profile[i] as readonly [number, number]];
			lengths.push((lengths[i - 1] as number) + Math.sqrt((a[0] - b[0]) ** 2 + (a[1] - b[1]) ** 2));
		}
		builder.grid(
			28,
			n,
			(u, v) => around(u, at(v)[0], at(v)[1]),
			rect,
			lengths.map((l) => l / (lengths[n] as number)),
		);
	};
	builder.part('Body');
	tube(rings, canRects.body);
	builder.fan(28, [0, -0.58, 0], (t) => around(-t, 0.5, -0.58), canRects.bottom);
	builder.part('Lid');
	tube(lid, canRects.lid);
	builder.part('Spout');
	builder.grid(18, 9, (u, v) => spoutPoint(u, 1 - v, 0.17 - 0.06 * (1 - v) + (v < 0.01 ? 0.014 : 0)), canRects.spout);
	builder.fan(18, spoutMiddle(0.97).p, (t) => spoutPoint(t, 1, 0.118), canRects.mouth);

	builder.part('Bellows');
	// Two boards hinged below: the far one leans out at the top. x outwards, the plane spans z and y.
	const board = (t: number, x: number, lean: number, grow = 1): P3 => {
		const [z, y] = boardOutline(t);
		return [x + lean * (y * grow + 0.5), -0.02 + y * grow, -z * grow];
	};
	const n = 32;
	const side = (x: number, lean: number, thick: number, face: Rect, edge: Rect, outer: 1 | -1): void => {
		const [a, b] = outer > 0 ? [x, x + thick] : [x, x - thick];
		builder.fan(n, [b + lean * 0.5, -0.02, 0], (t) => board(outer > 0 ? t : -t, b, lean), face);
		builder.grid(n, 1, (u, v) => board(u, outer > 0 ? (v < 0.5 ? b : a) : v < 0.5 ? a : b, lean), edge);
	};
	side(0.66, 0, 0.07, bellowsRects.near, bellowsRects.nearEdge, -1);
	side(0.74, 0.34, 0.07, bellowsRects.far, bellowsRects.farEdge, 1);
	const pleats = 6;
	builder.grid(
		n,
		pleats * 2,
		(u, v) => {
			const fold = Math.round(v * pleats * 2) % 2 === 0 ? 0.94 : 0.8;
			return board(u, 0.74 - 0.08 * v, 0.34 * (1 - v), fold);
		},
		bellowsRects.leather,
	);
	return builder.mesh();
}
