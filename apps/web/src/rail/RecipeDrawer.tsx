import {
	closestCenter,
	DndContext,
	type DragEndEvent,
	KeyboardSensor,
	PointerSensor,
	useSensor,
	useSensors,
} from '@dnd-kit/core';
import {
	SortableContext,
	sortableKeyboardCoordinates,
	useSortable,
	verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import { eachLayer, type Layer, type Sheet } from '@eppu/core/document';
import {
	isShaper,
	type Mixing,
	mixings,
	newStep,
	presets,
	type Recipe,
	type RecipeStep,
	type StepName,
	shaperKinds,
	sourceKinds,
	stepKindOf,
} from '@eppu/core/recipe';
import { DotsSixVerticalIcon } from '@phosphor-icons/react/dist/csr/DotsSixVertical';
import { EyeIcon } from '@phosphor-icons/react/dist/csr/Eye';
import { EyeSlashIcon } from '@phosphor-icons/react/dist/csr/EyeSlash';
import { XIcon } from '@phosphor-icons/react/dist/csr/X';
import { useEffect, useMemo, useState } from 'react';
import { setRecipe } from '../actions/layers.ts';
import { takeFromLibrary, useLibrary, useLibraryChange } from '../server/library.ts';
import { lookAlone } from '../studio/desk.ts';
import { tell } from '../studio/line.ts';
import { activeLayer, activeSheet, useStudio } from '../studio/store.ts';
import { Button } from '../ui/Button.tsx';
import { Menu } from '../ui/Menu.tsx';
import { Select } from '../ui/Select.tsx';
import { useGesture } from '../ui/useGesture.ts';
import type { DrawerKind } from './drawer.ts';
import { StepDials } from './StepDials.tsx';

const newId = (): string => `s${crypto.randomUUID().slice(0, 8)}`;

/** The recipe of the active layer's mask: an ordered list of steps, each with its picture, its dials and its way of joining. */
// biome-ignore lint/complexity/noExcessiveLinesPerFunction: one drawer as it stands, markup with what each control sets.
export function RecipeDrawer() {
	const sheet = useStudio(activeSheet);
	const layer = useStudio(activeLayer);
	const recipe = layer?.mask?.recipe ?? null;
	const gesture = useGesture();
	const own = useLibrary('recipe');
	const { putJson } = useLibraryChange();
	const [solo, setSolo] = useState<{ readonly layer: string; readonly upTo: number; readonly was: Recipe } | null>(
		null,
	);
	const sensors = useSensors(
		useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
		useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
	);
	useEffect(() => {
		if (!sheet || !layer || !recipe) return;
		tell({ say: 'steps', of: { sheet: sheet.id, layer: layer.id } });
		return () => tell({ say: 'steps', of: null });
	}, [sheet?.id, layer?.id, recipe !== null]);
	if (!sheet || !layer) return <p className="p-4 text-ash">Choose a layer; its mask can be made by a recipe.</p>;
	const put = (next: Recipe | null, one?: string): void => setRecipe(sheet, layer, next, one);
	const start = [
		...presets.map((preset) => ({ label: preset.name, run: () => put(preset.steps) })),
		...own.map((item) => ({
			label: item.name,
			run: () => void takeFromLibrary<Recipe>(item.id, put),
		})),
		{ label: 'Empty', run: () => put([newStep('clouds', newId())]) },
	];
	if (!recipe)
		return (
			<div className="min-h-0 flex-1 overflow-y-auto px-3 py-2.5">
				<h2 className="mb-1 font-head text-[15px] font-semibold">Mask recipe</h2>
				<p className="mb-3 text-ash">
					Steps that compute the mask of “{layer.name}” from the model, from chance and from other layers. They can be
					changed at any time.
				</p>
				<div className="flex flex-col gap-1.5">
					{presets.map((preset) => (
						<button
							key={preset.name}
							type="button"
							onClick={() => put(preset.steps)}
							className="cut border border-rule bg-sheet px-2.5 py-1 text-left hover:bg-bark"
						>
							<span className="block font-semibold">{preset.name}</span>
							<span className="block text-[12px] text-ash">{preset.hint}</span>
						</button>
					))}
					{start.slice(presets.length).map((item) => (
						<Button key={item.label} onClick={item.run}>
							{item.label}
						</Button>
					))}
				</div>
			</div>
		);
	const change = (index: number, step: RecipeStep): void =>
		put(
			recipe.map((each, i) => (i === index ? step : each)),
			gesture(),
		);
	const moved = ({ active, over }: DragEndEvent): void => {
		const from = recipe.findIndex((each) => each.id === active.id);
		const to = recipe.findIndex((each) => each.id === over?.id);
		if (from < 0 || to < 0 || from === to) return;
		const next = recipe.filter((_, i) => i !== from);
		next.splice(to, 0, recipe[from] as RecipeStep);
		put(next);
	};
	/** Up to a step alone: those after it are switched off, until it is let go. */
	const soloed = solo?.layer === layer.id ? solo : null;
	const soloStep = (index: number): void => {
		const all = soloed?.was ?? recipe;
		if (soloed?.upTo === index) {
			setSolo(null);
			put(all, 'solo');
			lookAlone(sheet.id, layer.id, 'mask');
			return;
		}
		if (!soloed) lookAlone(sheet.id, layer.id, 'mask');
		setSolo({ layer: layer.id, upTo: index, was: all });
		put(
			all.map((each, i) => (i > index ? { ...each, on: false } : each)),
			'solo',
		);
	};
	const adder = (kinds: readonly { readonly step: StepName; readonly words: string }[]) =>
		kinds.map(({ step, words }) => ({ label: words, run: () => put([...recipe, newStep(step, newId())]) }));
	return (
		<div className="flex min-h-0 flex-1 flex-col">
			<div className="border-b border-rule px-3 py-2">
				<div className="flex items-center gap-2 pr-[52px]">
					<h2 className="min-w-0 flex-1 truncate font-head text-[15px] font-semibold" title={layer.name}>
						Mask of “{layer.name}”
					</h2>
					<Menu
						label="Recipes"
						className="cut-small bg-bark !px-2 text-[12px]"
						items={[
							...start,
							{ label: 'Keep as my own…', run: () => putJson('recipe', `${layer.name} mask`, recipe) },
							{
								label: 'Turn into a painted mask',
								run: () => tell({ say: 'mask', sheet: sheet.id, layer: layer.id, change: { to: 'painted' } }),
							},
							{ label: 'Take the recipe off', danger: true, run: () => put(null) },
						]}
					>
						Recipes
					</Menu>
				</div>
			</div>
			<DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={moved}>
				<SortableContext items={recipe.map((step) => step.id)} strategy={verticalListSortingStrategy}>
					<ol className="min-h-0 flex-1 overflow-y-auto px-2 py-2" aria-label="Steps, first to last">
						{recipe.map((step, index) => (
							<StepRow
								key={step.id}
								step={step}
								index={index}
								sheet={sheet}
								layer={layer}
								solo={soloed?.upTo === index}
								onSolo={() => soloStep(index)}
								onChange={(next) => change(index, next)}
								onRemove={() => put(recipe.length > 1 ? recipe.filter((_, i) => i !== index) : null)}
							/>
						))}
					</ol>
				</SortableContext>
			</DndContext>
			<div className="flex gap-1.5 border-t border-rule px-3 py-2">
				<Menu label="Add a source" className="cut flex-1 border border-rule bg-sheet !py-1" items={adder(sourceKinds)}>
					Add a source
				</Menu>
				<Menu label="Add a shaper" className="cut flex-1 border border-rule bg-sheet !py-1" items={adder(shaperKinds)}>
					Add a shaper
				</Menu>
			</div>
		</div>
	);
}

const mixWords: Readonly<Record<Mixing, string>> = {
	replace: 'Replace',
	multiply: 'Multiply',
	divide: 'Divide',
	screen: 'Screen',
	overlay: 'Overlay',
	max: 'Lighter of both',
	min: 'Darker of both',
	add: 'Add',
	subtract: 'Subtract',
};

function StepRow({
	step,
	index,
	sheet,
	layer,
	solo,
	onSolo,
	onChange,
	onRemove,
}: {
	readonly step: RecipeStep;
	readonly index: number;
	readonly sheet: Sheet;
	readonly layer: Layer;
	readonly solo: boolean;
	readonly onSolo: () => void;
	readonly onChange: (step: RecipeStep) => void;
	readonly onRemove: () => void;
}) {
	const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition } = useSortable({
		id: step.id,
	});
	const picture = useStudio((state) => (state.steps?.layer === layer.id ? state.steps : null));
	const url = useMemo(() => {
		const tone = picture?.tones[index];
		return picture && tone ? greyUrl(tone, picture.side, sheet.width / sheet.height) : null;
	}, [picture, index, sheet.width, sheet.height]);
	const others = [...eachLayer(sheet.layers)].filter((each) => each.id !== layer.id && each.kind !== 'adjust');
	return (
		<li
			ref={setNodeRef}
			style={{ transform: transform ? `translateY(${transform.y}px)` : undefined, transition }}
			className={`cut mb-2 border bg-sheet p-1.5 ${solo ? 'border-berry outline-1 outline-berry' : 'border-rule'} ${step.on ? '' : 'opacity-60'}`}
			data-step={step.step}
		>
			<div className="flex items-center gap-1.5">
				<button
					type="button"
					ref={setActivatorNodeRef}
					{...attributes}
					{...listeners}
					aria-label={`Move step ${index + 1}`}
					className="cursor-grab text-ash"
				>
					<DotsSixVerticalIcon size={15} />
				</button>
				<button
					type="button"
					onClick={onSolo}
					aria-pressed={solo}
					aria-label={`See the mask up to step ${index + 1}`}
					title="See the mask up to this step"
					className="cut-small size-9 shrink-0 overflow-hidden border border-black/20 bg-black"
				>
					{url && <img src={url} alt="" className="size-full object-cover" draggable={false} />}
				</button>
				<div className="min-w-0 flex-1">
					<p className="truncate font-semibold">{stepKindOf(step).words}</p>
					{!isShaper(step) && (
						<span className="flex text-[12px]">
							<Select
								label={`How step ${index + 1} joins`}
								look="word"
								value={step.mix}
								options={mixings.map((mix) => [mix, mixWords[mix]] as const)}
								onChange={(mix) => onChange({ ...step, mix })}
							/>
						</span>
					)}
				</div>
				<button
					type="button"
					aria-label={`${step.on ? 'Switch off' : 'Switch on'} step ${index + 1}`}
					aria-pressed={step.on}
					onClick={() => onChange({ ...step, on: !step.on })}
				>
					{step.on ? <EyeIcon size={15} /> : <EyeSlashIcon size={15} />}
				</button>
				<button type="button" aria-label={`Take step ${index + 1} out`} onClick={onRemove}>
					<XIcon size={13} />
				</button>
			</div>
			<div className="mt-1 text-[12px]">
				<StepDials step={step} others={others} onChange={onChange} />
			</div>
		</li>
	);
}

/** A step's tones as a picture. */
function greyUrl(tone: Uint8Array, side: number, aspect: number): string {
	const width = Math.ceil(aspect >= 1 ? side : side * aspect);
	const height = Math.max(1, Math.floor(tone.length / width));
	const data = new Uint8ClampedArray(width * height * 4);
	for (let i = 0; i < width * height; i++)
		data.set([tone[i] as number, tone[i] as number, tone[i] as number, 255], i * 4);
	const canvas = Object.assign(document.createElement('canvas'), { width, height });
	canvas.getContext('2d')?.putImageData(new ImageData(data, width, height), 0, 0);
	return canvas.toDataURL();
}

export const recipeDrawer: DrawerKind = {
	name: 'recipe',
	label: 'Mask recipe',
	asks: 'Mask recipe drawer',
	Drawer: RecipeDrawer,
};
