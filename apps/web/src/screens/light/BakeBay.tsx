import { type Bake, bakeKindOf } from '@eppu/core/light';
import { stepKindOf } from '@eppu/core/recipe';
import { changeBake, removeBake, saveBake } from '../../actions/light.ts';
import { RowInput } from '../../stack/RowInput.tsx';
import { Button } from '../../ui/Button.tsx';
import { Choice } from '../../ui/Choice.tsx';
import { FieldChoices, FieldDials } from '../../ui/FieldDials.tsx';
import { useGesture } from '../../ui/useGesture.ts';
import { FinerBay } from './FinerBay.tsx';
import { MapDials } from './MapDials.tsx';
import { PartColors } from './PartColors.tsx';

/** What is chosen of a bake, and its files. */
export function BakeBay({ bake }: { readonly bake: Bake }) {
	const gesture = useGesture();
	const put = (next: Bake): void => changeBake(next, gesture());
	return (
		<>
			<section aria-label="Bake" className="grid w-[190px] shrink-0 content-start gap-1.5">
				<h2 className="bay-title">{bakeKindOf(bake).words(bake)}</h2>
				<RowInput
					key={`${bake.id} ${bake.name}`}
					label="Name of the bake"
					value={bake.name}
					maxLength={120}
					className="cut-small w-full border border-rule bg-sheet px-1.5 py-0.5"
					take={(name) => name.trim() && name !== bake.name && changeBake({ ...bake, name: name.trim() })}
					done={() => undefined}
					resting
				/>
				<Button onClick={() => removeBake(bake)}>Take the bake away</Button>
			</section>
			<section aria-label="Dials of the bake" className="w-[250px] shrink-0 text-[12px]">
				<h2 className="bay-title mb-1">Dials</h2>
				{bake.bake === 'tone' && (
					<div className="flex flex-col gap-0.5">
						<FieldDials
							of={bake.step}
							dials={stepKindOf(bake.step).dials}
							onChange={(step) => put({ ...bake, step })}
						/>
					</div>
				)}
				{bake.bake === 'map' && <MapDials bake={bake} put={put} />}
				{bake.bake === 'normals' && (
					<div className="grid gap-1.5">
						<Choice
							label="Normals of"
							value={bake.space ?? 'object'}
							options={[
								['object', 'The object'],
								['tangent', 'Its surface'],
							]}
							onChange={(space) => put({ ...bake, space })}
						/>
						<p className="text-ash">
							{bake.space === 'tangent'
								? 'As seen from the model’s own surface, green upwards: flat blue but for a finer mesh.'
								: 'X, Y and Z of the model as red, green and blue.'}
						</p>
					</div>
				)}
				{bake.bake === 'ids' && (
					<div className="grid gap-1.5">
						<Choice
							label="A colour for each"
							value={bake.by}
							options={[
								['part', 'Part'],
								['island', 'Island'],
								['face', 'Face'],
							]}
							onChange={(by) => put({ ...bake, by })}
						/>
						<div className="flex gap-1.5">
							<Button onClick={() => put({ ...bake, seed: (bake.seed + 1) % 100000 })}>Other colours</Button>
							{bake.by === 'part' && <PartColors bake={bake} put={put} />}
						</div>
					</div>
				)}
				{bake.bake === 'vertex' && (
					<p className="text-ash">
						As the model’s file has them, or the finer mesh’s. Empty where the file has no colours.
					</p>
				)}
			</section>
			{bake.bake === 'tone' && (stepKindOf(bake.step).choices?.length ?? 0) > 0 && (
				<section aria-label="Choices of the bake" className="grid w-[200px] shrink-0 content-start gap-1.5">
					<h2 className="bay-title">Of what</h2>
					<FieldChoices
						of={bake.step}
						choices={stepKindOf(bake.step).choices ?? []}
						onChange={(step) => put({ ...bake, step })}
					/>
				</section>
			)}
			{bake.bake !== 'map' && <FinerBay bake={bake} put={put} />}
			<section aria-label="Files of the bake" className="grid w-[170px] shrink-0 content-start gap-1.5">
				<h2 className="bay-title">As a picture</h2>
				<Button onClick={() => void saveBake(bake, 8)}>PNG, 8 bits</Button>
				<Button onClick={() => void saveBake(bake, 16)}>PNG, 16 bits</Button>
			</section>
		</>
	);
}
