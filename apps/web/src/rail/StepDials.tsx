import type { Layer } from '@eppu/core/document';
import { isToneBake } from '@eppu/core/light';
import { isShaper, type RecipeStep, stepKindOf } from '@eppu/core/recipe';
import type { DialOf } from '@eppu/core/shape';
import { bakesOf, modelHeld } from '../studio/bakes.ts';
import { useStudio } from '../studio/store.ts';
import { FieldChoices, FieldDials } from '../ui/FieldDials.tsx';
import { Select } from '../ui/Select.tsx';
import { PictureChoice } from './PictureChoice.tsx';

const amountDial: DialOf = { of: 'amount', label: 'Amount', least: 0, most: 1, unit: '%', percent: true };

/** What of a step can be set, as its kind names it. */
export function StepDials({
	step,
	others,
	onChange,
}: {
	readonly step: RecipeStep;
	readonly others: readonly Layer[];
	readonly onChange: (step: RecipeStep) => void;
}) {
	const bakes = useStudio(bakesOf).filter(isToneBake);
	const model = useStudio(modelHeld);
	const kind = stepKindOf(step);
	const set = (change: object): void => onChange({ ...step, ...change } as RecipeStep);
	return (
		<div className="flex flex-col gap-0.5">
			{'layer' in step && (
				<Select
					label="Layer that is tapped"
					empty="Choose a layer…"
					value={step.layer}
					options={others.map((each) => [each.id, each.name] as const)}
					onChange={(layer) => set({ layer })}
				/>
			)}
			{step.step === 'part' && (
				<Select
					label="Part"
					value={String(step.part)}
					options={(model?.parts ?? []).map(({ name }, i) => [String(i), name] as const)}
					onChange={(part) => {
						const { name } = model?.parts[Number(part)] ?? {};
						set({ part: Number(part), name: name || undefined });
					}}
				/>
			)}
			{'bake' in step && (step.step === 'bake' || step.along === 'bake') && (
				<Select
					label="Bake that is read"
					empty={bakes.length ? 'Choose a bake…' : 'The model has no bakes yet: the Light stage makes them'}
					value={step.bake ?? ''}
					options={bakes.map((each) => [each.id, each.name] as const)}
					onChange={(bake) => set({ bake })}
				/>
			)}
			<FieldChoices of={step} choices={kind.choices ?? []} onChange={onChange} />
			{'picture' in step && (
				<PictureChoice label="Picture" value={step.picture} onChange={(picture) => set({ picture })} />
			)}
			<FieldDials
				of={step}
				dials={kind.takes === 'source' ? [...kind.dials, amountDial] : kind.dials}
				onChange={onChange}
			/>
			{'seed' in step && !isShaper(step) && (
				<button
					type="button"
					className="cut-small self-start bg-bark px-2 hover:bg-bark-deep"
					onClick={() => set({ seed: (step.seed + 1) % 100000 })}
				>
					Another chance
				</button>
			)}
		</div>
	);
}
