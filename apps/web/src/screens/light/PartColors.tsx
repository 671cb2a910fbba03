import { type Bake, type IdsBake, partColor } from '@eppu/core/light';
import { modelHeld } from '../../studio/bakes.ts';
import { useStudio } from '../../studio/store.ts';
import { Button } from '../../ui/Button.tsx';
import { Popover } from '../../ui/Popover.tsx';
import { ColorWell } from './TintRow.tsx';

/** The colour of each part in a picture of ids: chosen by name, so that a newer file of the model keeps it. */
export function PartColors({ bake, put }: { readonly bake: IdsBake; readonly put: (bake: Bake) => void }) {
	const parts = useStudio((state) => modelHeld(state)?.parts);
	const chosen = bake.chosen ?? [];
	const choose = (part: string, color: string | null): void => {
		const others = chosen.filter((each) => each.part !== part);
		put({ ...bake, chosen: color === null ? others : [...others, { part, color }] });
	};
	return (
		<Popover
			label="Colours of the parts"
			trigger="Each part…"
			panelClass="w-60"
			className="cut border border-rule bg-sheet px-3 py-1 text-[13px] leading-5 hover:bg-bark"
		>
			<h3 className="bay-title mb-1.5">Colours of the parts</h3>
			<ul className="grid max-h-[46vh] gap-1 overflow-y-auto">
				{parts?.map(({ name }, i) => (
					<li key={i} className="flex items-center gap-2">
						<ColorWell label={name} color={partColor(bake, i, name)} onChange={(color) => choose(name, color)} />
						<span className="min-w-0 flex-1 truncate" title={name}>
							{name}
						</span>
						{chosen.some(({ part }) => part === name) && (
							<Button onClick={() => choose(name, null)} aria-label={`${name}: its own colour again`}>
								Back
							</Button>
						)}
					</li>
				))}
			</ul>
		</Popover>
	);
}
