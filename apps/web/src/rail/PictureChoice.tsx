import { shippedStencils } from '@eppu/core/stroke';
import { useLibrary } from '../server/library.ts';
import { tell } from '../studio/line.ts';
import { Select } from '../ui/Select.tsx';

/** A picture of the stencils that ship, or of the artist's own. */
export function PictureChoice({
	label,
	value,
	onChange,
}: {
	readonly label: string;
	readonly value: string;
	readonly onChange: (id: string) => void;
}) {
	const own = useLibrary('stencil');
	return (
		<Select
			label={label}
			value={value}
			onChange={(id) => {
				tell({ say: 'need', picture: id });
				onChange(id);
			}}
			kinds={[
				['Shipped', shippedStencils.map((each) => [each.name, each.label] as const)],
				['Your own', own.map((each) => [each.id, each.name] as const)],
			]}
		/>
	);
}
