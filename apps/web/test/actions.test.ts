/** What is asked for on the page, and what the workers are told of it. */
import './browser.ts';
import { groupLayer, type Layer, paintLayer, textLayer, washLayer } from '@eppu/core/document';
import { beforeEach, describe, expect, test } from '@jest/globals';
import { addRamp } from '../src/actions/colors.ts';
import {
	addLayer,
	addMask,
	chooseRange,
	copyLayer,
	cutLayer,
	groupChosen,
	mergeLayer,
	rowsOf,
	setRecipe,
	toggleCoat,
} from '../src/actions/layers.ts';
import { joiningOf } from '../src/actions/picking.ts';
import { straight, straightSides } from '../src/actions/views.ts';
import { keysOf, setKeys, writtenKeys } from '../src/input/keys.ts';
import { setFront, swapPots } from '../src/studio/desk.ts';
import { address, tell } from '../src/studio/line.ts';
import {
	activeLayer,
	activeLayerId,
	activeLayers,
	activeSheet,
	paintsMask,
	pots,
	useStudio,
} from '../src/studio/store.ts';
import { openWith, saidTo, told } from './page.ts';

const get = useStudio.getState;
const sheet = () => activeSheet(get()) as NonNullable<ReturnType<typeof activeSheet>>;
const command = (): Record<string, unknown> => saidTo('run').at(-1)?.command as Record<string, unknown>;
const group = groupLayer('g', 'Wear', [paintLayer('dust', 'Dust'), paintLayer('soot', 'Soot')]) as Layer;

describe('what is said', () => {
	beforeEach(() => {
		openWith([paintLayer('a', 'Coat')]);
		address('p');
	});
	test('a change is numbered, told to the keeper before the studio, and not kept from that moment on', () => {
		expect(get().keeping.state).toBe('kept');
		tell({ say: 'undo' });
		tell({ say: 'redo' });
		const [first, second] = told
			.filter(({ to }) => to === 'keeper')
			.flatMap(({ message }) => (message.say === 'said' ? [message.said] : []));
		expect((second?.n ?? 0) - (first?.n ?? 0)).toBe(1);
		expect(saidTo('undo')[0]?.n).toBe(first?.n);
		const order = told.filter(({ message }) => message.say === 'said' || message.say === 'undo').map(({ to }) => to);
		expect(order.slice(0, 2)).toEqual(['keeper', 'studio']);
		expect(get().keeping).toMatchObject({ state: 'keeping', words: true });
	});
	test('what changes nothing goes to the studio alone, without a number', () => {
		tell({ say: 'point', place: null });
		expect(told.filter(({ message }) => message.say === 'said')).toEqual([]);
		expect(saidTo('point')[0]).toEqual({ say: 'point', place: null });
		expect(get().keeping.state).toBe('kept');
	});
	test('with no project open there is nothing to note', () => {
		address(null);
		tell({ say: 'undo' });
		expect(told.filter(({ message }) => message.say === 'said')).toEqual([]);
	});
});

