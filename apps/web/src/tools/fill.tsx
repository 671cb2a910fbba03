import { PaintBucketIcon } from '@phosphor-icons/react/dist/csr/PaintBucket';
import { tell } from '../studio/line.ts';
import { activeLayers, paintsMask, pots, useStudio } from '../studio/store.ts';
import { Choice } from '../ui/Choice.tsx';
import { Dial } from '../ui/Dial.tsx';
import { Popover } from '../ui/Popover.tsx';
import { optionTrigger, type ToolKind } from './kind.ts';

function FillOptions() {
	const filling = useStudio((state) => state.filling);
	return (
		<Popover
			label="What is filled"
			className={optionTrigger}
			trigger={filling.by === 'region' ? `Region ±${filling.reach}` : filling.by === 'part' ? 'Part' : 'Island'}
		>
			<Choice
				label="Fill by"
				value={filling.by}
				options={[
					['island', 'Island, or what is selected'],
					['part', 'All of a part'],
					['region', 'Region of like colour'],
				]}
				onChange={(by) => useStudio.setState({ filling: { ...filling, by } })}
			/>
			<Dial
				label="Reach"
				unit=""
				least={0}
				most={255}
				value={filling.reach}
				usual={24}
				onChange={(reach) => useStudio.setState({ filling: { ...filling, reach } })}
			/>
		</Popover>
	);
}

export const fill: ToolKind<'fill'> = {
	name: 'fill',
	label: 'Fill',
	asks: 'Fill with colour',
	keys: 'F',
	Icon: PaintBucketIcon,
	hint: 'Fill what is selected, else an island or a part and its bleed, or a whole template sheet',
	Options: FillOptions,
	press({ pointing, state }) {
		if (!pointing) return;
		tell({
			say: 'fill',
			place: pointing,
			layers: activeLayers(state),
			color: pots(state).front,
			guard: state.desk.guard,
			onMask: paintsMask(state),
			reach: state.filling.by === 'region' ? state.filling.reach : null,
			by: state.filling.by === 'part' ? 'part' : 'island',
		});
	},
};
