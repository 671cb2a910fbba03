import { useStudio } from '../studio/store.ts';

/** A colour that takes the front pot's at a click. */
export function PotButton({
	color,
	label,
	onTake,
}: {
	readonly color: string;
	readonly label: string;
	readonly onTake: (color: string) => void;
}) {
	const front = useStudio((state) => state.desk.front);
	return (
		<button
			type="button"
			onClick={() => onTake(front)}
			title={`Click: the front pot, ${front}`}
			aria-label={`${label} ${color}; takes the front pot`}
			className="cut-small flex items-center gap-1.5 bg-bark px-1.5 py-0.5 text-[12px] hover:bg-bark-deep"
		>
			<span className="inline-block size-4 rounded-full border border-black/20" style={{ background: color }} />
			{label}
		</button>
	);
}
