import { dithers } from '@eppu/core/pixel';
import { moveBy, movesWhole, takeUp } from '../actions/moving.ts';
import { activeLayer, type Grading, type Moving, type Shaping, type StudioState, useStudio } from '../studio/store.ts';
import { bay } from '../tools/kind.ts';
import { Button } from '../ui/Button.tsx';
import { Check } from '../ui/Check.tsx';
import { Choice } from '../ui/Choice.tsx';
import { type DialRow, Dials } from '../ui/Dials.tsx';
import { Patterns } from './PixelBays.tsx';

const thick: DialRow<Shaping> = ['thick', 'Thick', 1, 256, 6, ' px', { ratio: true }];
const corners: DialRow<Shaping> = ['radius', 'Corners', 0, 256, 0, ' px'];
const repeat: DialRow<Shaping> = ['repeat', 'Repeat', 1, 64, 1, '', { whole: true }];

const shapeKinds: readonly (readonly [Shaping['kind'], string])[] = [
	['rectangle', 'Rectangle'],
	['ellipse', 'Ellipse'],
	['polygon', 'Polygon'],
	['line', 'Line'],
	['curve', 'Curve'],
];

/** How shapes are drawn. */
export function ShapeBay() {
	const shaping = useStudio((state) => state.shaping);
	const lettering = useStudio((state) => activeLayer(state)?.kind === 'text');
	const set = (change: Partial<Shaping>): void => useStudio.setState({ shaping: { ...shaping, ...change } });
	return (
		<div className={bay}>
			<Choice label="Shape" value={shaping.kind} options={shapeKinds} onChange={(kind) => set({ kind })} />
			<div className="mt-2 grid grid-cols-1 gap-x-4 min-[1150px]:grid-cols-2">
				{shaping.kind !== 'line' && shaping.kind !== 'curve' && (
					<Check label="Outline only" value={shaping.outline} onChange={(outline) => set({ outline })} />
				)}
				<Dials
					wide={false}
					of={shaping}
					rows={shaping.kind === 'rectangle' ? [thick, corners, repeat] : [thick, repeat]}
					onChange={set}
				/>
				{shaping.repeat > 1 && (
					<Choice
						label="Where repeats stand"
						value={shaping.way}
						options={[
							['row', 'In a row'],
							['ring', 'In a ring'],
						]}
						onChange={(way) => set({ way })}
					/>
				)}
			</div>
			<p className="mt-1 text-[12px] text-ash">
				{lettering
					? 'A rectangle drawn now is the box of the chosen lettering; a line or polygon is what it runs along'
					: shaping.kind === 'curve'
						? 'Click its start, its end, and where it is drawn to'
						: shaping.kind === 'polygon'
							? 'Click place after place; Enter closes'
							: 'Drag on either view; Ctrl keeps the sides equal, arrow keys turn corners and repeats'}
			</p>
		</div>
	);
}

/** How shapes of whole texels are drawn. */
export function TexelShapeBay() {
	const shaping = useStudio((state) => state.shaping);
	const pixeling = useStudio((state) => state.pixeling);
	const set = (change: Partial<Shaping>): void => useStudio.setState({ shaping: { ...shaping, ...change } });
	return (
		<div className={bay}>
			<div className="mb-1.5 flex flex-wrap items-center gap-x-4 gap-y-1.5">
				<Choice label="Shape" value={shaping.kind} options={shapeKinds} onChange={(kind) => set({ kind })} />
				{shaping.kind !== 'line' && shaping.kind !== 'curve' && (
					<Check label="Outline only" value={shaping.outline} onChange={(outline) => set({ outline })} />
				)}
				<div className="w-44">
					<Dials
						wide={false}
						of={pixeling}
						rows={[['size', 'Texels', 1, 32, 1, '', { whole: true, hint: 'How thick lines and outlines are' }]]}
						onChange={(change) => useStudio.setState({ pixeling: { ...pixeling, ...change } })}
					/>
				</div>
			</div>
			<Patterns />
		</div>
	);
}

/** Which way a gradient goes, and between which colours. */
function GradientChoices() {
	const grading = useStudio((state) => state.grading);
	const set = (change: Partial<Grading>): void => useStudio.setState({ grading: { ...grading, ...change } });
	return (
		<>
			<Choice
				label="Gradient"
				value={grading.way}
				options={[
					['linear', 'Straight'],
					['round', 'Round'],
					['angle', 'By angle'],
				]}
				onChange={(way) => set({ way })}
			/>
			<div className="mt-2 flex flex-wrap items-center gap-4">
				<Choice
					label="Colours"
					value={grading.colors}
					options={[
						['pots', 'Front to back pot'],
						['palette', 'Palette places 1 to 8'],
					]}
					onChange={(colors) => set({ colors })}
				/>
				<Check
					label="Fade out"
					value={grading.fade}
					onChange={(fade) => set({ fade })}
					hint="The end fades to nothing"
				/>
			</div>
		</>
	);
}

