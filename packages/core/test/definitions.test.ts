/** What there are many of is a definition in one list: a new one is one file and one line, and the engine does the rest. */
import type { Kernels } from '@eppu/kernels';
import { loadKernels } from '@eppu/kernels/node';
import { afterEach, beforeAll, expect, test } from '@jest/globals';
import {
	type AnyLayer,
	adjustLayer,
	type Command,
	CommandError,
	type CommandKind,
	commandKinds,
	type Layer,
	type LayerBase,
	type LayerKind,
	layerKinds,
	type Project,
	paintLayer,
	washLayer,
} from '../src/document/index.ts';
import { type Edit, type EditKind, editKinds } from '../src/edit/index.ts';
import { openEngine } from '../src/engine/index.ts';
import { type AnyFinish, type Finish, type FinishKind, finishKinds } from '../src/finish/index.ts';
import {
	type FileKind,
	fileKinds,
	type ModelKind,
	modelKinds,
	modelOrderProblem,
	orderProblem,
	type SourceKind as PictureSource,
	sourceKinds,
	textureFiles,
	textureWriter,
	usualModelOrder,
	usualOrder,
	type Writers,
	writeModel,
	writeTexture,
} from '../src/handoff/index.ts';
import { type Recipe, recipeReach, type ShaperKind, type SourceKind, stepKinds } from '../src/recipe/index.ts';
import { type PointKind, type ToneOp, toneKinds } from '../src/tone/index.ts';
import { box, projectOf } from './oracle/meshes.ts';

let kernels: Kernels;
beforeAll(async () => {
	kernels = await loadKernels();
});

/** Lines that a test added to a list: taken out again after it. */
const added: (() => void)[] = [];
function line<T>(list: readonly T[], definition: unknown): void {
	(list as T[]).push(definition as T);
	added.push(() => (list as T[]).pop());
}
afterEach(() => {
	for (const undo of added.splice(0)) undo();
});

const SIDE = 64;
const project = (...layers: readonly Layer[]): Project => ({
	schema: 1,
	id: 'p',
	name: 'Definitions',
	models: [],
	sheets: [{ id: 's', name: 'Sheet', width: SIDE, height: SIDE, bleed: 4, base: null, layers, guide: null }],
	palette: { name: 'Few', colors: ['#000000'] },
});
const open = (...layers: readonly Layer[]) => openEngine(kernels, project(...layers), [], new Map());
const texel = (engine: ReturnType<typeof open>, x = 10, y = 10): string => engine.sample('s', x, y).join();

test('a command: applied, named in the history, undone and redone', () => {
	interface HideAll {
		readonly do: 'layers.hide';
		readonly sheet: string;
	}
	const hideAll: CommandKind<HideAll> = {
		do: 'layers.hide',
		apply: (of, { sheet }) => {
			const found = of.sheets.find(({ id }) => id === sheet);
			if (!found) throw new CommandError('That sheet is not here.');
			const layers = found.layers.map((layer) => ({ ...layer, shown: false }));
			return {
				project: { ...of, sheets: of.sheets.map((each) => (each === found ? { ...each, layers } : each)) },
				inverse: { do: 'layers.set', sheet, layers: found.layers, words: 'Show all' } as Command,
				words: 'Hide all',
			};
		},
		touched: ({ sheet }) => ({ sheet }),
	};
	const engine = open(washLayer('w', 'Wash', '#204060'));
	const command = { do: 'layers.hide', sheet: 's' } as unknown as Command;
	expect(() => engine.run(command)).toThrow(/does not know "layers.hide"/);
	line(commandKinds, hideAll);
	expect(engine.run(command).get('s')).toEqual([0]);
	expect(texel(engine)).toBe('0,0,0,0');
	expect(engine.history.done.at(-1)?.words).toBe('Hide all');
	engine.undo();
	expect(texel(engine)).toBe('32,64,96,255');
	engine.redo();
	expect(texel(engine)).toBe('0,0,0,0');
	expect(() => engine.run({ ...command, sheet: 'gone' } as unknown as Command)).toThrow('That sheet is not here.');
	engine.close();
});

