import { Dial } from './Dial.tsx';

type Unit = '' | ' px' | '°' | '%';

/** A number among the fields of `T`: its label, range, usual value and unit; sizes run by ratios. */
export type DialRow<T> = readonly [
	field: { [K in keyof T]: T[K] extends number ? K : never }[keyof T] & string,
	label: string,
	least: number,
	most: number,
	usual: number,
	unit?: Unit,
	how?: { readonly ratio?: boolean; readonly whole?: boolean; readonly percent?: boolean; readonly hint?: string },
];

/** One dial for each of several numbers that belong together. */
export function Dials<T>({
	of,
	rows,
	onChange,
	wide = true,
}: {
	readonly of: T;
	readonly rows: readonly DialRow<T>[];
	readonly onChange: (change: Partial<T>) => void;
	/** Room for longer labels. */
	readonly wide?: boolean;
}) {
	return rows.map(([field, label, least, most, usual, unit = '', how = {}]) => (
		<Dial
			key={field}
			wide={wide}
			label={label}
			least={least}
			most={most}
			usual={usual}
			unit={unit}
			ratio={how.ratio ?? false}
			{...(how.percent === undefined ? {} : { percent: how.percent })}
			{...(how.hint === undefined ? {} : { hint: how.hint })}
			value={of[field] as number}
			onChange={(value) => onChange({ [field]: how.whole ? Math.round(value) : value } as unknown as Partial<T>)}
		/>
	));
}
