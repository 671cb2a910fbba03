import type { Sheet } from '@eppu/core/document';
import type { MeshReport, PartMeasures } from '@eppu/core/report';
import { DotsThreeIcon } from '@phosphor-icons/react/dist/csr/DotsThree';
import { EyeIcon } from '@phosphor-icons/react/dist/csr/Eye';
import { EyeSlashIcon } from '@phosphor-icons/react/dist/csr/EyeSlash';
import { type DragEvent, useState } from 'react';
import { addSheet, mergeSheets, putParts, removeSheet } from '../../actions/layouts.ts';
import { renamePart } from '../../actions/models.ts';
import { showSheet } from '../../actions/views.ts';
import { setDesk } from '../../studio/desk.ts';
import { run } from '../../studio/say.ts';
import { activeSheet, useStudio } from '../../studio/store.ts';
import type { ShownModel } from '../../studio/told.ts';
import { Button } from '../../ui/Button.tsx';
import { Menu, type MenuItem } from '../../ui/Menu.tsx';
import { Block, type Lighting, lightRow } from './Block.tsx';
import { finenesses, finenessKey, setFineness, useFineness } from './fineness.ts';
import { NameField } from './NameField.tsx';
import { SheetForm } from './SheetForm.tsx';

/** What is dragged: parts by their number. */
const DRAGGED = 'application/x-eppu-parts';

interface Props extends Lighting {
	readonly model: ShownModel;
	readonly report: MeshReport;
}

/** Sheets with the parts that lie on them: dragged, or sent by their menu, to another. */
export function Sheets(props: Props) {
	const sheets = useStudio((state) => state.outline?.project.sheets) ?? [];
	const last = sheets.at(-1);
	return (
		<>
			{sheets.map((sheet, number) => (
				<SheetBlock key={sheet.id} {...props} sheet={sheet} number={number} sheets={sheets} />
			))}
			{last && (
				<div className="border-b border-rule px-3 py-2.5">
					<Button
						className="w-full"
						onClick={() => setDesk({ sheet: addSheet(last, null, []) })}
						title="A new sheet of the same size: drag parts onto it"
					>
						Add a sheet
					</Button>
				</div>
			)}
		</>
	);
}

/** Sheets that parts of a model may lie on: those that no other model has. */
function useFreeFor(model: string, sheets: readonly Sheet[]): readonly Sheet[] {
	const models = useStudio((state) => state.outline?.project.models);
	return sheets.filter(
		(sheet) => !models?.some(({ id, parts }) => id !== model && parts.some((part) => part.sheet === sheet.id)),
	);
}

function SheetBlock({
	sheet,
	number,
	sheets,
	model,
	report,
	lit,
	light,
}: Props & { readonly sheet: Sheet; readonly number: number; readonly sheets: readonly Sheet[] }) {
	const active = useStudio((state) => activeSheet(state)?.id === sheet.id);
	const [changing, setChanging] = useState(false);
	const [over, setOver] = useState(false);
	const parts = model.parts.flatMap((part, i) => (part.sheet === sheet.id ? [i] : []));
	const others = useFreeFor(model.id, sheets).filter(({ id }) => id !== sheet.id);
	/** What lies on it: this model, another, or nothing. */
	const user = useStudio((state) =>
		state.outline?.project.models.find((each) => each.parts.some((part) => part.sheet === sheet.id)),
	);
	const used = user !== undefined;
	const items: readonly MenuItem[] = [
		{ label: 'Name, size and bleed…', run: () => setChanging(true), takesFocus: true },
		...(others.length && used
			? [
					{
						label: 'Merge into',
						items: others.map((into) => ({ label: into.name, run: () => mergeSheets(sheet, into) })),
					},
				]
			: []),
		...(sheets.length > 1 && !used
			? [{ label: 'Remove the sheet', danger: true, apart: true, run: () => removeSheet(sheet) }]
			: []),
	];
	const takes = (event: DragEvent): boolean => event.dataTransfer.types.includes(DRAGGED);
	return (
		<div
			className={over ? 'bg-berry-soft' : ''}
			onDragOver={(event) => {
				if (!takes(event)) return;
				event.preventDefault();
				setOver(true);
			}}
			onDragLeave={() => setOver(false)}
			onDrop={(event) => {
				setOver(false);
				if (!takes(event)) return;
				event.preventDefault();
				event.stopPropagation();
				putParts(model.id, JSON.parse(event.dataTransfer.getData(DRAGGED)) as number[], sheet.id);
			}}
		>
			<Block
				title={`Sheet ${sheet.name}`}
				action={
					<Menu label={`More of sheet ${sheet.name}`} items={items}>
						<DotsThreeIcon size={18} weight="bold" />
					</Menu>
				}
			>
				{changing && <SheetForm sheet={sheet} onClose={() => setChanging(false)} />}
				<div className="mb-2 flex items-baseline justify-between gap-2 text-[12px] text-ash">
					<span className="tabular-nums">
						{sheet.width} × {sheet.height}
						{parts.length > 0 && ` · ${Math.round((report.fill[number] ?? 0) * 100)}% covered`}
					</span>
					<button
						type="button"
						className="cut-small border border-rule px-1.5 disabled:border-transparent"
						disabled={active}
						onClick={() => showSheet(sheet.id)}
					>
						{active ? 'Shown' : 'Show it'}
					</button>
				</div>
				{parts.length === 0 && (
					<p className="text-[12px] text-ash">
						{used ? `"${user.name}" lies on it.` : 'Nothing of this model lies on it: drag parts here.'}
					</p>
				)}
				<ul className="grid grid-cols-[minmax(0,1fr)] gap-1.5">
					{parts.map((part) => (
						<PartRow
							key={part}
							model={model}
							part={part}
							measures={report.parts[part] as PartMeasures}
							sheet={sheet}
							others={others}
							lit={lit}
							light={light}
						/>
					))}
				</ul>
			</Block>
		</div>
	);
}