test('a layer kind: composited, computed anew when it changes, and refusing strokes in its words', () => {
	interface Checker extends LayerBase {
		readonly kind: 'checker';
		readonly color: string;
	}
	const checker: LayerKind<Checker> = {
		kind: 'checker',
		words: 'Checker',
		shape: {},
		own: {},
		finishes: true,
		source: (_layer, at) => at.content() ?? 0,
		content: ({ color }) => ({
			says: color,
			pictures: [],
			below: false,
			reach: 0,
			make(rect) {
				const out = new Uint8Array(rect.width * rect.height * 4);
				for (let i = 0; i < rect.width * rect.height; i++) {
					const [x, y] = [rect.x + (i % rect.width), rect.y + Math.floor(i / rect.width)];
					if ((x >> 3) % 2 === (y >> 3) % 2)
						out.set([...[1, 3, 5].map((at) => Number.parseInt(color.slice(at, at + 2), 16)), 255], i * 4);
				}
				return out;
			},
		}),
		noPaint: ({ name }) => ({ code: 'no-pixels', text: `"${name}" is a checker.`, instead: 'layer' }),
	};
	line(layerKinds, checker as unknown as LayerKind<AnyLayer>);
	const plain = paintLayer('c', 'Board');
	const layer = { ...plain, surface: undefined, kind: 'checker', color: '#ff0000' } as unknown as Layer;
	const { surface: _none, ...own } = layer as unknown as { surface: unknown };
	const engine = open(own as Layer);
	expect(texel(engine, 2, 2)).toBe('0,0,0,0');
	engine.refresh(() => false);
	expect(texel(engine, 2, 2)).toBe('255,0,0,255');
	expect(texel(engine, 10, 2)).toBe('0,0,0,0');
	const begun = engine.edit('s', 'c', { do: 'clear' });
	expect(!begun.ok && begun.refusal.text).toBe('"Board" is a checker.');
	engine.close();
});

test('a step of recipes: a source and a shaper compute a mask', () => {
	const half: SourceKind<{ readonly step: 'half' }> = {
		step: 'half',
		words: 'Left half',
		takes: 'source',
		shape: {},
		usual: { step: 'half' },
		dials: [],
		field(_step, { planes, width, height, x, scale, sheet }) {
			const field = planes.take(width * height);
			const half = (i: number): number => (x + ((i % width) + 0.5) * scale < sheet.width / 2 ? 1 : 0);
			planes.floats(field, width * height).forEach((_, i, tones) => (tones[i] = half(i)));
			return field;
		},
	};
	const dim: ShaperKind<{ readonly step: 'dim' }> = {
		step: 'dim',
		words: 'Dim',
		takes: 'shaper',
		shape: {},
		usual: { step: 'dim' },
		dials: [],
		reach: () => 3,
		work: (_step, field, { planes, width, height }) =>
			planes.floats(field, width * height).forEach((v, i, tones) => (tones[i] = v / 2)),
	};
	line(stepKinds, half);
	line(stepKinds, dim);
	const recipe = [
		{ id: 'a', on: true, step: 'half', mix: 'replace', amount: 1 },
		{ id: 'b', on: true, step: 'dim' },
	] as unknown as Recipe;
	expect(recipeReach(recipe)).toBe(3);
	const engine = open({ ...washLayer('w', 'Wash', '#ffffff'), mask: { surface: 'w-m', on: true, recipe } });
	engine.refresh(() => false);
	expect(texel(engine, 10, 10)).toBe('255,255,255,128');
	expect(texel(engine, 50, 10)).toBe('0,0,0,0');
	expect(engine.recipeSteps('s', 'w', 8)).toHaveLength(2);
	engine.close();
});

test('a change of tones: as an adjust layer and made once', () => {
	const flip: PointKind<{ readonly op: 'flip' }> = {
		op: 'flip',
		words: 'Flip',
		looks: 'point',
		shape: {},
		usual: { op: 'flip' },
		dials: [],
		map: () => ({
			kind: 'channels',
			table: Uint8Array.from({ length: 768 }, (_, i) => 255 - Math.floor(i / 3)),
		}),
	};
	line(toneKinds, flip);
	const tone = { op: 'flip' } as unknown as ToneOp;
	const engine = open(washLayer('w', 'Wash', '#204060'), adjustLayer('a', 'Flip', tone), paintLayer('p', 'Paint'));
	expect(texel(engine)).toBe('223,191,159,255');
	engine.edit('s', 'p', { do: 'fill', color: '#0a0b0c' });
	engine.edit('s', 'p', { do: 'tone', tone });
	expect(texel(engine)).toBe('245,244,243,255');
	expect(engine.history.done.at(-1)?.words).toBe('Flip on "Paint"');
	engine.close();
});

