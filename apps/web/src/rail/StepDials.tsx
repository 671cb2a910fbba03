import type { Layer } from '@eppu/core/document';
import { isShaper, type RecipeStep, type StepName } from '@eppu/core/recipe';
import { Choice } from '../ui/Choice.tsx';
import { Dial } from '../ui/Dial.tsx';
import { Select } from '../ui/Select.tsx';
import { PictureChoice } from './PictureChoice.tsx';

export const stepNames: Readonly<Record<StepName, string>> = {
	tone: 'One tone',
	painted: 'Painted by hand',
	tap: 'Tap another layer',
	tones: 'Tone range of a layer',
	noise: 'Noise',
	clouds: 'Clouds',
	speckle: 'Speckle',
	scratches: 'Scratches',
	drips: 'Drips',
	streaks: 'Streaks',
	strokes: 'Brush strokes',
	pieces: 'A tone for each piece',
	height: 'Height',
	facing: 'Facing',
	edges: 'Edges of the model',
	picture: 'Tiled picture',
	levels: 'Levels',
	invert: 'Invert',
	blur: 'Blur',
	smudge: 'Blur along a direction',
	warp: 'Warp by clouds',
	grow: 'Grow or shrink',
};

/** A field that is a number: its label and range; lengths in texels, angles in degrees, else shares. */
type Range = readonly [label: string, least: number, most: number, unit: '' | ' px' | '°' | '%', ratio?: boolean];

/** The dials of each step's fields, in the order shown. */
const ranges: Readonly<Record<string, Range>> = {
	value: ['Tone', 0, 1, ''],
	size: ['Size', 0.5, 100, '%', true],
	contrast: ['Contrast', 0, 1, ''],
	rough: ['Rough', 0, 1, ''],
	dense: ['Dense', 0, 1, ''],
	thick: ['Thick', 0, 1, ''],
	spread: ['Spread', 1, 180, '°'],
	stretch: ['Stretch', 1, 40, ''],
	low: ['From', 0, 1, ''],
	high: ['To', 0, 1, ''],
	from: ['From', -0.5, 1.5, ''],
	to: ['To', -0.5, 1.5, ''],
	angle: ['Sharper than', 0, 170, '°'],
	width: ['Width', 0, 128, ' px'],
	soft: ['Soft', 0, 1, ''],
	black: ['Black', 0, 1, ''],
	white: ['White', 0, 1, ''],
	gamma: ['Middle', 0.1, 10, '', true],
	radius: ['Radius', 0, 64, ' px'],
	length: ['Length', 1, 20, ''],
	scale: ['Size', 8, 2048, ' px', true],
	turn: ['Turn', -180, 180, '°'],
	by: ['By', -64, 64, ' px'],
	amount: ['Amount', 0, 1, '%'],
};
const special: Readonly<Record<string, Range>> = {
	'smudge.length': ['Length', 0, 128, ' px'],
	'warp.by': ['By', -128, 128, ' px'],
	'warp.size': ['Size', 4, 512, ' px', true],
};

export function StepDials({
	step,
	others,
	onChange,
}: {
	readonly step: RecipeStep;
	readonly others: readonly Layer[];
	readonly onChange: (step: RecipeStep) => void;
}) {
	const fields = step as unknown as Readonly<Record<string, unknown>>;
	const set = (change: object): void => onChange({ ...step, ...change } as RecipeStep);
	return (
		<div className="flex flex-col gap-0.5">
			{'layer' in step && (
				<Select
					label="Layer that is tapped"
					empty="Choose a layer…"
					value={step.layer}
					options={others.map((each) => [each.id, each.name] as const)}
					onChange={(layer) => set({ layer })}
				/>
			)}
			{step.step === 'tap' && (
				<Choice
					label="What of it"
					value={step.of}
					options={[
						['tone', 'Tone'],
						['shape', 'Shape'],
						['mask', 'Mask'],
					]}
					onChange={(of) => set({ of })}
				/>
			)}
			{step.step === 'edges' && (
				<Choice
					label="Which"
					value={step.of}
					options={[
						['edges', 'Edges'],
						['hollows', 'Hollows'],
					]}
					onChange={(of) => set({ of })}
				/>
			)}
			{step.step === 'pieces' && (
				<Choice
					label="Pieces"
					value={step.by}
					options={[
						['island', 'Islands'],
						['part', 'Parts'],
						['face', 'Faces'],
					]}
					onChange={(by) => set({ by })}
				/>
			)}
			{'axis' in step && (
				<Choice
					label="Axis"
					value={step.axis}
					options={[
						['x', 'X'],
						['y', 'Y (up)'],
						['z', 'Z'],
					]}
					onChange={(axis) => set({ axis })}
				/>
			)}
			{step.step === 'facing' && (
				<Choice
					label="Way"
					value={step.way === 1 ? 'along' : 'against'}
					options={[
						['along', 'Along it'],
						['against', 'Against it'],
					]}
					onChange={(way) => set({ way: way === 'along' ? 1 : -1 })}
				/>
			)}
			{'space' in step && (
				<Choice
					label="Space"
					value={step.space}
					options={[
						['model', 'On the model'],
						['sheet', 'On the sheet'],
					]}
					onChange={(space) => set({ space })}
				/>
			)}
			{step.step === 'picture' && (
				<PictureChoice label="Picture" value={step.picture} onChange={(picture) => set({ picture })} />
			)}
			{Object.keys(ranges).map((field) => {
				const value = fields[field];
				if (typeof value !== 'number') return null;
				const [label, least, most, unit, ratio] = special[`${step.step}.${field}`] ?? (ranges[field] as Range);
				return (
					<Dial
						key={field}
						wide
						label={label}
						unit={unit}
						least={least}
						most={most}
						ratio={ratio ?? false}
						percent={field === 'amount'}
						value={value}
						usual={value}
						onChange={(next) => set({ [field]: next })}
					/>
				);
			})}
			{'seed' in step && !isShaper(step) && (
				<button
					type="button"
					className="cut-small self-start bg-bark px-2 hover:bg-bark-deep"
					onClick={() => set({ seed: (step.seed + 1) % 100000 })}
				>
					Another chance
				</button>
			)}
		</div>
	);
}
