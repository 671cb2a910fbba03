/** What independent writers make of OBJ and GLB, and what nobody should: nothing is lost without a word. */
import { Document, WebIO } from '@gltf-transform/core';
import { describe, expect, test } from '@jest/globals';
import fc from 'fast-check';
import {
	type LaidMesh,
	type MeshResult,
	readGlb,
	readModel,
	readObj,
	topologyOf,
	writeGlb,
} from '../src/mesh/index.ts';
import { watchCosts } from './oracle/costs.ts';
import { box } from './oracle/meshes.ts';

const utf8 = (text: string): Uint8Array => new TextEncoder().encode(text);
const good = (result: MeshResult): { mesh: LaidMesh; notes: readonly string[] } => {
	if (!result.ok) throw new Error(result.error.text);
	return result;
};
/** Area of the faces on the sheet, and how much of it runs clockwise. */
const areaOf = (mesh: LaidMesh): { all: number; turned: number } => {
	let [all, turned] = [0, 0];
	for (let i = 0; i < mesh.indices.length; i += 3) {
		const [a, b, c] = [0, 1, 2].map((k) => (mesh.indices[i + k] as number) * 2) as [number, number, number];
		const { uvs } = mesh;
		const at = (j: number): number => uvs[j] as number;
		const area = ((at(b) - at(a)) * (at(c + 1) - at(a + 1)) - (at(c) - at(a)) * (at(b + 1) - at(a + 1))) / 2;
		all += Math.abs(area);
		if (area > 0) turned += area;
	}
	return { all, turned };
};