describe('layers', () => {
	test('a new one stands above the active one in its group, has a name of its own, and takes what comes next', () => {
		openWith([paintLayer('a', 'Paint'), group], 'dust');
		addLayer('paint');
		expect(command()).toMatchObject({ do: 'layer.add', sheet: 's', parent: 'g', at: 1, layer: { name: 'Paint 2' } });
		const { id } = command().layer as Layer;
		// It is not in the outline yet: strokes go on it all the same.
		expect(activeLayers(get())).toEqual({ s: id });
		expect(get().newLayer).toBe(id);
	});
	test.each([
		['levels', { kind: 'adjust', name: 'Levels' }],
		['pull', { kind: 'adjust', name: 'Pull towards a colour' }],
		['wash', { kind: 'wash', name: 'Wash' }],
		['text', { kind: 'text', name: 'Lettering' }],
	] as const)('%s', (kind, expected) => {
		openWith([paintLayer('a', 'Coat')]);
		setFront('#123456');
		addLayer(kind);
		expect(command()).toMatchObject({ layer: expected });
		const { layer } = command() as { layer: Record<string, unknown> };
		if (kind === 'wash') expect(layer.color).toBe('#123456');
		if (kind === 'pull') expect(layer.tone).toMatchObject({ op: 'pull', color: '#123456' });
	});
	test('a mask that hides all is painted white', () => {
		openWith([washLayer('w', 'Wash', '#ff0000')]);
		addMask('s', 'w', true);
		expect(command()).toMatchObject({ do: 'layer.change', layer: 'w', hidden: true, change: { mask: { on: true } } });
		expect(get().desk).toMatchObject({ onMask: true, maskFront: '#ffffff' });
		addMask('s', 'w');
		expect(command().hidden).toBeUndefined();
	});
	test('a copy has new ids for all within it and a name of its own', () => {
		openWith([group], 'g');
		copyLayer(sheet(), group);
		const { layer, copyOf } = command() as { layer: Layer & { layers: readonly Layer[] }; copyOf: string };
		expect(copyOf).toBe('g');
		expect(layer.name).toBe('Wear 2');
		const ids = [layer.id, ...layer.layers.map(({ id }) => id)];
		expect(new Set([...ids, 'g', 'dust', 'soot']).size).toBe(6);
	});
	test('cut takes what is selected, else the whole layer', () => {
		openWith([paintLayer('a', 'Coat')]);
		cutLayer(sheet(), activeLayer(get()) as Layer);
		expect(saidTo('copy')[0]).toMatchObject({ layer: 'a' });
		expect(command()).toMatchObject({ do: 'layer.remove', layer: 'a' });
		openWith([paintLayer('a', 'Coat')]);
		cutLayer({ ...sheet(), selection: 's-sel' }, activeLayer(get()) as Layer);
		expect(saidTo('edit')[0]).toMatchObject({ edit: { do: 'clear' } });
		expect(saidTo('run')).toEqual([]);
	});
	test('those listed between two are chosen; folded groups count as one', () => {
		openWith([paintLayer('a', 'A'), group, paintLayer('b', 'B'), paintLayer('c', 'C')], 'c');
		const rows = (folded: ReadonlySet<string>) => rowsOf(sheet().layers, folded, 0).map(({ layer }) => layer.id);
		expect(rows(new Set())).toEqual(['c', 'b', 'g', 'soot', 'dust', 'a']);
		expect(rows(new Set(['g']))).toEqual(['c', 'b', 'g', 'a']);
		chooseRange(sheet(), 'soot');
		expect(get().chosen).toEqual(['b', 'g', 'soot']);
		useStudio.setState({ chosen: ['b'] });
		groupChosen();
		expect(command()).toMatchObject({ do: 'group.make', layers: ['b', 'c'], group: { name: 'Group' } });
	});
	test('a group is flattened, any other layer merged down', () => {
		openWith([paintLayer('a', 'A'), group], 'g');
		mergeLayer(sheet(), group);
		expect(saidTo('flatten')[0]).toMatchObject({ layer: 'g' });
		mergeLayer(sheet(), sheet().layers[0] as Layer);
		expect(saidTo('merge')[0]).toMatchObject({ layer: 'a' });
	});
	test('a coat and a recipe bring a mask along where there is none', () => {
		openWith([paintLayer('a', 'A')]);
		const layer = activeLayer(get()) as Layer;
		toggleCoat(sheet(), layer);
		expect(command()).toMatchObject({ change: { coat: { depth: 0.34 }, mask: { on: true } } });
		toggleCoat(sheet(), { ...layer, coat: { depth: 0.3, falloff: 0.2 } });
		expect(command()).toMatchObject({ change: { coat: null } });
		setRecipe(sheet(), layer, []);
		expect(command()).toMatchObject({ change: { mask: { on: true, recipe: [] } } });
	});
});

