import type { Hex } from '@eppu/core/color';

/** A colour of a list, to be taken up or chosen. */
export function Swatch({
	color,
	words,
	chosen = false,
	onClick,
}: {
	readonly color: Hex;
	readonly words: string;
	readonly chosen?: boolean;
	readonly onClick: () => void;
}) {
	return (
		<button
			type="button"
			aria-label={words}
			aria-pressed={chosen}
			title={words}
			onClick={onClick}
			className={`cut-small h-6 min-w-6 flex-1 border ${chosen ? 'border-2 border-soot' : 'border-black/20'}`}
			style={{ background: color }}
		/>
	);
}
