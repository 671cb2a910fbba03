/** Light and bakes as they are asked for on the page: which bakes light takes, and what is said as one step. */
import './browser.ts';
import { type Layer, type Project, paintLayer, washLayer } from '@eppu/core/document';
import { type Bake, lightPresets, toneBake } from '@eppu/core/light';
import { beforeEach, expect, test } from '@jest/globals';
import {
	addBake,
	addLight,
	changeBake,
	changeLight,
	lightsWith,
	makeUsualBase,
	removeBake,
	withBakes,
} from '../src/actions/light.ts';
import type { ToStudio } from '../src/studio/protocol.ts';
import { useStudio } from '../src/studio/store.ts';
import type { ShownModel } from '../src/studio/told.ts';
import { openWith, saidTo } from './page.ts';

const get = useStudio.getState;
const warm = lightPresets[0] as (typeof lightPresets)[number];
const edges = lightPresets.find(({ name }) => name === 'Edges picked out') as typeof warm;

/** A model of two parts on two sheets, the first of which has a plain wash and paint on it. */
function withModel(bakes: readonly Bake[] = []): void {
	openWith([washLayer('ground', 'Ground', '#806040'), paintLayer('p', 'Paint')] as Layer[]);
	const outline = get().outline;
	if (!outline) throw new Error('nothing is open');
	const [first] = outline.project.sheets as [Project['sheets'][0]];
	const second = { ...first, id: 'second', name: 'Second', layers: [] };
	const parts = [
		{ name: 'Body', sheet: first.id, shown: true },
		{ name: 'Lid', sheet: 'second', shown: true },
	];
	const model = { id: 'm', name: 'Can', asset: { hash: 'a'.repeat(64), name: 'can.obj' }, parts, bakes };
	useStudio.setState({
		outline: { ...outline, project: { ...outline.project, sheets: [first, second], models: [model] } },
		models: [{ id: 'm', parts } as unknown as ShownModel],
	});
}
const last = (): Extract<ToStudio, { say: 'run-all' }> => saidTo('run-all').at(-1) as never;
const lastRun = (): Extract<ToStudio, { say: 'run' }> | undefined => saidTo('run').at(-1) as never;
saidTo('run-all').at(-1) as never;

beforeEach(() => withModel());

test('light takes the bakes that serve, and makes those that are not there once', () => {
	const own = toneBake('mine', 'Dark', 'occlusion');
	const bakes: Bake[] = [own, toneBake('both', 'Both', 'curvature', { of: 'both' })];
	expect(withBakes(warm.rig, bakes).occlusion.bake).toBe('mine');
	expect(bakes).toHaveLength(2);
	const lit = withBakes(edges.rig, bakes);
	expect(bakes).toHaveLength(3);
	expect(lit.edges.bake).toBe(bakes[2]?.id);
	expect(lit.occlusion.bake).toBeNull();
	// One that was taken away is put in anew.
	expect(withBakes({ ...lit, edges: { ...lit.edges, bake: 'gone' } }, bakes).edges.bake).toBe(bakes[2]?.id);
	expect(bakes).toHaveLength(3);
});

test('light lies on every sheet of the model as one step, with its bakes', () => {
	addLight(warm);
	const { commands, words } = last();
	expect(words).toBe('Light "Warm"');
	expect(commands.map((each) => each.do)).toEqual(['bakes.set', 'layer.add', 'layer.add']);
	const [set, ...adds] = commands;
	const [bake] = set?.do === 'bakes.set' ? set.bakes : [];
	for (const add of adds)
		if (add.do === 'layer.add' && add.layer.kind === 'light') expect(add.layer.rig.occlusion.bake).toBe(bake?.id);
	expect(new Set(adds.map((each) => (each.do === 'layer.add' ? each.sheet : ''))).size).toBe(2);
});

test('a base lies above plain washes: a colour for each part, light and edges in one group a sheet', () => {
	makeUsualBase();
	const adds = last().commands.filter((each) => each.do === 'layer.add');
	expect(adds.map(({ at }) => at)).toEqual([1, 0]);
	for (const { layer } of adds) {
		if (layer.kind !== 'group') throw new Error('no group');
		expect(layer.layers.map(({ kind }) => kind)).toEqual(['wash', 'light', 'light']);
		expect(layer.layers[0]?.mask?.recipe?.[0]).toMatchObject({ step: 'part' });
	}
	expect(adds.map(({ layer }) => ('layers' in layer ? layer.layers[0]?.name : ''))).toEqual(['Body', 'Lid']);
});

test('namesakes on the other sheets change along, or stay as they are; bakes are named apart, changed and taken away', () => {
	addLight(warm);
	const adds = last().commands.filter((each) => each.do === 'layer.add');
	const { outline } = get();
	if (!outline) throw new Error('nothing is open');
	const sheets = outline.project.sheets.map((sheet) => ({
		...sheet,
		layers: [...sheet.layers, ...adds.flatMap((add) => (add.sheet === sheet.id ? [add.layer] : []))],
	}));
	const models = outline.project.models.map((model) => ({ ...model, bakes: [toneBake('b', 'Height', 'height')] }));
	useStudio.setState({ outline: { ...outline, project: { ...outline.project, sheets, models } } });
	const light = adds[0]?.layer;
	if (light?.kind !== 'light') throw new Error('no light');
	expect(lightsWith(light, true)).toHaveLength(2);
	expect(lightsWith(light, false)).toHaveLength(1);
	changeLight(light, { steps: 2 }, true, 'drag');
	expect(last().commands.filter((each) => each.do === 'layer.change')).toHaveLength(2);
	changeLight(light, { steps: 3 }, false, 'drag');
	const changes = last().commands.filter((each) => each.do === 'layer.change');
	expect(changes.map(({ change }) => change.rig?.steps)).toEqual([3]);
	addBake(toneBake('c', 'Height', 'height'));
	const bakes = (): readonly Bake[] => {
		const command = lastRun()?.command;
		return command?.do === 'bakes.set' ? command.bakes : [];
	};
	expect(bakes().map(({ name }) => name)).toEqual(['Height', 'Height 2']);
	changeBake({ ...toneBake('b', 'Tall', 'height') });
	expect(bakes().map(({ name }) => name)).toEqual(['Tall']);
	removeBake(toneBake('b', 'Height', 'height'));
	expect(bakes()).toEqual([]);
});