describe('OBJ as others write it', () => {
	const square = 'v 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nvt 0 0\nvt 1 0\nvt 1 1\nvt 0 1\n';
	test('colours at vertices are told; weights are none', () => {
		const faces = 'vt 0 0\nvt 1 0\nvt 1 1\nf 1/1 2/2 3/3\n';
		const notesOf = (tail: string): string =>
			good(readObj(`v 0 0 0${tail}\nv 1 0 0${tail}\nv 1 1 0${tail}\n${faces}`, 'a.obj')).notes.join();
		expect(notesOf(' 0.5 0.25 1')).toMatch(/vertex colours/);
		expect(notesOf(' 1.0')).toBe('');
	});
	test('polygons that turn inwards are cut within themselves', () => {
		// An L: a fan from its first corner would lie partly outside.
		const points = [
			[0.2, 0.2],
			[0.5, 0.2],
			[0.5, 0.4],
			[0.8, 0.4],
			[0.8, 0.8],
			[0.2, 0.8],
		];
		const area = 0.6 * 0.6 - 0.3 * 0.2;
		for (let first = 0; first < 6; first++)
			for (const way of [1, -1]) {
				const ring = Array.from({ length: 6 }, (_, i) => points[(first + way * i + 12) % 6] as number[]);
				const text = [
					...ring.map(([x, y]) => `v ${x} ${y} 0`),
					...ring.map(([x, y]) => `vt ${x} ${y}`),
					`f ${ring.map((_, i) => `${i + 1}/${i + 1}`).join(' ')}`,
				].join('\n');
				const { all, turned } = areaOf(good(readObj(text, 'l.obj')).mesh);
				expect(all).toBeCloseTo(area, 6);
				// All faces run as the polygon does.
				expect(turned).toBeCloseTo(way === 1 ? 0 : area, 6);
			}
	});
	test.each([
		['Windows line ends', `${square}f 1/1 2/2 3/3 4/4\n`.replaceAll('\n', '\r\n')],
		['the old line ends', `${square}f 1/1 2/2 3/3 4/4\n`.replaceAll('\n', '\r')],
		['lines that go on', `${square}f 1/1 2/2 \\\n 3/3 4/4\n`],
		['comments behind what counts', `${square}f 1/1 2/2 3/3 4/4 # the front\n# f 9 9 9\n`],
		['relative references', `${square}f -4/-4 -3/-3 -2/-2 -1/-1\n`],
		['no newline at the end', `${square}f 1/1 2/2 3/3 4/4`],
	])('%s', async (_name, text) => {
		const { mesh } = good(await readModel(utf8(text), 'a.obj'));
		expect(mesh.indices).toHaveLength(6);
		expect(areaOf(mesh).all).toBeCloseTo(1, 6);
	});
	test('UTF-16, whichever way round', async () => {
		const text = `${square}o Kübel\nf 1/1 2/2 3/3 4/4\n`;
		for (const [mark, big] of [
			[[0xff, 0xfe], false],
			[[0xfe, 0xff], true],
		] as const) {
			const bytes = new Uint8Array(2 + text.length * 2);
			bytes.set(mark);
			for (let i = 0; i < text.length; i++) new DataView(bytes.buffer).setUint16(2 + i * 2, text.charCodeAt(i), !big);
			expect(good(await readModel(bytes, 'a.obj')).mesh.parts[0]?.name).toBe('Kübel');
		}
	});
	test('equal names stay apart, materials are parts, a group that is named again goes on', () => {
		const face = 'f 1/1 2/2 3/3\n';
		const names = (text: string): [string, number][] =>
			good(readObj(square + text, 'a.obj')).mesh.parts.map((part) => [part.name, part.faces]);
		expect(names(`o Wheel\n${face}o Wheel\n${face}`)).toEqual([
			['Wheel', 1],
			['Wheel 2', 1],
		]);
		expect(names(`o Cart\nusemtl Wood\n${face}usemtl Iron\n${face}usemtl Wood\n${face}`)).toEqual([
			['Cart · Wood', 2],
			['Cart · Iron', 1],
		]);
		expect(names(`g Left\n${face}g Right\n${face}g Left\n${face}`)).toEqual([
			['Left', 2],
			['Right', 1],
		]);
		expect(names(`o Jar\nusemtl Glass\n${face}`)).toEqual([['Jar', 1]]);
	});
	test('what is wrong is named: references past the start, faces of two corners', () => {
		for (const [face, words] of [
			['f -9/1 1/1 2/2', /names a corner which the file does not hold/],
			['f 0/1 1/1 2/2', /names a corner which the file does not hold/],
			['f 1/1 2/2', /fewer than three corners/],
		] as const) {
			const result = readObj(`${square}${face}\n`, 'bad.obj');
			expect(result.ok ? '' : result.error.text).toMatch(words);
		}
	});
	test('one part without UVs does not refuse the rest; it is told', () => {
		const { mesh, notes } = good(readObj(`${square}o Lid\nf 1/1 2/2 3/3\no Plug\nf 1 2 3\n`, 'a.obj'));
		expect(mesh.parts.map((part) => part.name)).toEqual(['Lid', 'Plug']);
		expect(notes.join()).toMatch(/"Plug" has no UVs/);
	});
});

describe('UVs outside 0–1 repeat the sheet, and say so', () => {
	const quad = (u0: number, v0: number, u1: number, v1: number): string =>
		`v 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nvt ${u0} ${v0}\nvt ${u1} ${v0}\nvt ${u1} ${v1}\nvt ${u0} ${v1}\nf 1/1 2/2 3/3 4/4\n`;
	test.each([
		['an island one sheet to the right', quad(1.1, 0.1, 1.9, 0.9), 0.64, /moved onto it/],
		['an island below and left', quad(-1.9, -0.9, -1.1, -0.1), 0.64, /moved onto it/],
		['a face over the border', quad(0.5, 0.2, 1.5, 0.8), 0.6, /run over the sheet’s border/],
		['a floor of three by three', quad(0, 0, 3, 3), 9, /run over the sheet’s border/],
	])('%s', (_name, text, area, words) => {
		const { mesh, notes } = good(readObj(text, 'a.obj'));
		expect(notes.join()).toMatch(words);
		expect(mesh.uvs.every((v) => v >= -1e-5 && v <= 1 + 1e-5)).toBe(true);
		expect(areaOf(mesh).all).toBeCloseTo(area, 4);
		// Nothing of the surface is gone.
		let surface = 0;
		for (let i = 0; i < mesh.indices.length; i += 3) {
			const [a, b, c] = [0, 1, 2].map((k) => (mesh.indices[i + k] as number) * 3) as [number, number, number];
			const p = (j: number): number => mesh.positions[j] as number;
			surface += Math.abs((p(b) - p(a)) * (p(c + 1) - p(a + 1)) - (p(c) - p(a)) * (p(b + 1) - p(a + 1))) / 2;
		}
		expect(surface).toBeCloseTo(1, 5);
	});
	test('within, nothing is said and nothing is changed', () => {
		expect(good(readObj(quad(0, 0, 1, 1), 'a.obj')).notes).toEqual([]);
	});
});

