/** What is told of a model: each finding on a model made to have it, none on a clean one; figures against plain geometry. */
import { expect, test } from '@jest/globals';
import fc from 'fast-check';
import { type LaidMesh, topologyOf } from '../src/mesh/index.ts';
import { type Finding, findingKinds, type MeshReport, reportOf } from '../src/report/index.ts';
import { box } from './oracle/meshes.ts';

const reportOn = (mesh: LaidMesh, width = 256, height = 256, bleed = 4): MeshReport =>
	reportOf({
		mesh,
		topology: topologyOf(mesh),
		sheetOfPart: mesh.parts.map(() => 0),
		sheets: [{ name: 'Sheet', width, height, bleed }],
	});
test('how near islands lie is what looking at all their texels finds', () => {
	const square = (x: number, y: number, w: number, h: number): Corner[] => {
		const at = (u: number, v: number): Corner => [u, v, x, (x + u * w) / 256, (y + v * h) / 256];
		return [at(0, 0), at(1, 0), at(1, 1), at(0, 0), at(1, 1), at(0, 1)];
	};
	fc.assert(
		fc.property(fc.integer({ min: 1, max: 40 }), fc.integer({ min: 0, max: 60 }), (apart, down) => {
			const mesh = soup(square(20, 20, 60, 50), square(80 + apart, 20 + down, 40, 50));
			const { faces } = reportOn(mesh);
			const gap = down < 50 ? apart : Math.hypot(apart, down - 50);
			expect(Math.abs((faces.gap[0] as number) - gap)).toBeLessThanOrEqual(1.5);
			expect(faces.gap[3]).toBe(faces.gap[0]);
			const told = reportOn(mesh, 256, 256, 16).findings.some(({ kind }) => kind === 'near');
			if (Math.abs(gap - 15) > 1.5) expect(told).toBe(gap < 15);
		}),
		{ numRuns: 40 },
	);
	const alone = reportOn(soup(square(20, 20, 60, 50)), 256, 256, 8);
	expect(alone.faces.gap[0]).toBe(Infinity);
	expect(alone.findings.map(({ kind }) => kind)).not.toContain('near');
});
const kinds = (mesh: LaidMesh): string[] => reportOn(mesh).findings.map(({ kind }) => kind);
const found = (mesh: LaidMesh, kind: string): Finding => {
	const finding = reportOn(mesh).findings.find((each) => each.kind === kind);
	if (!finding) throw new Error(`no ${kind}`);
	return finding;
};

type Corner = readonly [x: number, y: number, z: number, u: number, v: number];
/** Triangles, three corners each; every corner a vertex of its own. */
const soup = (...parts: readonly (readonly Corner[])[]): LaidMesh => {
	const corners = parts.flat();
	let at = 0;
	return {
		positions: Float32Array.from(corners.flatMap((corner) => corner.slice(0, 3))),
		uvs: Float32Array.from(corners.flatMap((corner) => corner.slice(3))),
		normals: null,
		indices: Uint32Array.from(corners, (_, i) => i),
		parts: parts.map((part, i) => {
			const firstFace = at;
			at += part.length / 3;
			return { name: `Part ${i + 1}`, firstFace, faces: part.length / 3 };
		}),
	};
};
/** A square facing +z, its corners at (x, y), laid at (u, v) with sides of `size`; v runs downwards. */
const square = (x: number, y: number, u: number, v: number, size = 0.2, flip = false): Corner[] => {
	const corner = (i: number, j: number): Corner => [x + i, y + j, 0, u + (flip ? 1 - i : i) * size, v + (1 - j) * size];
	const [a, b, c, d] = [corner(0, 0), corner(1, 0), corner(1, 1), corner(0, 1)];
	return [a, b, c, a, c, d];
};

test('a closed box with islands apart has nothing to tell', () => {
	expect(kinds(box())).toEqual([]);
	const { parts, fill } = reportOn(box());
	expect(parts).toMatchObject([{ name: 'Box', islands: 6 }]);
	// Six islands of 0.26 by 0.26.
	expect(fill[0]).toBeCloseTo(6 * 0.26 * 0.26, 5);
	expect(parts[0]?.density).toBeCloseTo((0.26 * 256) / 2, 3);
	expect(parts[0]?.stretch).toBeCloseTo(1, 4);
});

