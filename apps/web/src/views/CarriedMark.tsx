import { useStudio } from '../studio/store.ts';

/** Beside the pointer, what letting go would do. */
export function CarriedMark() {
	const carried = useStudio((state) => state.carried);
	if (!carried) return null;
	return (
		<output
			className="cut-small pointer-events-none fixed z-30 max-w-64 bg-soot px-2 py-0.5 text-[12px] text-paper shadow-md"
			style={{ left: carried.x + 14, top: carried.y + 18 }}
		>
			{carried.words}
		</output>
	);
}
