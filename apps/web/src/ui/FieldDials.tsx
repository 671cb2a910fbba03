import type { ChoiceOf, DialOf } from '@eppu/core/shape';
import { Choice } from './Choice.tsx';
import { Dial } from './Dial.tsx';

type Fields = Readonly<Record<string, unknown>>;

/** The dials that a definition names, for the fields of a value of its kind. */
export function FieldDials<T extends object>({
	of,
	dials,
	onChange,
}: {
	readonly of: T;
	readonly dials: readonly DialOf[];
	readonly onChange: (next: T) => void;
}) {
	const counts = ({ when }: DialOf): boolean => !when || (of as Fields)[when[0]] === when[1];
	return dials
		.filter(counts)
		.map(({ of: field, label, least, most, usual, unit = '', ratio = false, percent, whole, hint }) => {
			const value = (of as Fields)[field] as number;
			return (
				<Dial
					key={field}
					wide
					label={label}
					unit={unit}
					least={least}
					most={most}
					ratio={ratio}
					{...(percent === undefined ? {} : { percent })}
					{...(hint === undefined ? {} : { hint })}
					value={value}
					usual={usual ?? value}
					onChange={(next) => onChange({ ...of, [field]: whole ? Math.round(next) : next })}
				/>
			);
		});
}

/** The choices that a definition names. */
export function FieldChoices<T extends object>({
	of,
	choices,
	onChange,
}: {
	readonly of: T;
	readonly choices: readonly ChoiceOf[];
	readonly onChange: (next: T) => void;
}) {
	return choices.map(({ of: field, label, options }) => (
		<Choice
			key={field}
			label={label}
			value={String((of as Fields)[field])}
			options={options.map(([value, words]) => [String(value), words] as const)}
			onChange={(taken) =>
				onChange({ ...of, [field]: options.find(([value]) => String(value) === taken)?.[0] ?? taken })
			}
		/>
	));
}