test('every kind is found on a model that has it, where it has it, and said with the part and a way out', () => {
	const clean = square(0, 0, 0.1, 0.1);
	const open = ['open'];
	expect(kinds(soup(clean))).toEqual(open);
	const cases: readonly (readonly [kind: string, mesh: LaidMesh, faces: readonly number[], words: RegExp])[] = [
		['bare', soup(clean, square(2, 0, 0, 0, 0)), [2, 3], /2 faces of "Part 2" have no area on a sheet/],
		['outside', soup(clean, square(2, 0, 0.9, 0.5)), [2, 3], /2 faces of "Part 2" reach over the border/],
		['mirrored', soup(clean, square(2, 0, 0.5, 0.5, 0.2, true)), [2, 3], /1 island of "Part 2" lies mirrored/],
		['overlap', soup(clean, square(2, 0, 0.12, 0.14)), [0, 1, 2, 3], /4 faces in 2 islands of "Part 1", "Part 2"/],
		[
			'flat',
			soup([...clean, [5, 5, 0, 0.8, 0.8], [5, 5, 0, 0.9, 0.8], [5, 5, 0, 0.8, 0.9]]),
			[2],
			/1 face of "Part 1" has no area/,
		],
		['doubled', soup(clean, square(0, 0, 0.5, 0.5)), [0, 1, 2, 3], /4 faces of "Part 1", "Part 2" lie in one another/],
		[
			'forked',
			soup(
				clean,
				[
					[0, 0, 0, 0.5, 0.5],
					[1, 0, 0, 0.7, 0.5],
					[0, 0, 1, 0.5, 0.3],
				],
				[
					[0, 0, 0, 0.5, 0.8],
					[1, 0, 0, 0.7, 0.8],
					[0, 0, -1, 0.5, 0.6],
				],
			),
			[0, 2, 3],
			/Three faces or more meet at edges of "Part 1"/,
		],
		[
			'turned',
			soup([clean[0], clean[1], clean[2], clean[0], clean[5], clean[4]] as Corner[]),
			[0, 1],
			/2 faces of "Part 1" look another way/,
		],
		[
			'starved',
			soup(square(0, 0, 0.1, 0.1, 0.3), square(2, 0, 0.5, 0.1, 0.3), square(4, 0, 0.9, 0.9, 0.05)),
			[4, 5],
			/"Part 3" has 6\.0 times fewer texels/,
		],
		[
			'near',
			soup(square(0, 0, 0.1, 0.1, 0.3), square(2, 0, 0.405, 0.1, 0.3)),
			[0, 1, 2, 3],
			/2 islands of "Part 1", "Part 2" lie nearer to another than their bleed: \d texels/,
		],
		[
			'stretched',
			soup(clean.map(([x, y, z, u, v]): Corner => [x * 2, y, z, u, v])),
			[0, 1],
			/Texels of "Part 1" are 2\.0 times as long as wide/,
		],
	];
	for (const [kind, mesh, faces, words] of cases) {
		const finding = found(mesh, kind);
		expect([kind, [...finding.faces]]).toEqual([kind, [...faces]]);
		expect(finding.words).toMatch(words);
		expect(finding.todo).toMatch(/\.$/);
		expect(finding.words).not.toMatch(/undefined|NaN|""/);
	}
	const tried = new Set([...cases.map(([kind]) => kind), 'open']);
	expect(findingKinds.map(({ kind }) => kind).filter((kind) => !tried.has(kind))).toEqual([]);
	expect(found(soup(clean), 'open').words).toMatch(/4 edges of "Part 1" are open/);
});

test('texels along a unit and their stretch are those of the map from the sheet to the surface', () => {
	const real = (min: number, max: number) => fc.double({ min, max, noNaN: true });
	fc.assert(
		fc.property(
			real(0.2, 3),
			real(0.2, 3),
			real(0, 6.28),
			real(-1, 1),
			real(0, 6.28),
			fc.constantFrom([256, 256], [512, 128], [64, 320]),
			(wide, high, turn, tilt, lay, [width, height]) => {
				// Texels first: a triangle of 20 by 16 of them, turned on the sheet; then stretched, turned and tilted in space.
				const onSheet = [
					[0, 0],
					[20, 0],
					[6, -16],
				].map(([x, y]) => [
					(x as number) * Math.cos(lay) - (y as number) * Math.sin(lay) + 30,
					(x as number) * Math.sin(lay) + (y as number) * Math.cos(lay) + 30,
				]);
				const corners = onSheet.map(([u, v]): Corner => {
					const [x, y] = [((u as number) - 30) * wide, -((v as number) - 30) * high];
					const [a, b] = [x * Math.cos(turn) - y * Math.sin(turn), x * Math.sin(turn) + y * Math.cos(turn)];
					return [
						a,
						b * Math.cos(tilt),
						b * Math.sin(tilt),
						(u as number) / (width as number),
						(v as number) / (height as number),
					];
				});
				const { faces } = reportOn(soup(corners), width, height);
				expect(faces.density[0]).toBeCloseTo(1 / Math.sqrt(wide * high), 3);
				expect((faces.stretch[0] as number) / (Math.max(wide, high) / Math.min(wide, high))).toBeCloseTo(1, 2);
				expect(Math.abs(faces.texels[0] as number)).toBeCloseTo(160, 1);
				expect(faces.texels[0]).toBeLessThan(0);
			},
		),
	);
});