describe('what is active', () => {
	test('as the desk says, else the topmost that can be painted on', () => {
		openWith([paintLayer('a', 'A'), group, washLayer('w', 'W', '#ff0000')], 'gone');
		expect(activeLayerId(get(), sheet())).toBe('soot');
		openWith([washLayer('w', 'W', '#ff0000')], 'gone');
		expect(activeLayerId(get(), sheet())).toBeUndefined();
	});
	test('the pots are those of masks only while one is painted', () => {
		openWith([paintLayer('a', 'A'), paintLayer('m', 'M', { mask: { surface: 'm-m', on: true } })], 'm');
		setFront('#aa0000');
		useStudio.setState({ desk: { ...get().desk, onMask: true } });
		expect(paintsMask(get())).toBe(true);
		setFront('#808080');
		swapPots();
		expect(pots(get()).back).toBe('#808080');
		expect(get().desk.front).toBe('#aa0000');
		useStudio.setState({ desk: { ...get().desk, layers: { s: 'a' } } });
		expect(paintsMask(get())).toBe(false);
		expect(pots(get()).front).toBe('#aa0000');
	});
});

test('a ramp brings only colours that the palette lacks', () => {
	openWith([paintLayer('a', 'A')]);
	useStudio.setState({ desk: { ...get().desk, front: '#000000', back: '#ffffff' } });
	addRamp(5);
	const { palette } = command() as { palette: { colors: string[] } };
	expect(palette.colors.slice(0, 2)).toEqual(['#000000', '#ffffff']);
	expect(palette.colors).toHaveLength(5);
	expect(new Set(palette.colors).size).toBe(5);
});

test('straight views look along the axes, with parallel rays', () => {
	openWith([paintLayer('a', 'A')]);
	const seen = straightSides.map((side) => {
		straight(side);
		const { yaw, pitch, roll, parallel } = get().desk.camera;
		return `${yaw} ${pitch} ${roll} ${parallel}`;
	});
	expect(new Set(seen).size).toBe(6);
	for (const each of seen) expect(each).toMatch(/ 0 true$/);
});

test('Shift adds, Alt takes, both keep what is selected twice', () => {
	openWith([textLayer('t', 'T', { text: '' } as never)]);
	const of = (shiftKey: boolean, altKey: boolean) => joiningOf({ shiftKey, altKey });
	expect([of(false, false), of(true, false), of(false, true), of(true, true)]).toEqual([
		'replace',
		'add',
		'take',
		'meet',
	]);
	useStudio.setState({ selecting: { ...get().selecting, joining: 'add' } });
	expect(of(false, false)).toBe('add');
});

describe('keys', () => {
	const press = (code: string, key: string, mods: Partial<KeyboardEvent> = {}): string =>
		writtenKeys({
			code,
			key,
			shiftKey: false,
			ctrlKey: false,
			metaKey: false,
			altKey: false,
			...mods,
		} as KeyboardEvent);
	test('are written the same whatever the layout and the machine', () => {
		expect(press('KeyZ', 'z', { ctrlKey: true })).toBe('Ctrl+Z');
		expect(press('KeyZ', 'z', { metaKey: true, shiftKey: true })).toBe('Shift+Ctrl+Z');
		expect(press('Digit1', '&', { altKey: true })).toBe('Alt+1');
		expect(press('Tab', 'Tab')).toBe('Tab');
	});
	test('the artist’s own replace ours, and no key does two things', async () => {
		const { studioCommands } = await import('../src/screens/commands.ts');
		const { setCommands } = await import('../src/actions/command.ts');
		setCommands(studioCommands);
		const [draw, wipe] = ['draw', 'wipe'].map((id) => studioCommands.find((each) => each.id === id));
		if (!draw || !wipe) throw new Error('no tools');
		setKeys('wipe', 'D');
		expect(keysOf(wipe)).toBe('D');
		expect(keysOf(draw)).toBe('');
		setKeys('wipe', null);
		setKeys('draw', null);
		expect([keysOf(draw), keysOf(wipe)]).toEqual(['D', 'W']);
	});
});
