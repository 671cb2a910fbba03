/** A tool and a drawer are one file and one list line each: buttons, keys, the search box and strokes follow. */
import './browser.ts';
import { emptyDesk, type Project, paintLayer } from '@eppu/core/document';
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { Tooltip } from 'radix-ui';
import { renderToStaticMarkup } from 'react-dom/server';
import { useStudio } from '../src/studio/store.ts';
import type { ToolKind } from '../src/tools/kind.ts';
import { toolOf, tools } from '../src/tools/list.ts';

const project: Project = {
	schema: 1,
	id: 'p',
	name: 'Tools',
	models: [],
	sheets: [
		{
			id: 's',
			name: 'Sheet',
			width: 64,
			height: 64,
			bleed: 4,
			base: null,
			layers: [paintLayer('l', 'Coat')],
			guide: null,
		},
	],
	palette: { name: 'Few', colors: ['#000000'] },
};
const chalk: ToolKind<'chalk'> = {
	name: 'chalk',
	label: 'Chalk',
	asks: 'Draw with chalk',
	keys: 'Shift+J',
	Icon: (() => null) as unknown as ToolKind['Icon'],
	hint: 'Dry strokes',
	stroke: () => 'lighten',
};

beforeAll(() => {
	(tools as unknown as ToolKind[]).push(chalk);
	useStudio.setState({ status: 'open', outline: { project, done: [], undone: [], gesture: null }, desk: emptyDesk });
});
afterAll(() => {
	(tools as unknown as ToolKind[]).pop();
});

test('a tool: its button, its key, its place in the search box, and what its strokes do', async () => {
	const { ToolButtons } = await import('../src/bench/ToolBay.tsx');
	const { studioCommands } = await import('../src/screens/commands.ts');
	const { strokeSpec } = await import('../src/input/strokeSpec.ts');
	const asked = studioCommands.find(({ id }) => id === 'chalk');
	expect(asked).toMatchObject({ label: 'Draw with chalk', keys: 'Shift+J' });
	asked?.run();
	expect(useStudio.getState().tool).toBe('chalk');
	const shown = renderToStaticMarkup(
		<Tooltip.Provider>
			<ToolButtons chosen={toolOf('chalk')} />
		</Tooltip.Provider>,
	);
	expect(shown).toContain('aria-label="Chalk"');
	expect(shown).toContain('aria-checked="true" aria-label="Chalk"');
	const frame = { scale: 1, x: 0, y: 0, width: 100, height: 100 };
	expect(strokeSpec(useStudio.getState(), { on: 'sheet', sheet: 's' }, frame, 1)).toMatchObject({
		tool: 'lighten',
		layers: { s: 'l' },
		stamp: null,
	});
	expect(() => toolOf('none')).toThrow('There is no tool "none"');
});

test('a drawer: its tab, what it shows, and its place in the search box', async () => {
	const { drawers } = await import('../src/rail/list.ts');
	const list = drawers as unknown as (typeof drawers)[number][];
	list.push({ name: 'notes', label: 'Notes', asks: 'Notes drawer', Drawer: () => <p>Written here</p> });
	const { Drawers } = await import('../src/rail/Rail.tsx');
	const { toggleDrawer } = await import('../src/actions/drawers.ts');
	const html = (): string => renderToStaticMarkup(<Drawers open={useStudio.getState().drawer} />);
	expect(html()).toContain('Notes');
	expect(html()).not.toContain('Written here');
	toggleDrawer('notes');
	expect(html()).toContain('Written here');
	toggleDrawer('notes');
	expect(html()).not.toContain('Written here');
	list.pop();
});

test('every key belongs to one command, and every command has words', async () => {
	const { studioCommands } = await import('../src/screens/commands.ts');
	const keys = studioCommands.flatMap((command) => (command.keys ? [command.keys] : []));
	expect(keys.filter((each, i) => keys.indexOf(each) !== i)).toEqual([]);
	const ids = studioCommands.map(({ id }) => id);
	expect(ids.filter((each, i) => ids.indexOf(each) !== i)).toEqual([]);
	for (const { label } of studioCommands) expect(label).not.toBe('');
});
