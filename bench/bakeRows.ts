/** What rays against a model cost, beside the same rays in a common package. */
import { createRays, domeOf, PLACE_NUMBERS } from '@eppu/core/bake';
import type { Mesh } from '@eppu/core/mesh';
import type { Kernels } from '@eppu/kernels';
import { BufferAttribute, BufferGeometry, DoubleSide, Ray, Vector3 } from 'three';
import { MeshBVH } from 'three-mesh-bvh';
import { lump } from '../packages/core/test/oracle/shapes.ts';
import { undisturbed } from './measure.ts';
import { floor, type Report } from './rows.ts';

const RUNS = 3;
const PLACES = 20_000;
const RAYS = 64;
/** The other takes so much longer that a part of them must do. */
const PART = 20;
const LEAST_TIMES = 14;

/** Middles of faces over and over, each as its face looks. */
function placesOn({ positions, indices }: Mesh): Float32Array {
	const faces = indices.length / 3;
	const out = new Float32Array(PLACES * PLACE_NUMBERS);
	for (let n = 0; n < PLACES; n++) {
		const face = (n * 7) % faces;
		const [a, b, c] = [0, 1, 2].map((k) =>
			new Vector3().fromArray(positions, (indices[face * 3 + k] as number) * 3),
		) as [Vector3, Vector3, Vector3];
		const normal = b.clone().sub(a).cross(c.clone().sub(a)).normalize().toArray();
		const middle = a
			.add(b)
			.add(c)
			.multiplyScalar(1 / 3);
		out.set([...middle.toArray(), ...normal, 1, 0, ...normal, 0], n * PLACE_NUMBERS);
	}
	return out;
}

export async function bakeRows(kernels: Kernels, report: Report): Promise<void> {
	const mesh = lump(72, 36);
	const places = placesOn(mesh);
	const rays = createRays(kernels, mesh);
	const of = { rays: RAYS, reach: 1e9, fades: false, spread: 90 };
	const own = rays.occlusion(places, of);

	const geometry = new BufferGeometry();
	geometry.setAttribute('position', new BufferAttribute(mesh.positions, 3));
	geometry.setIndex(new BufferAttribute(mesh.indices.slice(), 1));
	const tree = new MeshBVH(geometry);
	const ways = domeOf(RAYS);
	let [differ, n] = [0, 0];
	const start = performance.now();
	for (let i = 0; i < PLACES / PART; i++, n++) {
		const at = places.subarray(i * PLACE_NUMBERS, (i + 1) * PLACE_NUMBERS);
		const normal = new Vector3(at[3], at[4], at[5]);
		const [x, y, z] = normal.toArray() as [number, number, number];
		const sign = z >= 0 ? 1 : -1;
		const a = -1 / (sign + z);
		const b = x * y * a;
		const [t, u] = [new Vector3(1 + sign * x * x * a, sign * b, -sign * x), new Vector3(b, sign + y * y * a, -y)];
		const origin = new Vector3(at[0], at[1], at[2]).addScaledVector(normal, 1e-4);
		let hidden = 0;
		for (let r = 0; r < RAYS; r++) {
			const way = new Vector3()
				.addScaledVector(t, ways[r * 3] as number)
				.addScaledVector(u, ways[r * 3 + 1] as number)
				.addScaledVector(normal, ways[r * 3 + 2] as number);
			if (tree.raycastFirst(new Ray(origin, way), DoubleSide)) hidden++;
		}
		differ += Math.abs(hidden / RAYS - (own[i] as number));
	}
	const other = (RAYS * PLACES) / PART / (performance.now() - start) / 1000;
	let fastest = Infinity;
	await report(
		'bake.rays',
		async () => {
			const ms = await undisturbed(RUNS, () => void rays.occlusion(places, of));
			fastest = Math.min(fastest, ms);
			return ms;
		},
		null,
		`${((PLACES * RAYS) / 1e6).toFixed(2)} million rays at ${mesh.indices.length / 3} faces; three-mesh-bvh ${other.toFixed(2)} million a second, mean difference ${((255 * differ) / n).toFixed(2)}/255`,
	);
	rays.drop();
	const times = (PLACES * RAYS) / fastest / 1000 / other;
	await report(
		'bake.rays.times',
		async () => times * (await floor()),
		null,
		`ratio is how many times as many rays as three-mesh-bvh a second, one thread each; at least ${LEAST_TIMES} is wanted: ${times >= LEAST_TIMES ? 'holds' : 'MISSED'}`,
	);
}
