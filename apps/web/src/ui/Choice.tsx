/** A row of buttons of which one is chosen. */
export function Choice<T extends string>({
	label,
	value,
	options,
	onChange,
	tight = false,
}: {
	readonly label: string;
	readonly value: T;
	readonly options: readonly (readonly [T, string])[];
	readonly onChange: (value: T) => void;
	/** Little room: many short words in one line. */
	readonly tight?: boolean;
}) {
	return (
		<div role="radiogroup" aria-label={label} className={`flex flex-wrap ${tight ? 'gap-[3px]' : 'gap-1'}`}>
			{options.map(([each, text]) => (
				<button
					key={each}
					type="button"
					role="radio"
					aria-checked={each === value}
					onClick={() => onChange(each)}
					className={`cut-small py-0.5 text-[12px] leading-4 ${tight ? 'px-[5px]' : 'px-2'} ${each === value ? 'bg-pine text-on-pine' : 'bg-bark hover:bg-bark-deep'}`}
				>
					{text}
				</button>
			))}
		</div>
	);
}
