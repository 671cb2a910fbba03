/** Bakes from the command line: of a model file and of a kept project, with 8 and 16 bits, the same as in the engine. */
import { createHash } from 'node:crypto';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { apiaryPalette } from '@eppu/core/color';
import { type Project, washLayer } from '@eppu/core/document';
import { toneBake } from '@eppu/core/light';
import { writeObj } from '@eppu/core/mesh';
import { openSourceStore } from '@eppu/server/store';
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import sharp from 'sharp';
import { addBox, createMeshBuilder } from '../../../demo/mesh/shapes.ts';
import { bakeProject } from '../src/bake.ts';
import { reliefOf } from '../src/relief.ts';

const folder = mkdtempSync(join(tmpdir(), 'eppu-bake-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const [model, data] = [join(folder, 'block.obj'), join(folder, 'data.db')];

beforeAll(() => {
	const builder = createMeshBuilder();
	builder.part('Block');
	addBox(
		builder,
		[0, 0, 0],
		[2, 2, 2],
		Array.from({ length: 6 }, (_, i) => ({
			x: 0.02 + 0.33 * (i % 3),
			y: 0.02 + 0.5 * Math.floor(i / 3),
			w: 0.28,
			h: 0.4,
		})),
	);
	const bytes = new TextEncoder().encode(writeObj(builder.mesh()));
	writeFileSync(model, bytes);
	const hash = createHash('sha256').update(bytes).digest('hex');
	const plates = washLayer('p', 'Plates', '#808080', { relief: { from: 'tone', height: 2, soft: 0 } });
	const sheet = { id: 's', name: 'Skin', width: 64, height: 64, bleed: 4, base: null, guide: null, layers: [plates] };
	const project: Project = {
		schema: 1,
		id: 'block',
		name: 'Block',
		palette: apiaryPalette,
		models: [
			{
				id: 'm',
				name: 'Block',
				asset: { hash, name: 'block.obj' },
				parts: [{ name: 'Block', sheet: 's', shown: true }],
				bakes: [toneBake('b', 'Looks up', 'facing', { spread: 180 }), toneBake('c', 'Edges', 'curvature')],
			},
		],
		sheets: [sheet],
	};
	const store = openSourceStore(data);
	store.create(project, [{ name: 'block.obj', bytes }]);
	store.close();
});

/** The red channel of a PNG, 0..1, where it is opaque. */
async function tones(file: string): Promise<number[]> {
	const picture = sharp(file);
	const deep = (await picture.metadata()).depth === 'ushort';
	const { data: raw, info } = await (deep
		? picture.toColourspace('rgb16').raw({ depth: 'ushort' })
		: picture.raw()
	).toBuffer({ resolveWithObject: true });
	const values = deep ? new Uint16Array(raw.buffer, raw.byteOffset, raw.length / 2) : raw;
	const alpha = info.channels - 1;
	return [...values]
		.filter((_, i) => i % info.channels === 0 && (values[i + alpha] as number) > 0)
		.map((v) => v / (deep ? 65535 : 255));
}

test('of a model file: facing up is 1, 0 or between, to the sixteenth bit', async () => {
	const [file] = await bakeProject({ of: model, out: join(folder, 'out'), kind: 'facing', depth: '16', size: '64' });
	expect(file).toBe(join(folder, 'out', 'block-block-facing.png'));
	expect(await sharp(file).metadata()).toMatchObject({ width: 64, height: 64, depth: 'ushort' });
	const found = new Set((await tones(file as string)).map((tone) => tone.toFixed(4)));
	// At 60 degrees from it there is none: only the upper side is bright.
	expect([...found].sort()).toEqual(['0.0000', '1.0000']);
});

test('of a kept project: all its bakes, or one, with 8 bits as with 16', async () => {
	const out = join(folder, 'kept');
	const files = await bakeProject({ of: 'block', out, data });
	expect(files).toEqual([join(out, 'block-skin-looks-up.png'), join(out, 'block-skin-edges.png')]);
	const found = new Set((await tones(files[0] as string)).map((tone) => tone.toFixed(2)));
	expect([...found].sort()).toEqual(['0.00', '0.50', '1.00']);
	const [deep] = await bakeProject({ of: 'Block', out: join(folder, 'deep'), data, bake: 'edges', depth: '16' });
	const [flat, fine] = [await tones(files[1] as string), await tones(deep as string)];
	expect(fine.length).toBe(flat.length);
	for (const [i, tone] of fine.entries()) expect(Math.abs(tone - (flat[i] as number))).toBeLessThan(0.5 / 255 + 1e-6);
	expect(new Set(fine).size).toBeGreaterThan(new Set(flat).size - 1);
});

test('what stands out on a sheet, as heights of 16 bits and as normals of 8', async () => {
	const [heights] = await reliefOf({ project: 'block', out: join(folder, 'relief'), data });
	expect(heights).toBe(join(folder, 'relief', 'block-skin-relief-heights.png'));
	expect(await sharp(heights).metadata()).toMatchObject({ width: 64, height: 64, depth: 'ushort' });
	// A grey of 128 lifts all of it by as much of its height, from the level in the middle.
	for (const tone of await tones(heights as string)) expect(tone).toBeCloseTo(0.5 + 128 / 255 / 2, 2);
	const [normals] = await reliefOf({ project: 'block', out: folder, data, look: 'normals', depth: '8', sheet: 'skin' });
	expect((await sharp(normals).metadata()).depth).toBe('uchar');
	expect(new Set(await tones(normals as string))).toEqual(new Set([128 / 255]));
	await expect(reliefOf({ project: 'block', out: folder, data, look: 'gloss' })).rejects.toThrow(/heights, normals/);
	await expect(reliefOf({ project: 'block', out: folder, data, sheet: 'lid' })).rejects.toThrow(
		/no sheet "lid" on which/,
	);
});

test('what cannot be baked is told in words', async () => {
	await expect(bakeProject({ of: model, out: folder })).rejects.toThrow(/--kind: occlusion/);
	await expect(bakeProject({ of: model, out: folder, kind: 'gloss' })).rejects.toThrow(/no bake "gloss"/);
	await expect(bakeProject({ of: join(folder, 'no.obj'), out: folder, kind: 'ids' })).rejects.toThrow(/no file/);
	await expect(bakeProject({ of: model, out: folder, kind: 'ids', depth: '12' })).rejects.toThrow(/8 or 16/);
	await expect(bakeProject({ of: model, out: folder, kind: 'ids', size: '3' })).rejects.toThrow(/16 to 8192/);
	await expect(bakeProject({ of: 'block', out: folder, data, bake: 'none' })).rejects.toThrow(/no such bake/);
	await expect(bakeProject({ of: 'jar', out: folder, data })).rejects.toThrow(/no project "jar"/);
});
