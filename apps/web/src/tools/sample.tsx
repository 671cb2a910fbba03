import { EyedropperIcon } from '@phosphor-icons/react/dist/csr/Eyedropper';
import { setDesk } from '../studio/desk.ts';
import { useStudio } from '../studio/store.ts';
import { Choice } from '../ui/Choice.tsx';
import { Popover } from '../ui/Popover.tsx';
import { optionTrigger, type ToolKind } from './kind.ts';

function SampleOptions() {
	const { sampling } = useStudio((state) => state.desk);
	return (
		<Popover
			label="What is sampled"
			className={optionTrigger}
			trigger={`${sampling.from === 'all' ? 'All layers' : 'Layer'} · ${sampling.size} px`}
		>
			<Choice
				label="Sample from"
				value={sampling.from}
				options={[
					['all', 'All layers'],
					['layer', 'Active layer'],
				]}
				onChange={(from) => setDesk({ sampling: { ...sampling, from } })}
			/>
			<div className="mt-2">
				<Choice
					label="Sample size"
					value={String(sampling.size)}
					options={[
						['1', '1 texel'],
						['3', '3'],
						['5', '5'],
						['11', '11'],
						['31', '31'],
					]}
					onChange={(size) => setDesk({ sampling: { ...sampling, size: Number(size) } })}
				/>
			</div>
		</Popover>
	);
}

export const sample: ToolKind<'sample'> = {
	name: 'sample',
	label: 'Sample',
	asks: 'Sample colour',
	keys: 'A',
	held: true,
	Icon: EyedropperIcon,
	hint: 'Take a colour into the front pot',
	title: 'Sample a colour',
	Options: SampleOptions,
	samples: true,
};
