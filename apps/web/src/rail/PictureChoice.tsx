import { shippedStencils } from '@eppu/core/stroke';
import { useLibrary } from '../app/library.ts';
import { tell } from '../studio/client.ts';

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
		<select
			aria-label={label}
			value={value}
			onChange={(event) => {
				tell({ say: 'need', picture: event.target.value });
				onChange(event.target.value);
			}}
			className="cut-small w-full border border-rule bg-sheet px-1.5 py-0.5"
		>
			{shippedStencils.map((each) => (
				<option key={each.name} value={each.name}>
					{each.label}
				</option>
			))}
			{own.map((each) => (
				<option key={each.id} value={each.id}>
					{each.name}
				</option>
			))}
		</select>
	);
}
