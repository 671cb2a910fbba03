import { twinOf } from '@eppu/core/engine';
import { tell } from '../studio/line.ts';
import { run } from '../studio/say.ts';
import { activeLayers, activeSheet, modelShown, type Pixeling, useStudio } from '../studio/store.ts';
import { Button } from '../ui/Button.tsx';
import { Check } from '../ui/Check.tsx';
import { Choice } from '../ui/Choice.tsx';
import { Popover } from '../ui/Popover.tsx';
import { overView } from './Toggles.tsx';

/** Whether a sheet is a pixel sheet, and how its texels are looked at. */
export function TexelMenu() {
	const sheet = useStudio(activeSheet);
	const pixeling = useStudio((state) => state.pixeling);
	const model = useStudio(modelShown);
	if (!sheet) return null;
	const pairs =
		sheet.pixel && model
			? model.parts.flatMap(({ name }, part) => {
					const twin = twinOf(model, part);
					return twin === null ? [] : [[part, name, model.parts[twin]?.name ?? ''] as const];
				})
			: [];
	const repeat = (part: number): void => {
		if (model) tell({ say: 'twin', model: model.id, part, layers: activeLayers(useStudio.getState()) });
	};
	const set = (change: Partial<Pixeling>): void => useStudio.setState({ pixeling: { ...pixeling, ...change } });
	return (
		<Popover label="Texels" side="bottom" className={overView(sheet.pixel === true)} trigger="Texels">
			<Check
				label="A pixel sheet"
				value={sheet.pixel === true}
				onChange={(pixel) => run({ do: 'sheet.change', sheet: sheet.id, change: { pixel } })}
				hint="Each texel is there or not, in a colour of the palette; nothing is smoothed"
			/>
			<p className="mt-1 mb-3 text-[12px] text-ash">
				Whole texels in colours of the palette and the pots. A layer’s menu lets it hold soft edges.
			</p>
			<div className="grid gap-2">
				<Check label="Grid" value={pixeling.grid} onChange={(grid) => set({ grid })} />
				<Check
					label="Beside itself"
					value={pixeling.repeat}
					onChange={(repeat) => set({ repeat })}
					hint="The sheet is repeated on all sides"
				/>
				<Choice
					label="Guides"
					value={pixeling.guides}
					options={[
						['none', 'No guides'],
						['halves', 'Halves'],
						['quarters', 'Quarters'],
					]}
					onChange={(guides) => set({ guides })}
				/>
			</div>
			{pairs.length > 0 && (
				<section className="mt-3">
					<h3 className="bay-title mb-1">Repeat on the twin, mirrored</h3>
					<ul className="grid gap-1">
						{pairs.map(([part, name, other]) => (
							<li key={part}>
								<Button className="w-full !py-0 text-left" onClick={() => repeat(part)}>
									{name} → {other}
								</Button>
							</li>
						))}
					</ul>
				</section>
			)}
		</Popover>
	);
}
