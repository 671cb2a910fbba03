import type { Hex } from '@eppu/core/color';

/** A colour of a list, to be taken up or chosen. */
export function Swatch({
	color,
	words,
	hint,
	chosen = false,
	onClick,
}: {
	readonly color: Hex;
	readonly words: string;
	/** What else can be done with it, to who rests on it. */
	readonly hint?: string;
	readonly chosen?: boolean;
	readonly onClick: () => void;
}) {
	return (
		<button
			type="button"
			aria-label={words}
			aria-pressed={chosen}
			title={hint ? `${words}. ${hint}` : words}
			onClick={onClick}
			className={`cut-small h-6 min-w-6 flex-1 border ${chosen ? 'border-2 border-soot' : 'border-black/20'}`}
			style={{ background: color }}
		/>
	);
}
