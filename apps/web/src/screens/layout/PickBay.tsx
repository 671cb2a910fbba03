import { islandName } from '@eppu/core/document';
import { setSeams } from '../../actions/layouts.ts';
import { RowInput } from '../../stack/RowInput.tsx';
import { run } from '../../studio/say.ts';
import { useStudio } from '../../studio/store.ts';
import type { ShownModel } from '../../studio/told.ts';
import { Button } from '../../ui/Button.tsx';
import { Choice } from '../../ui/Choice.tsx';
import { Menu } from '../../ui/Menu.tsx';
import { HandBay } from './HandBay.tsx';
import { askedOf, joinings } from './joinings.ts';
import type { ByHand } from './useByHand.ts';
import type { Proposing } from './useProposal.ts';

/** What a click on either view takes. */
export type Takes = 'islands' | 'parts' | 'faces' | 'seams';

/** What the chosen island is called; left empty it has no name of its own. */
function IslandNameField({ model, island }: { readonly model: ShownModel; readonly island: number }) {
	const islands = useStudio((state) => state.outline?.project.models.find(({ id }) => id === model.id)?.islands);
	const name = islandName(islands, model.islandOfFace, island);
	const call = (typed: string): void => {
		const others = (islands ?? []).filter(({ face }) => model.islandOfFace[face] !== island);
		const next = typed.trim();
		if (next === (name ?? '')) return;
		const named = next ? [...others, { face: model.islandOfFace.indexOf(island), name: next }] : others;
		run({ do: 'islands.set', model: model.id, islands: named });
	};
	return (
		<RowInput
			key={`${island} ${name}`}
			label="Name of the island"
			value={name ?? ''}
			placeholder="Name this island"
			maxLength={120}
			className="cut-small min-w-0 flex-1 border border-rule bg-sheet px-1.5 py-0.5 text-[12px]"
			take={call}
			done={() => undefined}
			resting
		/>
	);
}

/** What a click takes, and marks that are set all at once. */
export function PickBay({
	takes,
	setTakes,
	model,
	chosen,
	island,
	clear,
	byHand,
	proposing,
}: {
	readonly takes: Takes;
	readonly setTakes: (takes: Takes) => void;
	readonly model: ShownModel;
	readonly chosen: string | null;
	/** The one island that is chosen, by its number. */
	readonly island: number | null;
	readonly clear: () => void;
	readonly byHand: ByHand;
	readonly proposing: Proposing;
}) {
	const marked = useStudio((state) => (state.marks.get(model.id)?.length ?? 0) > 0);
	return (
		<section aria-label="Click takes" className="grid w-[200px] shrink-0 xl:w-[210px] content-start gap-1.5">
			<h2 className="bay-title">A click takes</h2>
			<Choice
				label="A click takes"
				tight
				value={takes}
				options={[
					['islands', 'Islands'],
					['parts', 'Parts'],
					['faces', 'Faces'],
					['seams', 'Seams'],
				]}
				onChange={setTakes}
			/>
			{takes === 'seams' ? (
				<div className="flex flex-wrap items-center gap-1.5">
					<Menu
						label="Marks"
						className="border border-rule px-2 text-[12px]"
						items={[
							{
								label: 'Mark the islands’ borders',
								run: () => setSeams(model.id, 'borders', 'Mark the borders of the islands'),
							},
							{ label: 'Mark sharp edges', run: () => setSeams(model.id, 'sharp', 'Mark sharp edges') },
							{
								label: 'Clear all marks',
								run: () => setSeams(model.id, [], 'Clear all seams'),
								apart: true,
								danger: true,
							},
						]}
					>
						Marks…
					</Menu>
					{marked ? (
						joinings.map((each) => (
							<Button
								key={each.joining}
								className="px-2 py-0 text-[12px]"
								title={each.hint}
								disabled={proposing.busy}
								onClick={() => proposing.ask(askedOf(each))}
							>
								{each.label}
							</Button>
						))
					) : (
						<span className="text-[12px] text-ash">None marked yet</span>
					)}
					<p className="w-full text-[12px] text-ash">Double click: its loop · Shift: the way</p>
				</div>
			) : (
				<div className="flex min-h-[26px] items-center gap-1.5 text-[12px] text-ash">
					{chosen ? (
						<>
							{island !== null && takes === 'islands' ? (
								<IslandNameField model={model} island={island} />
							) : (
								<span className="min-w-0 truncate">{chosen}</span>
							)}
							<Button className="px-2 py-0 text-[12px]" onClick={clear}>
								None
							</Button>
						</>
					) : (
						'Nothing chosen: all is meant'
					)}
				</div>
			)}
			{chosen && takes !== 'seams' && <HandBay byHand={byHand} />}
		</section>
	);
}
