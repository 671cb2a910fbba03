import { colorsOfPicture, type Hex } from '@eppu/core/color';
import { useMemo, useState } from 'react';
import { setFront } from '../studio/desk.ts';
import { run } from '../studio/say.ts';
import { useStudio } from '../studio/store.ts';
import { Button } from '../ui/Button.tsx';
import { Choice } from '../ui/Choice.tsx';

const counts = ['4', '8', '12', '24'] as const;

/** The colours that stand for a picture: each can be painted with, all of them become the palette or join it. */
export function PulledColors({ name, data }: { readonly name: string; readonly data: Uint8ClampedArray }) {
	const [count, setCount] = useState<(typeof counts)[number]>('8');
	const palette = useStudio((state) => state.outline?.project.palette);
	const colors = useMemo(() => colorsOfPicture(data, Number(count)), [data, count]);
	const set = (list: readonly Hex[], words: string): void =>
		run({ do: 'palette.set', palette: { name: words, colors: list } });
	const small = '!px-2 !py-0 !text-[12px]';
	return (
		<section aria-label={`Colours of ${name}`} className="pt-1">
			<div className="flex flex-wrap gap-[3px] pb-1.5">
				{colors.map((color) => (
					<button
						key={color}
						type="button"
						aria-label={color}
						title={color}
						className="h-6 min-w-6 flex-1 rounded-[5px_3px_5px_3px] border border-black/20"
						style={{ background: color }}
						onClick={() => setFront(color)}
					/>
				))}
			</div>
			<Choice
				label="How many"
				value={count}
				options={counts.map((each) => [each, each] as const)}
				onChange={setCount}
				tight
			/>
			<div className="mt-1.5 grid grid-cols-2 gap-1">
				<Button
					className={small}
					disabled={!palette}
					onClick={() =>
						palette &&
						set([...palette.colors, ...colors.filter((each) => !palette.colors.includes(each))], palette.name)
					}
				>
					Add to palette
				</Button>
				<Button className={small} onClick={() => set(colors, name)}>
					As palette
				</Button>
			</div>
		</section>
	);
}
