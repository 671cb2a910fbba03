import { distance, type Hex } from '@eppu/core/color';
import { cellUsers } from '@eppu/core/grid';
import { type Cell, type Cells, cellAt, MOST_CELLS } from '@eppu/core/wash';
import { assignPart, changeCell, changeCells } from '../actions/cells.ts';
import { saveModels } from '../actions/handoff.ts';
import { setFront } from '../studio/desk.ts';
import { activeSheet, cellsShown, type StudioState, useStudio } from '../studio/store.ts';
import { Button } from '../ui/Button.tsx';
import { Choice } from '../ui/Choice.tsx';
import { Dials } from '../ui/Dials.tsx';
import { Popover } from '../ui/Popover.tsx';
import { useGesture } from '../ui/useGesture.ts';

const small = '!px-2 !py-0 !text-[12px]';
/** Cells whose colours differ by less can hardly be told apart (OKLab times 100). */
const ALIKE = 2;

/** Who uses each cell, in words, by its place. */
function usersOf(state: StudioState, cells: Cells): Map<number, string[]> {
	const sheet = activeSheet(state)?.id;
	const out = new Map<number, string[]>();
	for (const model of state.models) {
		const name = state.outline?.project.models.find(({ id }) => id === model.id)?.name ?? 'Model';
		const found = cellUsers(model, (part) => model.parts[part]?.sheet === sheet, cells);
		for (const [key, list] of found)
			for (const { part, faces } of list)
				out.set(key, [...(out.get(key) ?? []), `${name}: ${model.parts[part]?.name}, ${faces} faces`]);
	}
	return out;
}

/** Cells that nobody uses, and those that are hardly to be told from another. */
function told(cells: Cells, users: ReadonlyMap<number, readonly string[]>): string {
	const unused = cells.cells.filter(({ col, row }) => !users.has(row * cells.cols + col)).length;
	const flat = cells.cells.filter(({ of }) => of === 'flat');
	const alike = flat.filter((cell, i) =>
		flat.slice(0, i).some((other) => distance(cell.colors[0] as Hex, other.colors[0] as Hex) < ALIKE),
	).length;
	const spare = cells.cols * cells.rows - cells.cells.length;
	return `${cells.cells.length} cells, ${unused} unused, ${alike} nearly as another, ${spare} spare`;
}

function Colors({ cell }: { readonly cell: Cell }) {
	const front = useStudio((state) => state.desk.front);
	return (
		<div className="flex items-center gap-1">
			{cell.colors.map((hex, i) => (
				<button
					key={`${hex}${i}`}
					type="button"
					aria-label={`Colour ${i + 1}: ${hex}. Click takes it up, Shift puts the front pot there`}
					title={`${hex}. Click takes it up, Shift+click puts the front pot there`}
					className="cut-small size-6 border border-black/20"
					style={{ background: hex }}
					onClick={(event) =>
						event.shiftKey
							? changeCell({ colors: cell.colors.map((each, k) => (k === i ? front : each)) })
							: setFront(hex)
					}
				/>
			))}
			<Button
				className={small}
				disabled={cell.of === 'flat' ? cell.colors[0] === front : cell.colors.length >= 16}
				onClick={() => changeCell({ colors: cell.of === 'flat' ? [front] : [...cell.colors, front] })}
			>
				{cell.of === 'flat' ? 'Front pot' : 'Add front pot'}
			</Button>
			{cell.colors.length > 1 && (
				<Button className={small} onClick={() => changeCell({ colors: cell.colors.slice(0, -1) })}>
					Fewer
				</Button>
			)}
		</div>
	);
}

/** The chosen cell: what it is called, what is in it, where it stands. */
function Chosen({ cells, cell, used }: { readonly cells: Cells; readonly cell: Cell; readonly used: boolean }) {
	const moving = useStudio((state) => state.movingCell);
	return (
		<div className="grid gap-1.5">
			<div className="flex flex-wrap items-center gap-1">
				<input
					key={`${cell.col} ${cell.row} ${cell.name}`}
					aria-label="Name of the cell"
					defaultValue={cell.name}
					maxLength={60}
					className="cut-small w-28 border border-rule bg-paper px-1.5"
					onKeyDown={(event) => {
						event.stopPropagation();
						if (event.key === 'Enter') event.currentTarget.blur();
					}}
					onBlur={(event) => {
						const name = event.target.value.trim();
						if (name && name !== cell.name) changeCell({ name });
					}}
				/>
				<Choice
					tight
					label="What the cell is"
					value={cell.of}
					options={[
						['flat', 'Flat'],
						['ramp', 'Ramp'],
						['blend', 'Gradient'],
					]}
					onChange={(of) => changeCell({ of, ...(of === 'flat' ? { colors: cell.colors.slice(0, 1) } : {}) })}
				/>
				{cell.of !== 'flat' && (
					<Choice
						tight
						label="Which way it goes"
						value={cell.along}
						options={[
							['down', 'Down'],
							['across', 'Across'],
						]}
						onChange={(along) => changeCell({ along })}
					/>
				)}
			</div>
			<div className="flex flex-wrap items-center gap-1">
				<Colors cell={cell} />
				<Button
					className={small}
					look={moving ? 'main' : 'plain'}
					onClick={() => useStudio.setState({ movingCell: !moving })}
					title="The next place that is clicked is its new one; what uses it goes along"
				>
					{moving ? 'Click its new place' : 'Move'}
				</Button>
				<Button
					className={small}
					look="danger"
					disabled={used}
					title={used ? 'It is used' : 'The place is spare again'}
					onClick={() =>
						changeCells({ ...cells, cells: cells.cells.filter((each) => each !== cell) }, `Free "${cell.name}"`)
					}
				>
					Free it
				</Button>
			</div>
		</div>
	);
}

