import type { LightLayer } from '@eppu/core/document';
import {
	type Bake,
	type BakedTint,
	isToneBake,
	type Lamp,
	MOST_LAMPS,
	type Rig,
	type StrokesOf,
} from '@eppu/core/light';
import { PlusIcon } from '@phosphor-icons/react/dist/csr/Plus';
import { TrashIcon } from '@phosphor-icons/react/dist/csr/Trash';
import { changeLight } from '../../actions/light.ts';
import { bakesOf } from '../../studio/bakes.ts';
import { useStudio } from '../../studio/store.ts';
import { Check } from '../../ui/Check.tsx';
import { Choice } from '../../ui/Choice.tsx';
import { Dial } from '../../ui/Dial.tsx';
import { type DialRow, Dials } from '../../ui/Dials.tsx';
import { Menu } from '../../ui/Menu.tsx';
import { Select } from '../../ui/Select.tsx';
import { useGesture } from '../../ui/useGesture.ts';
import { Dome } from './Dome.tsx';
import { ColorWell, TintRow } from './TintRow.tsx';

/** Lamps as they are first added. */
const newLamps: readonly Omit<Lamp, 'id'>[] = [
	{ name: 'Key', on: true, turn: -40, rise: 45, color: '#ffe9c2', strength: 0.6, soft: 0.35, key: true },
	{ name: 'Fill', on: true, turn: 110, rise: 15, color: '#9fb4e0', strength: 0.2, soft: 0.8, key: false },
	{ name: 'Rim', on: true, turn: 150, rise: 30, color: '#dfe6ff', strength: 0.4, soft: 0.15, key: false },
	{ name: 'Bounce', on: true, turn: 10, rise: -70, color: '#d89a66', strength: 0.15, soft: 0.7, key: false },
];

const lampRows: readonly DialRow<Lamp>[] = [
	['strength', 'Strength', 0, 2, 0.6, '%', { percent: true }],
	['soft', 'Goes round', 0, 1, 0.35, '%', { hint: 'How far its light goes round what it meets' }],
];
const strokeRows: readonly DialRow<StrokesOf>[] = [
	['size', 'Size', 0.5, 40, 5, '%', { ratio: true, percent: false, hint: 'Across, in hundredths of the model' }],
	['length', 'Length', 1, 12, 3, '', { ratio: true }],
	['turn', 'Turn', -90, 90, 0, '°', { hint: 'From the way down the form' }],
	['edge', 'Hard rim', 0, 1, 0.7, '%'],
	['contrast', 'Contrast', 0, 1, 0.35, '%'],
];

interface BayProps {
	readonly rig: Rig;
	readonly change: (change: Partial<Rig>) => void;
}

/** All that makes a light layer, bay by bay. */
export function RigBays({
	layer,
	everywhere,
	lamp,
	setLamp,
}: {
	readonly layer: LightLayer;
	/** Its namesakes on the other sheets of the model change with it. */
	readonly everywhere: boolean;
	readonly lamp: string | null;
	readonly setLamp: (id: string | null) => void;
}) {
	const gesture = useGesture();
	const { rig } = layer;
	const change = (what: Partial<Rig>): void => changeLight(layer, what, everywhere, gesture());
	return (
		<>
			<LampBay rig={rig} change={change} lamp={lamp} setLamp={setLamp} />
			<AroundBay rig={rig} change={change} />
			<ShapeBay rig={rig} change={change} />
			<BrushBay rig={rig} change={change} />
		</>
	);
}