describe('islands', () => {
	test('of a double-sided mesh: front and back are one each, and no paint runs from one to the other', () => {
		const strip = [0, 1, 2, 3].flatMap((x) => [`v ${x} 0 0`, `v ${x} 1 0`]);
		const uv = [0, 0.5].flatMap((v) => [0, 1, 2, 3].flatMap((x) => [`vt ${x / 4} ${v}`, `vt ${x / 4} ${v + 0.4}`]));
		const faces = [0, 1, 2].flatMap((i) => {
			const at = [i * 2 + 1, i * 2 + 3, i * 2 + 4, i * 2 + 2];
			return [
				`f ${at.map((k) => `${k}/${k}`).join(' ')}`,
				`f ${[...at]
					.reverse()
					.map((k) => `${k}/${k + 8}`)
					.join(' ')}`,
			];
		});
		const { mesh } = good(readObj([...strip, ...uv, ...faces].join('\n'), 'a.obj'));
		const { islands, seams } = topologyOf(mesh);
		expect(islands).toBe(2);
		// Only the rim is a seam: there front meets back.
		expect(seams).toHaveLength(8);
	});
	test('where three walls meet at an edge each keeps its own', () => {
		const text =
			'v 0 0 0\nv 0 1 0\nv 1 0 0\nv -1 0 0\nv 0 0 1\nvt 0 0\nvt 0 .3\nvt .3 0\nvt .5 .5\nvt .5 .8\nvt .8 .5\nvt .9 .9\nvt .9 1\nvt 1 .9\nf 1/1 2/2 3/3\nf 2/5 1/4 4/6\nf 1/7 2/8 5/9\n';
		expect(topologyOf(good(readObj(text, 'a.obj')).mesh).islands).toBe(3);
	});
});

/** A quad of four corners in a document of its own, to be changed. */
function quadDocument(): {
	document: Document;
	primitive: ReturnType<Document['createPrimitive']>;
	node: ReturnType<Document['createNode']>;
} {
	const document = new Document();
	const buffer = document.createBuffer();
	const list = (type: 'VEC2' | 'VEC3', values: number[]) =>
		document.createAccessor().setType(type).setArray(new Float32Array(values)).setBuffer(buffer);
	const primitive = document
		.createPrimitive()
		.setAttribute('POSITION', list('VEC3', [0, 0, 0, 1, 0, 0, 0, 1, 0, 1, 1, 0]))
		.setAttribute('TEXCOORD_0', list('VEC2', [0, 1, 1, 1, 0, 0, 1, 0]))
		.setIndices(
			document
				.createAccessor()
				.setType('SCALAR')
				.setArray(new Uint16Array([0, 1, 2, 3]))
				.setBuffer(buffer),
		)
		.setMode(5);
	const node = document.createNode('Quad').setMesh(document.createMesh('Quad').addPrimitive(primitive));
	document.createScene().addChild(node);
	return { document, primitive, node };
}
const written = (document: Document): Promise<Uint8Array> => new WebIO().writeBinary(document);
/** A GLB with other JSON. */
function edited(bytes: Uint8Array, change: (json: Record<string, never>) => void): Uint8Array {
	const view = new DataView(bytes.buffer, bytes.byteOffset);
	const length = view.getUint32(12, true);
	const json = JSON.parse(new TextDecoder().decode(bytes.subarray(20, 20 + length)));
	change(json);
	const text = utf8(JSON.stringify(json));
	const padded = Math.ceil(text.length / 4) * 4;
	const rest = bytes.subarray(20 + length);
	const out = new Uint8Array(20 + padded + rest.length).fill(32);
	out.set(bytes.subarray(0, 12));
	out.set(text, 20);
	out.set(rest, 20 + padded);
	const head = new DataView(out.buffer);
	head.setUint32(8, out.length, true);
	head.setUint32(12, padded, true);
	head.setUint32(16, 0x4e4f534a, true);
	return out;
}
// biome-ignore lint/suspicious/noExplicitAny: JSON of any shape is what is tried.
type Any = any;

