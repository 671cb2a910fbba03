import { eachLayer, type Guard, namesFaces, type ToneGuard } from '@eppu/core/document';
import { isToneBake } from '@eppu/core/light';
import { ShieldIcon } from '@phosphor-icons/react/dist/csr/Shield';
import { bakesOf } from '../studio/bakes.ts';
import { setDesk } from '../studio/desk.ts';
import { tell } from '../studio/line.ts';
import { activeSheet, useStudio } from '../studio/store.ts';
import { Choice } from '../ui/Choice.tsx';
import { type DialRow, Dials } from '../ui/Dials.tsx';
import { Popover } from '../ui/Popover.tsx';
import { Select } from '../ui/Select.tsx';
import { bay, optionTrigger, type ToolKind } from './kind.ts';

const free: Guard = { way: 'only', parts: [], islands: [], faces: [] };
const tones: readonly DialRow<ToneGuard>[] = [
	['from', 'From tone', 0, 1, 0.3, '%'],
	['soft', 'Soft', 0, 1, 0.3, '%'],
];

/** The guard with another tone; none at all where nothing of it is left. */
const withTone = (guard: Guard | null, tone: ToneGuard | null): Guard | null =>
	tone || (guard && namesFaces(guard)) ? { ...(guard ?? free), tone } : null;

/** Paint is kept to where a bake, or a layer's mask, is light or dark: into hollows, off the edges. */
function ToneDials() {
	const guard = useStudio((state) => state.desk.guard);
	const bakes = useStudio(bakesOf).filter(isToneBake);
	const sheet = useStudio(activeSheet);
	const masked = [...eachLayer(sheet?.layers ?? [])].filter(({ mask }) => mask);
	const tone = guard?.tone ?? null;
	const put = (next: ToneGuard | null): void => setDesk({ guard: withTone(guard, next) });
	const options = [
		['', 'No tone'] as const,
		...bakes.map(({ id, name }) => [`bake ${id}`, name] as const),
		...masked.map(({ id, name }) => [`mask ${id}`, `Mask of ${name}`] as const),
	];
	return (
		<div className="mt-2 grid gap-1 text-[12px]">
			<Select
				label="By a tone"
				value={tone ? `${tone.of} ${tone.id}` : ''}
				empty="By the tone of a bake or mask…"
				options={options.slice(tone ? 0 : 1)}
				onChange={(chosen) => {
					const [of, id] = chosen.split(' ') as ['bake' | 'mask', string | undefined];
					put(id === undefined ? null : { ...(tone ?? { from: 0.3, soft: 0.3, way: 'in' }), of, id });
				}}
			/>
			{tone && (
				<>
					<Choice
						label="Paint goes where the tone is"
						value={tone.way}
						options={[
							['in', 'Where it is light'],
							['out', 'Where it is dark'],
						]}
						onChange={(way) => put({ ...tone, way })}
					/>
					<Dials of={tone} rows={tones} onChange={(change) => put({ ...tone, ...change })} />
				</>
			)}
		</div>
	);
}

/** What the guard's click takes, and where paint goes while it is set. */
function GuardDials() {
	const { guard } = useStudio((state) => state.desk);
	const guardBy = useStudio((state) => state.guardBy);
	return (
		<>
			<Choice
				label="A click takes"
				value={guardBy}
				options={[
					['islands', 'An island'],
					['parts', 'A part'],
					['faces', 'A face'],
				]}
				onChange={(next) => useStudio.setState({ guardBy: next })}
			/>
			<ToneDials />
			{guard && (
				<div className="mt-2 flex flex-wrap items-center gap-2">
					{namesFaces(guard) && (
						<Choice
							label="Paint goes"
							value={guard.way}
							options={[
								['only', 'Only there'],
								['not', 'Everywhere else'],
							]}
							onChange={(way) => setDesk({ guard: { ...guard, way } })}
						/>
					)}
					<button type="button" className="cut-small bg-bark px-2 py-0.5" onClick={() => setDesk({ guard: null })}>
						Lift the guard
					</button>
				</div>
			)}
		</>
	);
}

/** What guards, in as few words as stand on a button. */
function guardWords(guard: Guard, bakes: readonly { readonly id: string; readonly name: string }[]): string {
	const named = guard.parts.length + guard.islands.length + guard.faces.length;
	const { tone } = guard;
	const by = tone ? (bakes.find(({ id }) => id === tone.id)?.name ?? 'a mask') : '';
	return `Guard${named ? ` ${named}` : ''}${by ? `: ${tone?.way === 'out' ? 'not ' : ''}${by}` : ''}`;
}

/** Shown with every tool while a guard is set. */
export function GuardOptions() {
	const { guard } = useStudio((state) => state.desk);
	const bakes = useStudio(bakesOf);
	return (
		<Popover
			label="The guard"
			className={`${optionTrigger} ${guard ? 'bg-berry-soft text-on-berry' : ''}`}
			trigger={guard ? guardWords(guard, bakes) : 'Guard'}
		>
			<GuardDials />
		</Popover>
	);
}

function GuardBay() {
	return (
		<div className={bay}>
			<GuardDials />
			<p className="mt-2 text-[12px] text-ash">
				Click in either view what may be painted; click it again to leave it out. Fills keep to it too.
			</p>
		</div>
	);
}

export const guard: ToolKind<'guard'> = {
	name: 'guard',
	label: 'Guard',
	asks: 'Guard: choose where paint may go',
	keys: 'Shift+C',
	Icon: ShieldIcon,
	hint: 'Click islands, parts or faces: paint goes only there',
	title: 'Guard: click what may be painted',
	Options: GuardOptions,
	Bay: GuardBay,
	press({ pointing }) {
		if (pointing) tell({ say: 'touch', place: pointing });
	},
};