function LampBay({
	rig,
	change,
	lamp: id,
	setLamp,
}: BayProps & { readonly lamp: string | null; readonly setLamp: (id: string | null) => void }) {
	const { lamps } = rig;
	const lamp = lamps.find((each) => each.id === id) ?? lamps[0];
	const put = (of: string, what: Partial<Lamp>): void =>
		change({ lamps: lamps.map((each) => (each.id === of ? { ...each, ...what } : each)) });
	const add = (kind: Omit<Lamp, 'id'>): void => {
		const added = { ...kind, id: crypto.randomUUID() };
		change({ lamps: [...lamps, added] });
		setLamp(added.id);
	};
	return (
		<section aria-label="Lamps" className="flex shrink-0 gap-2.5">
			<div>
				<h2 className="bay-title mb-1">Lamps</h2>
				<Dome lamps={lamps} chosen={lamp?.id ?? null} onChoose={setLamp} onMove={put} />
			</div>
			<div className="w-[196px]">
				<div className="mb-1.5 flex flex-wrap items-center gap-1" role="radiogroup" aria-label="Lamps">
					{lamps.map((each) => (
						<button
							key={each.id}
							type="button"
							role="radio"
							aria-checked={each.id === lamp?.id}
							onClick={() => setLamp(each.id)}
							className={`cut-small flex items-center gap-1 px-1.5 py-0.5 text-[12px] leading-4 ${each.id === lamp?.id ? 'bg-pine text-on-pine' : 'bg-bark hover:bg-bark-deep'} ${each.on ? '' : 'opacity-60'}`}
						>
							<span className="size-2.5 rounded-full border border-black/30" style={{ background: each.color }} />
							{each.name}
						</button>
					))}
					<Menu
						label="Add a lamp"
						className="!p-0.5"
						items={
							lamps.length < MOST_LAMPS
								? newLamps.map((each) => ({ label: each.name, run: () => add(each) }))
								: [{ label: `A light has ${MOST_LAMPS} lamps at the most` }]
						}
					>
						<PlusIcon size={14} />
					</Menu>
				</div>
				{lamp ? (
					<div className="flex flex-col gap-0.5 text-[12px]">
						<Dials of={lamp} rows={lampRows} onChange={(what) => put(lamp.id, what)} />
						<div className="mt-1 flex items-center gap-2">
							<ColorWell label={lamp.name} color={lamp.color} onChange={(color) => put(lamp.id, { color })} />
							<Check label="On" value={lamp.on} onChange={(on) => put(lamp.id, { on })} />
							<Check label="Casts shade" value={lamp.key} onChange={(key) => put(lamp.id, { key })} />
							<span className="flex-1" />
							<button
								type="button"
								aria-label={`Take ${lamp.name} away`}
								title={`Take ${lamp.name} away`}
								className="cut-small p-0.5 hover:bg-bark"
								onClick={() => {
									change({ lamps: lamps.filter((each) => each !== lamp) });
									setLamp(null);
								}}
							>
								<TrashIcon size={14} />
							</button>
						</div>
					</div>
				) : (
					<p className="text-[12px] text-ash">No lamp: only what comes from around.</p>
				)}
			</div>
		</section>
	);
}

function AroundBay({ rig, change }: BayProps) {
	return (
		<section aria-label="Around" className="w-[206px] shrink-0 text-[12px]">
			<h2 className="bay-title mb-1">Around and shade</h2>
			<div className="flex flex-col gap-0.5">
				<TintRow
					label="Sky"
					tint={rig.sky}
					usual={0.45}
					most={2}
					onChange={(what) => change({ sky: { ...rig.sky, ...what } })}
				/>
				<TintRow
					label="Ground"
					tint={rig.ground}
					usual={0.38}
					most={2}
					onChange={(what) => change({ ground: { ...rig.ground, ...what } })}
				/>
				<TintRow
					label="Shade"
					tint={rig.shadow}
					usual={0.35}
					hint="Where no lamp reaches that casts shade; warmth and chroma are with its colour"
					onChange={(what) => change({ shadow: { ...rig.shadow, ...what } })}
				/>
				<TintRow
					label="Foot"
					tint={rig.rise}
					usual={0.5}
					hint="Lies on what is low and is gone further up"
					onChange={(what) => change({ rise: { ...rig.rise, ...what } })}
				/>
				{rig.rise.strength > 0 && (
					<div className="pl-6">
						<Dial
							wide
							label="Foot ends"
							value={rig.rise.to}
							least={0.05}
							most={1.5}
							usual={0.6}
							percent
							unit="%"
							onChange={(to) => change({ rise: { ...rig.rise, to } })}
						/>
					</div>
				)}
			</div>
		</section>
	);
}