describe('GLB as others write it', () => {
	test.each([
		[4, [0, 1, 2, 2, 1, 3]],
		[5, [0, 1, 2, 3]],
		[6, [0, 1, 3, 2]],
	])('faces listed the way of mode %d', async (mode, indices) => {
		const { document, primitive } = quadDocument();
		primitive
			.setMode(mode as 4 | 5 | 6)
			.getIndices()
			?.setArray(new Uint16Array(indices));
		const { mesh } = good(await readGlb(await written(document), 'a.glb'));
		expect(mesh.indices).toHaveLength(6);
		const { all, turned } = areaOf(mesh);
		expect(all).toBeCloseTo(1, 6);
		expect(Math.min(turned, all - turned)).toBeCloseTo(0, 6);
	});
	test('the same mesh in many places', async () => {
		const { document } = quadDocument();
		const buffer = document.getRoot().listBuffers()[0] ?? null;
		document
			.createAccessor('places')
			.setType('VEC3')
			.setArray(new Float32Array([5, 0, 0, 0, 7, 0]))
			.setBuffer(buffer);
		const bytes = edited(await written(document), (json: Any) => {
			json.nodes[0].extensions = {
				EXT_mesh_gpu_instancing: { attributes: { TRANSLATION: json.accessors.length - 1 } },
			};
			json.extensionsRequired = ['EXT_mesh_gpu_instancing'];
		});
		const { mesh } = good(await readGlb(bytes, 'a.glb'));
		expect(mesh.parts.map((part) => part.name)).toEqual(['Quad', 'Quad 2']);
		expect(Math.max(...mesh.positions)).toBe(8);
	});
	test('the UV set that the colour uses, and it is said that there are others', async () => {
		const { document, primitive } = quadDocument();
		const second = document
			.createAccessor()
			.setType('VEC2')
			.setArray(new Float32Array([0, 0.5, 0.5, 0.5, 0, 0, 0.5, 0]))
			.setBuffer(document.getRoot().listBuffers()[0] ?? null);
		const material = document
			.createMaterial()
			.setBaseColorTexture(document.createTexture().setImage(new Uint8Array(8)).setMimeType('image/png'));
		material.getBaseColorTextureInfo()?.setTexCoord(1);
		const colors = document
			.createAccessor()
			.setType('VEC3')
			.setArray(new Float32Array(12).fill(0.5))
			.setBuffer(document.getRoot().listBuffers()[0] ?? null);
		primitive.setAttribute('TEXCOORD_1', second).setAttribute('COLOR_0', colors).setMaterial(material);
		const { mesh, notes } = good(await readGlb(await written(document), 'a.glb'));
		expect(areaOf(mesh).all).toBeCloseTo(0.25, 6);
		expect(notes.join()).toMatch(/several UV sets/);
		expect(notes.join()).toMatch(/vertex colours/);
	});
	test('bones in their rest pose', async () => {
		const { document, primitive, node } = quadDocument();
		const buffer = document.getRoot().listBuffers()[0] ?? null;
		const joint = document.createNode('Bone').setTranslation([0, 0, 3]);
		document.getRoot().listScenes()[0]?.addChild(joint);
		primitive
			.setAttribute(
				'JOINTS_0',
				document.createAccessor().setType('VEC4').setArray(new Uint8Array(16)).setBuffer(buffer),
			)
			.setAttribute(
				'WEIGHTS_0',
				document
					.createAccessor()
					.setType('VEC4')
					.setArray(new Float32Array([1, 0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0]))
					.setBuffer(buffer),
			);
		node.setSkin(document.createSkin().addJoint(joint)).setTranslation([90, 0, 0]);
		const { mesh, notes } = good(await readGlb(await written(document), 'a.glb'));
		expect(mesh.positions[2]).toBe(3);
		expect(Math.max(...mesh.positions)).toBe(3);
		expect(notes.join()).toMatch(/rest pose/);
	});
	test('numbers stored small, and extensions that change no geometry', async () => {
		const { document, primitive } = quadDocument();
		primitive
			.getAttribute('TEXCOORD_0')
			?.setArray(new Uint8Array([0, 255, 255, 255, 0, 0, 255, 0]))
			.setNormalized(true);
		const bytes = edited(await written(document), (json: Any) => {
			json.extensionsRequired = ['KHR_mesh_quantization', 'KHR_texture_transform', 'KHR_materials_unlit'];
			json.extensionsUsed = json.extensionsRequired;
		});
		expect(areaOf(good(await readGlb(bytes, 'a.glb')).mesh).all).toBeCloseTo(1, 6);
	});
	test('what is stored in a way that is not read is named', async () => {
		const { document } = quadDocument();
		for (const [name, words] of [
			['KHR_draco_mesh_compression', /Draco compression/],
			['EXT_meshopt_compression', /meshopt compression/],
			['ACME_curved_space', /"ACME_curved_space"/],
		] as const) {
			const result = await readGlb(
				edited(await written(document), (json: Any) => (json.extensionsRequired = [name])),
				'a.glb',
			);
			expect(result.ok ? '' : result.error.text).toMatch(words);
		}
	});
	test('normals under uneven scale stand upright on the surface; those that are none are made anew', async () => {
		const { document, primitive, node } = quadDocument();
		const buffer = document.getRoot().listBuffers()[0] ?? null;
		primitive.getAttribute('POSITION')?.setArray(new Float32Array([0, 0, 0, 1, 0, 1, 0, 1, 0, 1, 1, 1]));
		const h = Math.SQRT1_2;
		const normal = document
			.createAccessor()
			.setType('VEC3')
			.setArray(new Float32Array([h, 0, -h, h, 0, -h, h, 0, -h, h, 0, -h]))
			.setBuffer(buffer);
		primitive.setAttribute('NORMAL', normal);
		node.setScale([3, 1, 1]);
		const { mesh } = good(await readGlb(await written(document), 'a.glb'));
		// Along (3, 0, 1): upright on it is (1, 0, -3).
		const n = [...(mesh.normals as Float32Array).subarray(0, 3)];
		expect(n[0] as number).toBeCloseTo(1 / Math.sqrt(10), 5);
		expect(n[2] as number).toBeCloseTo(-3 / Math.sqrt(10), 5);
		normal.setArray(new Float32Array(12).fill(Number.NaN));
		expect(good(await readGlb(await written(document), 'a.glb')).mesh.normals).toBeNull();
	});
	test('a piece without UVs does not refuse the rest', async () => {
		const { document } = quadDocument();
		const scene = document.getRoot().listScenes()[0];
		const bare = document
			.createPrimitive()
			.setAttribute('POSITION', document.getRoot().listAccessors()[0] ?? null)
			.setMode(5);
		scene?.addChild(document.createNode('Plug').setMesh(document.createMesh().addPrimitive(bare)));
		const { mesh, notes } = good(await readGlb(await written(document), 'a.glb'));
		expect(mesh.parts.map((part) => part.name)).toEqual(['Quad', 'Plug']);
		expect(notes.join()).toMatch(/"Plug" has no UVs/);
	});
});

