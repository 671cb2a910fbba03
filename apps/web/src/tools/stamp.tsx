import { StampIcon } from '@phosphor-icons/react/dist/csr/Stamp';
import { setDesk } from '../studio/desk.ts';
import { useStudio } from '../studio/store.ts';
import { Check } from '../ui/Check.tsx';
import { Choice } from '../ui/Choice.tsx';
import { Dial } from '../ui/Dial.tsx';
import { Popover } from '../ui/Popover.tsx';
import { optionTrigger, type ToolKind } from './kind.ts';

function StampOptions() {
	const { stamp } = useStudio((state) => state.desk);
	return (
		<Popover
			label="How stamps are set"
			className={optionTrigger}
			trigger={stamp.repeat > 1 ? `×${stamp.repeat} ${stamp.way}` : 'Once'}
		>
			<Dial
				label="Repeat"
				unit=""
				least={1}
				most={60}
				value={stamp.repeat}
				usual={1}
				onChange={(repeat) => setDesk({ stamp: { ...stamp, repeat: Math.round(repeat) } })}
			/>
			<div className="my-2">
				<Choice
					label="Where repeats stand"
					value={stamp.way}
					options={[
						['row', 'In a row'],
						['ring', 'In a ring'],
					]}
					onChange={(way) => setDesk({ stamp: { ...stamp, way } })}
				/>
			</div>
			<Check
				label="Takes paint away in its shape"
				value={stamp.takes}
				onChange={(takes) => setDesk({ stamp: { ...stamp, takes } })}
			/>
		</Popover>
	);
}

export const stamp: ToolKind<'stamp'> = {
	name: 'stamp',
	label: 'Stamp',
	asks: 'Stamp: press and drag out',
	keys: 'Shift+D',
	Icon: StampIcon,
	hint: 'Press, drag out size and angle, let go',
	Options: StampOptions,
	placed: true,
	stroke: ({ desk }) => (desk.stamp.takes ? 'wipe' : 'draw'),
};
