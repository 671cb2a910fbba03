import { MOST_SIDE } from '@eppu/core/handoff';
import { useState } from 'react';

const usual = [4096, 2048, 1024, 512, 256, 128, 64] as const;

/** Which sizes are written at once: usual ones by a press, any by typing it. */
export function SizesChoice({
	sizes,
	onChange,
}: {
	readonly sizes: readonly number[];
	readonly onChange: (sizes: readonly number[]) => void;
}) {
	const [typed, setTyped] = useState('');
	const flip = (size: number): void => {
		const next = sizes.includes(size) ? sizes.filter((each) => each !== size) : [...sizes, size];
		if (next.length) onChange(next.sort((a, b) => (a === 0 ? -1 : b === 0 ? 1 : b - a)));
	};
	const add = (): void => {
		const size = Number(typed);
		setTyped('');
		if (Number.isInteger(size) && size >= 1 && size <= MOST_SIDE && !sizes.includes(size)) flip(size);
	};
	const others = sizes.filter((size) => size !== 0 && !(usual as readonly number[]).includes(size));
	return (
		<div className="flex flex-wrap gap-1" role="group" aria-label="Sizes, texels of the longer side">
			{[0, ...usual, ...others].map((size) => (
				<button
					key={size}
					type="button"
					aria-pressed={sizes.includes(size)}
					onClick={() => flip(size)}
					className={`cut-small px-2 py-0.5 leading-4 ${sizes.includes(size) ? 'bg-pine text-on-pine' : 'bg-bark hover:bg-bark-deep'}`}
				>
					{size === 0 ? 'Its own' : size}
				</button>
			))}
			<input
				aria-label="Another size"
				className="cut-small w-[62px] border border-rule bg-sheet px-1 leading-4"
				inputMode="numeric"
				placeholder={`1–${MOST_SIDE}`}
				value={typed}
				onChange={(event) => setTyped(event.target.value)}
				onBlur={add}
				onKeyDown={(event) => event.key === 'Enter' && add()}
			/>
		</div>
	);
}
