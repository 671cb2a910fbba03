import { moveBy, takeUp } from '../app/moving.ts';
import { activeLayer, type Grading, type Shaping, useStudio } from '../studio/store.ts';
import { Button } from '../ui/Button.tsx';
import { Check } from '../ui/Check.tsx';
import { Choice } from '../ui/Choice.tsx';
import { Dial } from '../ui/Dial.tsx';

const bay = 'min-w-0 overflow-y-auto border-r border-rule px-3 py-2';

/** How shapes are drawn. */
export function ShapeBay() {
	const shaping = useStudio((state) => state.shaping);
	const lettering = useStudio((state) => activeLayer(state)?.kind === 'text');
	const set = (change: Partial<Shaping>): void => useStudio.setState({ shaping: { ...shaping, ...change } });
	return (
		<div className={bay}>
			<Choice
				label="Shape"
				value={shaping.kind}
				options={[
					['rectangle', 'Rectangle'],
					['ellipse', 'Ellipse'],
					['polygon', 'Polygon'],
					['line', 'Line'],
				]}
				onChange={(kind) => set({ kind })}
			/>
			<div className="mt-2 grid grid-cols-1 gap-x-4 min-[1150px]:grid-cols-2">
				{shaping.kind !== 'line' && (
					<Check label="Outline only" value={shaping.outline} onChange={(outline) => set({ outline })} />
				)}
				<Dial
					label="Thick"
					unit=" px"
					least={1}
					most={256}
					ratio
					value={shaping.thick}
					usual={6}
					onChange={(thick) => set({ thick })}
				/>
				{shaping.kind === 'rectangle' && (
					<Dial
						label="Corners"
						unit=" px"
						least={0}
						most={256}
						value={shaping.radius}
						usual={0}
						onChange={(radius) => set({ radius })}
					/>
				)}
				<Dial
					label="Repeat"
					unit=""
					least={1}
					most={64}
					value={shaping.repeat}
					usual={1}
					onChange={(v) => set({ repeat: Math.round(v) })}
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
					? 'A line or polygon drawn now is what the chosen lettering runs along'
					: shaping.kind === 'polygon'
						? 'Click place after place; Enter closes'
						: 'Drag on the sheet; Ctrl keeps the sides equal'}
			</p>
		</div>
	);
}

/** How gradients are laid. */
export function GradientBay() {
	const grading = useStudio((state) => state.grading);
	const set = (change: Partial<Grading>): void => useStudio.setState({ grading: { ...grading, ...change } });
	return (
		<div className={bay}>
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
			<p className="mt-2 text-[12px] text-ash">
				Drag on the sheet from start to end. A selection limits it; a wash that is chosen takes it as its own and can be
				changed later.
			</p>
		</div>
	);
}

/** What is moved, in figures. */
export function MoveBay() {
	const moving = useStudio((state) => state.moving);
	const smooth = useStudio((state) => state.smooth);
	const outlineOnly = useStudio((state) => state.outlineOnly);
	const selected = useStudio((state) => state.selections.has(state.moving?.sheet ?? ''));
	if (!moving)
		return (
			<div className={bay}>
				<p className="mt-2 text-ash">There is nothing to move: choose a layer with paint on it, or select something.</p>
			</div>
		);
	const dial = { least: -180, most: 180, unit: '°', usual: 0 } as const;
	const small = '!px-2 !py-0 !text-[12px]';
	return (
		<div className={bay}>
			<div className="grid grid-cols-1 gap-x-4 min-[1150px]:grid-cols-2">
				<Dial
					label="Across"
					unit=" px"
					least={-2048}
					most={2048}
					value={moving.x}
					usual={0}
					onChange={(x) => moveBy({ x })}
				/>
				<Dial
					label="Down"
					unit=" px"
					least={-2048}
					most={2048}
					value={moving.y}
					usual={0}
					onChange={(y) => moveBy({ y })}
				/>
				<Dial
					label="Width"
					unit="%"
					percent
					least={-4}
					most={4}
					value={moving.scaleX}
					usual={1}
					onChange={(v) => moveBy({ scaleX: v || 0.01 })}
				/>
				<Dial
					label="Height"
					unit="%"
					percent
					least={-4}
					most={4}
					value={moving.scaleY}
					usual={1}
					onChange={(v) => moveBy({ scaleY: v || 0.01 })}
				/>
				<Dial label="Turn" {...dial} value={moving.turn} onChange={(turn) => moveBy({ turn })} />
				<Dial label="Skew" {...dial} least={-75} most={75} value={moving.skew} onChange={(skew) => moveBy({ skew })} />
			</div>
			<div className="mt-1.5 flex flex-wrap items-center gap-1">
				<Button className={small} onClick={() => moveBy({ scaleX: -moving.scaleX })}>
					Flip across
				</Button>
				<Button className={small} onClick={() => moveBy({ scaleY: -moving.scaleY })}>
					Flip down
				</Button>
				<Button className={small} onClick={() => moveBy({ turn: ((moving.turn + 270) % 360) - 180 })}>
					Quarter turn
				</Button>
				<Choice
					label="How texels are read"
					value={smooth ? 'smooth' : 'nearest'}
					options={[
						['smooth', 'Smooth'],
						['nearest', 'Whole texels'],
					]}
					onChange={(how) => {
						useStudio.setState({ smooth: how === 'smooth' });
						moveBy({});
					}}
				/>
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
			</div>
		</div>
	);
}