function PartRow({
	model,
	part,
	measures,
	sheet,
	others,
	lit,
	light,
}: Lighting & {
	readonly model: ShownModel;
	readonly part: number;
	readonly measures: PartMeasures;
	readonly sheet: Sheet;
	readonly others: readonly Sheet[];
}) {
	const { firstFace, faces } = model.parts[part] as ShownModel['parts'][number];
	const name = `part ${part}`;
	const [naming, setNaming] = useState(false);
	const fineness = useFineness((state) => state[finenessKey(model.id, part)] ?? 1);
	if (naming)
		return (
			<li>
				<NameField
					name={measures.name}
					most={255}
					onName={(next) => renamePart(model.id, part, next)}
					onClose={() => setNaming(false)}
				/>
			</li>
		);
	return (
		<li
			className="relative"
			draggable
			onDragStart={(event) => {
				event.dataTransfer.setData(DRAGGED, JSON.stringify([part]));
				event.dataTransfer.effectAllowed = 'move';
			}}
		>
			<span className="absolute top-1.5 right-2 flex items-center gap-1">
				<PartEyes model={model} part={part} name={measures.name} />
				<Menu
					label={`More of ${measures.name}`}
					items={[
						{ label: 'Name…', run: () => setNaming(true), takesFocus: true },
						{
							label: 'Texels when arranged',
							items: finenesses.map(([by, label]) => ({
								label,
								chosen: fineness === by,
								run: () => setFineness(model.id, part, by),
							})),
						},
						...others.map((each) => ({
							label: `Onto "${each.name}"`,
							run: () => putParts(model.id, [part], each.id),
						})),
						{
							label: 'Onto a sheet of its own',
							run: () => addSheet(sheet, model.id, [part]),
							apart: others.length > 0,
						},
					]}
				>
					<DotsThreeIcon size={16} weight="bold" />
				</Menu>
			</span>
			<button
				type="button"
				aria-pressed={lit === name}
				className={lightRow(lit === name)}
				onClick={() => light(name, () => Uint32Array.from({ length: faces }, (_, k) => firstFace + k))}
			>
				<span className="block truncate pr-28 font-semibold">{measures.name}</span>
				<span className="block text-[12px] text-ash tabular-nums">
					{measures.faces} faces, {measures.islands} {measures.islands === 1 ? 'island' : 'islands'},{' '}
					{figure(measures.density)} texels a unit
					{fineness !== 1 && `, to be ×${fineness}`}
				</span>
				{measures.stretch >= 1.15 && (
					<span className="block text-[12px] text-ash tabular-nums">
						Texels {measures.stretch.toFixed(1)} times as long as wide
					</span>
				)}
			</button>
		</li>
	);
}

/** Shows and hides a part, and has it seen alone. */
function PartEyes({ model, part, name }: { readonly model: ShownModel; readonly part: number; readonly name: string }) {
	// For a moment the outline is without a model that is still shown.
	const parts = useStudio((state) => state.outline?.project.models.find(({ id }) => id === model.id)?.parts) ?? [];
	const shown = parts.map((each) => each.shown);
	const here = shown[part] === true;
	const alone = here && shown.filter(Boolean).length === 1;
	const show = (next: readonly boolean[]): void => run({ do: 'parts.show', model: model.id, shown: next });
	return (
		<>
			{shown.length > 1 && (
				<button
					type="button"
					aria-pressed={alone}
					aria-label={`Only ${name}`}
					title={alone ? 'Show all parts again' : 'Hide all other parts'}
					className={`cut-small px-1.5 text-[12px] ${alone ? 'bg-pine text-on-pine' : 'bg-bark hover:bg-bark-deep'}`}
					onClick={() => show(shown.map((_, i) => alone || i === part))}
				>
					Only
				</button>
			)}
			<button
				type="button"
				aria-pressed={here}
				aria-label={`${name} shown`}
				title={here ? 'Hide this part' : 'Show this part'}
				onClick={() => show(shown.map((each, i) => (i === part ? !each : each)))}
			>
				{here ? <EyeIcon size={16} /> : <EyeSlashIcon size={16} />}
			</button>
		</>
	);
}

const figure = (n: number): string => (n >= 100 ? Math.round(n).toLocaleString('en') : n.toPrecision(2));