describe('claims are looked at before they are believed', () => {
	const refused = async (change: (json: Any) => void): Promise<string> => {
		const result = await readGlb(edited(await written(quadDocument().document), change), 'odd.glb');
		return result.ok ? '' : result.error.text;
	};
	test('counts without end, data beyond the end, nodes within themselves or without end', async () => {
		expect(await refused((json) => delete json.accessors[0].bufferView && (json.accessors[0].count = 1e9))).toMatch(
			/claims 1,000,000,000 values/,
		);
		expect(await refused((json) => (json.accessors[0].count = 400))).toMatch(/reaches beyond its data/);
		expect(await refused((json) => (json.bufferViews[0].byteLength = 1e9))).toMatch(/lies beyond its end/);
		expect(
			await refused((json) => {
				json.nodes = [{ children: [1] }, { children: [0] }];
			}),
		).toMatch(/stands within itself/);
		expect(
			await refused((json) => {
				json.nodes = Array.from({ length: 5000 }, (_, i) => ({ children: i < 4999 ? [i + 1] : [] }));
				json.scenes = [{ nodes: [0] }];
			}),
		).toMatch(/too deep/);
		expect(
			await refused((json) => {
				json.nodes = Array.from({ length: 20_000 }, () => ({ mesh: 0 }));
				json.accessors[json.meshes[0].primitives[0].indices].count = 4;
				json.scenes = [{ nodes: json.nodes.map((_: unknown, i: number) => i) }];
			}),
		).toBe('');
	});
	test('any value of the description changed for another: read or refused in words, never long', async () => {
		const costs = watchCosts('values of a glTF');
		const bytes = await writeGlb(box());
		const odd = fc.oneof(
			fc.integer(),
			fc.constantFrom(-1, 0, 1e9, 2 ** 31, 2 ** 53, Number.MAX_VALUE),
			fc.string({ maxLength: 3 }),
			fc.constantFrom(null, [], {}, [[]], true),
		);
		await fc.assert(
			fc.asyncProperty(fc.nat(), odd, async (pick, value) => {
				const changed = edited(bytes, (json: Any) => {
					const places: [Any, string][] = [];
					const walk = (at: Any): void => {
						for (const key of Object.keys(at)) {
							places.push([at, key]);
							if (typeof at[key] === 'object' && at[key] !== null) walk(at[key]);
						}
					};
					walk(json);
					const [at, key] = places[pick % places.length] as [Any, string];
					at[key] = value;
				});
				const result = await costs.of(() => readGlb(changed, 'odd.glb'));
				return result.ok || result.error.text.includes('odd.glb');
			}),
			{ numRuns: process.env.LONG ? 20_000 : 400, interruptAfterTimeLimit: 400_000, markInterruptAsFailure: true },
		);
		costs.judge();
	});
	test('any bytes of an OBJ changed: read or refused in words', async () => {
		const costs = watchCosts('bytes of an OBJ');
		const text = utf8(
			'o A\nv 0 0 0\nv 1 0 0\nv 0 1 0\nvt 0 0\nvt 1 0\nvt 0 1\nvn 0 0 1\nusemtl m\nf 1/1/1 2/2/1 3/3/1\ng B\nf -3/-3 -2/-2 -1/-1\n',
		);
		await fc.assert(
			fc.asyncProperty(fc.array(fc.tuple(fc.nat(text.length - 1), fc.nat(255)), { maxLength: 6 }), async (changes) => {
				const bytes = text.slice();
				for (const [at, value] of changes) bytes[at] = value;
				const result = await costs.of(() => readModel(bytes, 'odd.obj'));
				return result.ok || result.error.text.includes('odd.obj');
			}),
			{ numRuns: process.env.LONG ? 20_000 : 400 },
		);
		costs.judge();
	});
});