/** How gradients of whole texels are laid. */
export function TexelGradientBay() {
	const pixeling = useStudio((state) => state.pixeling);
	return (
		<div className={bay}>
			<div className="mb-2">
				<Choice
					tight
					label="Pattern between the colours"
					value={pixeling.dither ?? 'ordered-4'}
					options={dithers.map(({ name, label }) => [name, label] as const)}
					onChange={(dither) => useStudio.setState({ pixeling: { ...pixeling, dither } })}
				/>
			</div>
			<GradientChoices />
		</div>
	);
}

/** How gradients are laid. */
export function GradientBay() {
	return (
		<div className={bay}>
			<GradientChoices />
			<p className="mt-2 text-[12px] text-ash">
				Drag on either view from start to end. A selection limits it; a wash that is chosen takes it as its own and can
				be changed later.
			</p>
		</div>
	);
}

/** What the figures are of: where it was moved last, or where there is anything to move. */
const movingNow = ({ moves, movingOn }: StudioState): Moving | null => moves[movingOn] ?? moves.sheet ?? moves.model;

const figures: readonly DialRow<Moving>[] = [
	['x', 'Across', -2048, 2048, 0, ' px'],
	['y', 'Down', -2048, 2048, 0, ' px'],
	['scaleX', 'Width', -4, 4, 1, '%', { percent: true }],
	['scaleY', 'Height', -4, 4, 1, '%', { percent: true }],
	['turn', 'Turn', -180, 180, 0, '°'],
	['skew', 'Skew', -75, 75, 0, '°'],
];

/** On a pixel sheet nothing is slanted. */
const wholeFigures = figures.filter(([of]) => of !== 'skew');

/** What is moved, in figures. */
export function MoveBay() {
	const moving = useStudio(movingNow);
	const held = useStudio((state) => {
		const now = movingNow(state);
		return now !== null && movesWhole(state, now);
	});
	const smooth = useStudio((state) => state.smooth);
	const outlineOnly = useStudio((state) => state.outlineOnly);
	const selected = useStudio((state) => state.selections.has(movingNow(state)?.sheet ?? ''));
	if (!moving)
		return (
			<div className={bay}>
				<p className="mt-2 text-ash">There is nothing to move: choose a layer with paint on it, or select something.</p>
			</div>
		);
	const on = moving.seen ? 'model' : 'sheet';
	const small = '!px-2 !py-0 !text-[12px]';
	return (
		<div className={bay}>
			<div className="grid grid-cols-1 gap-x-4 min-[1150px]:grid-cols-2">
				<Dials
					wide={false}
					of={moving}
					rows={held ? wholeFigures : figures}
					onChange={(change) => moveBy(change, on)}
				/>
			</div>
			<div className="mt-1.5 flex flex-wrap items-center gap-1">
				<Button className={small} onClick={() => moveBy({ scaleX: -moving.scaleX }, on)}>
					Flip across
				</Button>
				<Button className={small} onClick={() => moveBy({ scaleY: -moving.scaleY }, on)}>
					Flip down
				</Button>
				<Button className={small} onClick={() => moveBy({ turn: ((moving.turn + 270) % 360) - 180 }, on)}>
					Quarter turn
				</Button>
				{!held && (
					<Choice
						label="How texels are read"
						value={smooth ? 'smooth' : 'nearest'}
						options={[
							['smooth', 'Smooth'],
							['nearest', 'Whole texels'],
						]}
						onChange={(how) => {
							useStudio.setState({ smooth: how === 'smooth' });
							moveBy({}, on);
						}}
					/>
				)}
				{selected && (
					<Check
						label="Outline only"
						value={outlineOnly}
						onChange={(on) => {
							useStudio.setState({ outlineOnly: on });
							void takeUp();
						}}
						hint="Moves the selection, not what is in it"
					/>
				)}
				<Button className={small} onClick={() => void takeUp()} title="Keep it so and begin a new move">
					Set down
				</Button>
				{held && <span className="text-ash">Whole texels: quarter turns, whole sizes</span>}
			</div>
		</div>
	);
}
