import type { OutlineEdit, RimOf } from '@eppu/core/edit';
import { type DitherName, dithers } from '@eppu/core/pixel';
import { tell } from '../studio/line.ts';
import { edit } from '../studio/say.ts';
import { activeLayer, activeSheet, type Pixeling, pots, useStudio } from '../studio/store.ts';
import { Button } from '../ui/Button.tsx';
import { Check } from '../ui/Check.tsx';
import { Choice } from '../ui/Choice.tsx';
import { Dial } from '../ui/Dial.tsx';

const bay = 'min-w-0 overflow-y-auto border-r border-rule px-3 py-2';

const set = (change: Partial<Pixeling>): void =>
	useStudio.setState({ pixeling: { ...useStudio.getState().pixeling, ...change } });

const patterns: readonly (readonly [DitherName | 'all', string])[] = [
	['all', 'All texels'],
	...dithers.map(({ name, label }) => [name, label] as const),
];

/** In which pattern texels are laid. */
export function Patterns() {
	const { dither, share, between } = useStudio((state) => state.pixeling);
	return (
		<>
			<Choice
				tight
				label="Pattern"
				value={dither ?? 'all'}
				options={patterns}
				onChange={(next) => set({ dither: next === 'all' ? null : next })}
			/>
			{dither && (
				<div className="mt-1.5 flex items-center gap-4">
					<div className="w-52">
						<Dial
							label="Laid"
							unit="%"
							percent
							least={0}
							most={1}
							value={share}
							usual={0.5}
							hint="Share of the texels that get the front pot"
							onChange={(next) => set({ share: next })}
						/>
					</div>
					<Check label="Back pot between" value={between} onChange={(next) => set({ between: next })} />
				</div>
			)}
		</>
	);
}

/** The pencil of a pixel sheet: how many texels it lays, and in which pattern. */
export function PencilBay() {
	const { size, corners } = useStudio((state) => state.pixeling);
	const tool = useStudio((state) => state.tool);
	return (
		<div className={bay}>
			<div className="mb-1.5 flex items-center gap-4">
				<div className="w-52">
					<Dial
						label="Texels"
						unit=""
						least={1}
						most={32}
						value={size}
						usual={1}
						hint="Along a side of the pencil"
						onChange={(next) => set({ size: Math.round(next) })}
					/>
				</div>
				{size === 1 && (
					<Check
						label="Keep doubled corners"
						value={corners}
						onChange={(next) => set({ corners: next })}
						hint="Else a texel that only stands in a corner of the line is left out"
					/>
				)}
			</div>
			{tool === 'draw' || tool === 'wipe' ? (
				<Patterns />
			) : (
				<p className="text-[12px] text-ash">
					{tool === 'soften'
						? 'Each texel takes the nearest colour of the palette to what lies around it'
						: 'Each texel goes one step along its ramp, once a stroke'}
				</p>
			)}
		</div>
	);
}

/** How whole texels are filled: those that are joined, or all of that colour. */
export function TexelFillBay() {
	const filling = useStudio((state) => state.filling);
	return (
		<div className={bay}>
			<div className="mb-1.5">
				<Choice
					label="Fill"
					value={filling.everywhere ? 'all' : 'joined'}
					options={[
						['joined', 'Joined texels of one colour'],
						['all', 'All texels of that colour'],
					]}
					onChange={(next) => useStudio.setState({ filling: { ...filling, everywhere: next === 'all' } })}
				/>
			</div>
			<Patterns />
		</div>
	);
}

const sides: readonly (readonly [string, string, readonly [number, number] | null])[] = [
	['all', 'All sides', null],
	['top-left', 'Top left', [-1, -1]],
	['top', 'Top', [0, -1]],
	['top-right', 'Top right', [1, -1]],
	['left', 'Left', [-1, 0]],
	['right', 'Right', [1, 0]],
	['bottom', 'Bottom', [0, 1]],
];

/** What is done with the outline, the ring around it, and what is within. */
export function OutlineBay() {
	const { rim: of, touching, side, deep } = useStudio((state) => state.pixeling);
	const front = useStudio((state) => pots(state).front);
	const sheet = useStudio(activeSheet);
	const layer = useStudio(activeLayer);
	const small = '!px-2 !py-0 !text-[12px]';
	const act = (what: OutlineEdit['act'], where: RimOf = of): void =>
		edit({ do: 'outline', rim: { of: where, touching, side: where === 'inside' ? null : side }, act: what });
	const select = (what: 'outline' | 'inside'): void => {
		if (sheet && layer)
			tell({ say: 'select', sheet: sheet.id, by: { by: 'layer', layer: layer.id, of: what }, joining: 'replace' });
	};
	const pass = (): void => {
		if (!sheet || !layer) return;
		const newIds = [crypto.randomUUID(), crypto.randomUUID()] as const;
		const spec = { side: side ?? ([-1, -1] as const), touching, deep, within: of === 'inside' };
		tell({ say: 'passes', sheet: sheet.id, layer: layer.id, spec, newIds });
	};
	const chosen = sides.find(([, , each]) => JSON.stringify(each) === JSON.stringify(side))?.[0] ?? 'all';
	return (
		<div className={bay}>
			<div className="flex flex-wrap items-center gap-x-4 gap-y-1.5">
				<Choice
					label="Which texels"
					value={of}
					options={[
						['outline', 'Outline'],
						['inside', 'Inside'],
						['outside', 'Ring around'],
					]}
					onChange={(rim) => set({ rim })}
				/>
				<Choice
					tight
					label="Texels touch"
					value={String(touching) as '4' | '8'}
					options={[
						['4', 'At sides'],
						['8', 'At corners too'],
					]}
					onChange={(next) => set({ touching: next === '4' ? 4 : 8 })}
				/>
			</div>
			<div className="mt-1.5">
				<Choice
					tight
					label="Light comes from"
					value={chosen}
					options={sides.map(([name, label]) => [name, label] as const)}
					onChange={(next) => set({ side: sides.find(([name]) => name === next)?.[2] ?? null })}
				/>
			</div>
			<div className="mt-1.5 flex flex-wrap items-center gap-1">
				<Button className={small} look="main" onClick={() => act({ to: 'color', color: front })}>
					{of === 'outside' ? 'Add in the front pot' : 'Front pot'}
				</Button>
				{of !== 'outside' && (
					<>
						<Button className={small} onClick={() => act({ to: 'step', by: -1 })}>
							Darken a step
						</Button>
						<Button className={small} onClick={() => act({ to: 'step', by: 1 })}>
							Lighten a step
						</Button>
						<Button className={small} onClick={() => act({ to: 'nothing' })}>
							Take off
						</Button>
						<Button className={small} onClick={() => select(of)}>
							Select
						</Button>
					</>
				)}
			</div>
			{of !== 'outside' && (
				<div className="mt-1.5 flex items-center gap-3">
					<Button
						className={small}
						title={`Above this layer, ${of === 'inside' ? 'within its outline' : 'from its border'}: texels that look towards the light${side ? '' : ' (top left)'} a step lighter, those that look away a step darker`}
						onClick={pass}
					>
						Light and dark as layers
					</Button>
					<div className="w-40">
						<Dial
							label="Deep"
							unit=""
							least={1}
							most={8}
							value={deep}
							usual={1}
							hint="Texels from the border"
							onChange={(next) => set({ deep: Math.round(next) })}
						/>
					</div>
				</div>
			)}
		</div>
	);
}