/** What is to be clicked next where a line is drawn. */
function LineWords() {
	const along = useStudio((state) => state.celling.along);
	const begun = useStudio((state) => state.cellLine !== null);
	if (along !== 'line') return null;
	return (
		<p role="status" className="mt-1 text-[12px] text-ash">
			{begun ? 'Now click its end' : 'Click the line’s start, then its end'}
		</p>
	);
}

/** What a click on the model takes, and how it lies in the cell. */
function Assigning() {
	const celling = useStudio((state) => state.celling);
	return (
		<div className="mt-1.5 flex flex-wrap items-center gap-2">
			<Choice
				tight
				label="A click on the model takes"
				value={celling.by}
				options={[
					['part', 'Part'],
					['island', 'Island'],
					['face', 'Face'],
				]}
				onChange={(by) => useStudio.setState({ celling: { ...celling, by } })}
			/>
			<Choice
				tight
				label="How it lies in the cell"
				value={celling.along}
				options={[
					['middle', 'In its middle'],
					['height', 'By height'],
					['facing', 'By facing'],
					['line', 'Along a line'],
				]}
				onChange={(along) => useStudio.setState({ celling: { ...celling, along }, cellLine: null })}
			/>
		</div>
	);
}

/** All parts of all models, each to be put in the chosen cell without pointing at it. */
function PartsToPut({ cell }: { readonly cell: Cell }) {
	const models = useStudio((state) => state.models);
	const known = useStudio((state) => state.outline?.project.models);
	return (
		<fieldset className="mt-2 border-t border-rule pt-1.5">
			<legend className="sr-only">Parts to put in "{cell.name}"</legend>
			<p className="mb-1 text-ash">Put in "{cell.name}":</p>
			<div className="flex max-h-40 flex-wrap gap-1 overflow-y-auto">
				{models.flatMap((model) =>
					model.parts.map((part, i) => (
						<Button key={`${model.id} ${part.firstFace}`} className={small} onClick={() => assignPart(model.id, i)}>
							{`${known?.find(({ id }) => id === model.id)?.name ?? 'Model'}: ${part.name}`}
						</Button>
					)),
				)}
			</div>
		</fieldset>
	);
}

/** A colour grid: its count, the chosen cell, and what a click on the model puts in it. */
export function CellsBay() {
	const cells = useStudio(cellsShown);
	const place = useStudio((state) => state.cell);
	const models = useStudio((state) => state.models);
	const gesture = useGesture();
	if (!cells) return <div className="border-r border-rule px-3 py-2 text-ash">This sheet is no colour grid.</div>;
	const users = usersOf({ ...useStudio.getState(), models }, cells);
	const cell = place && cellAt(cells, place.col, place.row);
	const here = place ? (users.get(place.row * cells.cols + place.col) ?? []) : [];
	return (
		<div className="grid min-w-0 grid-cols-1 gap-x-4 min-[1150px]:grid-cols-[1fr_auto] overflow-y-auto border-r border-rule px-3 py-2">
			<div className="min-w-0">
				{!place ? (
					<p className="text-ash">Click a place of the grid to choose it.</p>
				) : !cell ? (
					<div className="flex items-center gap-2">
						<span className="text-ash">A spare place.</span>
						<Button className={small} look="main" onClick={() => changeCell({})}>
							Fill it with the front pot
						</Button>
					</div>
				) : (
					<Chosen cells={cells} cell={cell} used={here.length > 0} />
				)}
				<Assigning />
			</div>
			<div className="w-44">
				<Dials
					wide={false}
					of={cells}
					rows={[
						['cols', 'Across', 1, MOST_CELLS, 8, '', { whole: true }],
						['rows', 'Down', 1, MOST_CELLS, 8, '', { whole: true }],
					]}
					onChange={(change) => changeCells({ ...cells, ...change }, 'Count of cells', [], gesture())}
				/>
				<Popover
					label="Who uses it"
					className="cut-small mt-1 bg-bark px-2 py-0.5 text-left text-[12px] hover:bg-bark-deep"
					trigger={here.length ? `Used by ${here.length}` : 'Used by none'}
				>
					<p className="mb-1.5 text-ash">{told(cells, users)}</p>
					<div className="mb-1.5 flex flex-wrap gap-1">
						{(['glb', 'obj'] as const).map((as) => (
							<Button key={as} className={small} disabled={!models.length} onClick={() => void saveModels(as)}>
								Models as {as.toUpperCase()}
							</Button>
						))}
					</div>
					<ul>
						{here.map((words) => (
							<li key={words}>{words}</li>
						))}
					</ul>
					{cell && <PartsToPut cell={cell} />}
				</Popover>
				<LineWords />
			</div>
		</div>
	);
}
