/** A word or a figure of a row, typed in its place: Enter takes it, Escape and leaving do not. */
export function RowInput({
	label,
	value,
	maxLength,
	className,
	take,
	done,
	resting = false,
	placeholder,
}: {
	readonly label: string;
	readonly value: string | number;
	readonly maxLength?: number;
	readonly className: string;
	readonly take: (typed: string) => void;
	readonly done: () => void;
	/** It stands there all the time, and takes no focus by itself. */
	readonly resting?: boolean;
	readonly placeholder?: string;
}) {
	return (
		<input
			autoFocus={!resting}
			aria-label={label}
			placeholder={placeholder}
			onFocus={(event) => event.target.select()}
			{...(maxLength === undefined ? {} : { maxLength })}
			defaultValue={value}
			className={className}
			onBlur={done}
			onKeyDown={(event) => {
				event.stopPropagation();
				if (event.key === 'Enter') take(event.currentTarget.value);
				if (event.key === 'Enter' || event.key === 'Escape') done();
			}}
		/>
	);
}