function ShapeBay({ rig, change }: BayProps) {
	const bakes = useStudio(bakesOf).filter(isToneBake);
	return (
		<section aria-label="From bakes" className="w-[224px] shrink-0 text-[12px]">
			<h2 className="bay-title mb-1">From bakes</h2>
			<div className="flex flex-col gap-1">
				<BakedRow
					label="Occlusion"
					tint={rig.occlusion}
					usual={0.85}
					bakes={bakes}
					onChange={(what) => change({ occlusion: { ...rig.occlusion, ...what } })}
				/>
				<BakedRow
					label="Hollows"
					tint={rig.hollows}
					usual={0.5}
					bakes={bakes}
					onChange={(what) => change({ hollows: { ...rig.hollows, ...what } })}
				/>
				<BakedRow
					label="Edges"
					tint={rig.edges}
					usual={0.6}
					bakes={bakes}
					onChange={(what) => change({ edges: { ...rig.edges, ...what } })}
				/>
			</div>
		</section>
	);
}

function BakedRow<T extends BakedTint>({
	label,
	tint,
	usual,
	bakes,
	onChange,
}: {
	readonly label: string;
	readonly tint: T;
	readonly usual: number;
	readonly bakes: readonly Bake[];
	readonly onChange: (change: Partial<T>) => void;
}) {
	const lost = tint.bake !== null && tint.strength > 0 && !bakes.some(({ id }) => id === tint.bake);
	return (
		<div>
			<TintRow label={label} tint={tint} usual={usual} most={2} onChange={onChange} />
			{tint.strength > 0 && (
				<div className="flex pl-6">
					<Select
						label={`${label}: bake that is read`}
						look="word"
						value={tint.bake ?? ''}
						empty={lost ? 'Its bake was taken away' : 'Choose a bake…'}
						options={bakes.map((each) => [each.id, each.name] as const)}
						onChange={(bake) => onChange({ bake } as Partial<T>)}
					/>
				</div>
			)}
		</div>
	);
}

const stepChoices = [
	['0', 'Smooth'],
	['1', 'Two tones'],
	['2', '3'],
	['3', '4'],
	['5', '6'],
] as const;
const firstStrokes: StrokesOf = { size: 5, length: 3, turn: 0, edge: 0.7, contrast: 0.35, seed: 1 };

function BrushBay({ rig, change }: BayProps) {
	const { strokes } = rig;
	return (
		<section aria-label="How it is laid" className="w-[210px] shrink-0 text-[12px]">
			<h2 className="bay-title mb-1">How it is laid</h2>
			<Choice
				label="Steps of tone"
				tight
				value={String(rig.steps) as (typeof stepChoices)[number][0]}
				options={stepChoices}
				onChange={(steps) => change({ steps: Number(steps) })}
			/>
			<div className="mt-1 flex flex-col gap-0.5">
				{rig.steps > 0 && (
					<Dial
						wide
						label="Soft"
						value={rig.soft}
						least={0}
						most={1}
						usual={0.5}
						unit="%"
						hint="How soft the borders between tones are"
						onChange={(soft) => change({ soft })}
					/>
				)}
				<div className="flex items-center gap-2">
					<Check
						label="In strokes"
						value={strokes !== null}
						onChange={(on) => change({ strokes: on ? firstStrokes : null })}
					/>
					{strokes && (
						<button
							type="button"
							className="cut-small bg-bark px-1.5 hover:bg-bark-deep"
							onClick={() => change({ strokes: { ...strokes, seed: (strokes.seed + 1) % 100000 } })}
						>
							Another chance
						</button>
					)}
				</div>
				{strokes && (
					<Dials of={strokes} rows={strokeRows} onChange={(what) => change({ strokes: { ...strokes, ...what } })} />
				)}
			</div>
		</section>
	);
}
