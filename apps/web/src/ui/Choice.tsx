/** A row of buttons of which one is chosen. */
export function Choice<T extends string>({
	label,
	value,
	options,
	onChange,
}: {
	readonly label: string;
	readonly value: T;
	readonly options: readonly (readonly [T, string])[];
	readonly onChange: (value: T) => void;
}) {
	return (
		<div role="radiogroup" aria-label={label} className="flex flex-wrap gap-1">
			{options.map(([each, text]) => (
				<button
					key={each}
					type="button"
					role="radio"
					aria-checked={each === value}
					onClick={() => onChange(each)}
					className={`cut-small px-2 py-0.5 text-[12px] leading-4 ${each === value ? 'bg-pine text-on-pine' : 'bg-bark hover:bg-bark-deep'}`}
				>
					{text}
				</button>
			))}
		</div>
	);
}
