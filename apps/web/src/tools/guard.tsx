import { ShieldIcon } from '@phosphor-icons/react/dist/csr/Shield';
import { setDesk } from '../studio/desk.ts';
import { tell } from '../studio/line.ts';
import { useStudio } from '../studio/store.ts';
import { Choice } from '../ui/Choice.tsx';
import { Popover } from '../ui/Popover.tsx';
import { bay, optionTrigger, type ToolKind } from './kind.ts';

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
			{guard && (
				<div className="mt-2 flex flex-wrap items-center gap-2">
					<Choice
						label="Paint goes"
						value={guard.way}
						options={[
							['only', 'Only there'],
							['not', 'Everywhere else'],
						]}
						onChange={(way) => setDesk({ guard: { ...guard, way } })}
					/>
					<button type="button" className="cut-small bg-bark px-2 py-0.5" onClick={() => setDesk({ guard: null })}>
						Lift the guard
					</button>
				</div>
			)}
		</>
	);
}

/** Shown with every tool while a guard is set. */
export function GuardOptions() {
	const { guard } = useStudio((state) => state.desk);
	return (
		<Popover
			label="The guard"
			className={`${optionTrigger} ${guard ? 'bg-berry-soft text-on-berry' : ''}`}
			trigger={guard ? `Guard ${guard.parts.length + guard.islands.length + guard.faces.length}` : 'Guard'}
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