test('an edit and a finish', () => {
	const dot: EditKind<{ readonly do: 'dot' }> = {
		do: 'dot',
		words: (_edit, on) => `Dot on ${on}`,
		apply: (_edit, scope) => {
			const fill = editKinds.find((kind) => kind.do === 'fill') as unknown as EditKind<{ do: string; color: string }>;
			return fill.apply({ do: 'fill', color: '#112233' }, scope);
		},
	};
	line(editKinds, dot);
	interface Glaze extends AnyFinish {
		readonly finish: 'glaze';
	}
	const glaze: FinishKind<Glaze> = {
		finish: 'glaze',
		words: 'Glaze',
		shape: {},
		usual: { finish: 'glaze', on: true, opacity: 1, mode: 'normal' },
		place: () => 'within',
		plain: () => '#00ff00',
	};
	const finishes = [{ id: 'g', ...glaze.usual }] as unknown as readonly Finish[];
	line(finishKinds as unknown as readonly unknown[], glaze);
	const engine = open({ ...paintLayer('p', 'Paint'), finishes });
	expect(engine.edit('s', 'p', { do: 'dot' } as unknown as Edit).ok).toBe(true);
	expect(engine.history.done.at(-1)?.words).toBe('Dot on "Paint"');
	engine.refresh(() => false);
	expect(texel(engine)).toBe('0,255,0,255');
	engine.close();
});

test('what pictures are of, and a kind of file: an order names both, and they are written', () => {
	const rows: PictureSource = {
		kind: 'rows',
		words: 'Each row',
		none: 'no rows',
		parts: true,
		list: ({ height }) => Array.from({ length: height / 32 }, (_, i) => ({ id: String(i), name: `Row ${i}` })),
		picture: (_engine, { width, height }, part) => ({
			width,
			height,
			data: new Uint8Array(width * height * 4).fill(100 + Number(part)),
		}),
	};
	const first: FileKind = {
		kind: 'first',
		words: 'First texel',
		ending: 'tx',
		mime: 'application/octet-stream',
		channels: ['rgba'],
		lossy: false,
		most: 64,
		write: (_writers, { data }) => data.slice(0, 4),
	};
	line(sourceKinds, rows);
	line(fileKinds, first);
	const engine = open(washLayer('w', 'W', '#336699'));
	const order = { ...usualOrder, of: 'rows', file: 'first', pattern: '{sheet}-{layer}' };
	expect(orderProblem(order)).toBeNull();
	const files = textureFiles(engine.project, ['s'], order);
	expect(files.map(({ path }) => path)).toEqual(['sheet-row-0.tx', 'sheet-row-1.tx']);
	const none = {} as Writers;
	expect(files.map((file) => [...writeTexture(engine, file, order, none)])).toEqual([
		[100, 100, 100, 100],
		[101, 101, 101, 101],
	]);
	// What it does not take is told in its words.
	expect(orderProblem({ ...order, channels: 'gray' })).toBe('First texel takes rgba; not "gray".');
	expect(orderProblem({ ...order, quality: 50 })).toMatch(/First texel keeps every texel/);
	expect(() => textureFiles(engine.project, ['s'], { ...order, sizes: [65] })).toThrow(/up to 64 texels/);
	engine.close();
});

test('a kind of model file: an order names it, and it gets the mesh that is meant', async () => {
	const counted: ModelKind = {
		kind: 'counted',
		words: 'Faces counted',
		textures: [],
		ups: ['z'],
		colored: false,
		write: async ({ indices, positions }, looks, stem) => [
			[
				`${stem}.txt`,
				new TextEncoder().encode(`${indices.length / 3} ${positions[2]} ${looks.filter(Boolean).length}`),
			],
		],
	};
	line(modelKinds, counted);
	const mesh = box();
	const engine = openEngine(kernels, projectOf(mesh, SIDE), [], new Map([['m', mesh]]));
	const order = { ...usualModelOrder, as: 'counted', up: 'z' as const, scale: 10, textures: 'none' as const };
	const [[path, bytes]] = (await writeModel(engine, 'm', order, textureWriter(engine, {} as Writers))) as [
		[string, Uint8Array],
	];
	// The height of the first corner is what Y was, ten times.
	const height = (mesh.positions[1] as number) * 10;
	expect([path.endsWith('.txt'), new TextDecoder().decode(bytes)]).toEqual([
		true,
		`${mesh.indices.length / 3} ${height} 0`,
	]);
	expect(modelOrderProblem({ ...order, up: 'y' })).toMatch(/Faces counted/);
	engine.close();
});
