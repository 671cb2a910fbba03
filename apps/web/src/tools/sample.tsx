import { EyedropperIcon } from '@phosphor-icons/react/dist/csr/Eyedropper';
import { setDesk } from '../studio/desk.ts';
import { useStudio } from '../studio/store.ts';
import { Choice } from '../ui/Choice.tsx';
import { bay, type ToolKind } from './kind.ts';

function SampleBay() {
	const { sampling } = useStudio((state) => state.desk);
	return (
		<div className={bay}>
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
			<p className="mt-2 text-[12px] text-ash">Press in either view, or on a reference; hold A with any other tool.</p>
		</div>
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
	Bay: SampleBay,
	samples: true,
};
