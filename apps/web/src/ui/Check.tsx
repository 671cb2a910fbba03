/** A labelled box to tick. */
export function Check({
	label,
	value,
	onChange,
	hint,
}: {
	readonly label: string;
	readonly value: boolean;
	readonly onChange: (value: boolean) => void;
	readonly hint?: string;
}) {
	return (
		<label className="flex items-center gap-1.5 text-[12px]" title={hint}>
			<input
				type="checkbox"
				className="accent-pine"
				checked={value}
				onChange={(event) => onChange(event.target.checked)}
			/>
			{label}
		</label>
	);
}
