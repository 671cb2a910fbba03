/** How a field of a dialog looks. */
export const field = 'cut-small w-full border border-rule bg-paper px-1.5 py-0.5 tabular-nums';

/** Numbers beside each other, each with a word for what it is. */
export function NumberFields({
	label,
	values,
	words,
	step = 1,
	least,
	onChange,
}: {
	readonly label: string;
	readonly values: readonly number[];
	readonly words: readonly string[];
	readonly step?: number;
	readonly least?: number;
	readonly onChange: (values: number[]) => void;
}) {
	return (
		<fieldset className="grid gap-0.5">
			<legend className="bay-title">{label}</legend>
			<div className="grid grid-cols-3 gap-1.5">
				{values.map((value, i) => (
					<label key={words[i]} className="grid text-[12px] text-ash">
						{words[i]}
						<input
							type="number"
							className={`${field} text-soot`}
							aria-label={`${label}: ${words[i]}`}
							value={value}
							step={step}
							min={least}
							onChange={(event) => {
								const next = event.target.valueAsNumber;
								if (Number.isFinite(next)) onChange(values.map((each, k) => (k === i ? next : each)));
							}}
						/>
					</label>
				))}
			</div>
		</fieldset>
	);
}
