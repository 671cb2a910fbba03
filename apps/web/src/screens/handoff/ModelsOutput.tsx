import type { Model } from '@eppu/core/document';
import { type ModelOrder, modelKindOf, modelKinds, modelOrderProblem, usualModelOrder } from '@eppu/core/handoff';
import { useState } from 'react';
import { modelOut } from '../../studio/line.ts';
import { modelShown, useStudio } from '../../studio/store.ts';
import { Check } from '../../ui/Check.tsx';
import { Choice } from '../../ui/Choice.tsx';
import { Bay, Frame, WriteBay } from './Frame.tsx';
import { useStem, type Writing } from './useWriting.ts';
import { WorkSeen } from './WorkSeen.tsx';

const scales = ['0.01', '1', '100'] as const;
const textureWords = { inside: 'Within', beside: 'Beside it', none: 'None' } as const;

/** Whether pictures go with the model, and how they are shown. */
function PicturesBay({ order, put }: { readonly order: ModelOrder; readonly put: (order: ModelOrder) => void }) {
	const kind = modelKindOf(order.as);
	const change = (part: Partial<ModelOrder>): void => put({ ...order, ...part });
	return (
		<Bay title="Textures">
			{kind.colored ? (
				<p className="text-ash">What is painted goes along as a colour at each vertex; there is no picture.</p>
			) : (
				<>
					<Choice
						label="Textures"
						value={order.textures}
						options={([...kind.textures, 'none'] as const).map((each) => [each, textureWords[each]] as const)}
						onChange={(textures) => change({ textures })}
					/>
					{order.textures !== 'none' && (
						<>
							<Choice
								label="Size of the textures"
								value={String(order.size)}
								options={[['0', 'Own size'], ...['2048', '1024', '512', '256'].map((each) => [each, each] as const)]}
								onChange={(size) => change({ size: Number(size) })}
							/>
							{order.as !== 'obj' && (
								<Check
									label="Shown as painted, without light"
									hint="Unlit: the program that shows it adds no light of its own"
									value={order.unlit}
									onChange={(unlit) => change({ unlit })}
								/>
							)}
						</>
					)}
				</>
			)}
		</Bay>
	);
}

/** All parts, those that are shown, or some by their names. */
function PartsChoice({
	models,
	parts,
	put,
}: {
	readonly models: readonly Model[];
	readonly parts: ModelOrder['parts'];
	readonly put: (parts: ModelOrder['parts']) => void;
}) {
	const names = [...new Set(models.flatMap((model) => model.parts.map(({ name }) => name)))];
	const some = typeof parts === 'string' ? null : parts;
	return (
		<>
			<Choice
				label="Parts"
				value={some ? 'some' : (parts as 'all' | 'shown')}
				options={[
					['all', 'All parts'],
					['shown', 'Shown parts'],
					['some', 'Some'],
				]}
				onChange={(next) => put(next === 'some' ? names : next)}
			/>
			{some && (
				<div className="flex max-h-20 flex-wrap gap-x-3 gap-y-0.5 overflow-y-auto">
					{names.map((name) => (
						<Check
							key={name}
							label={name}
							value={some.includes(name)}
							onChange={(on) => put(on ? [...some, name] : some.filter((each) => each !== name))}
						/>
					))}
				</div>
			)}
		</>
	);
}

/** Models as files, with what is painted on them. */
export function ModelsOutput({ writing }: { readonly writing: Writing }) {
	const models = useStudio((state) => state.outline?.project.models) ?? [];
	const shown = useStudio(modelShown)?.id;
	const [order, setOrder] = useState<ModelOrder>(usualModelOrder);
	const [only, setOnly] = useState<'all' | 'one'>('all');
	const stem = useStem();
	const kind = modelKindOf(order.as);
	const change = (part: Partial<ModelOrder>): void => setOrder({ ...order, ...part });
	const chosen = models.filter(({ id }) => only === 'all' || id === shown);
	const problem = models.length === 0 ? 'There is no model in this project.' : modelOrderProblem(order);
	return (
		<Frame middle={<WorkSeen />}>
			<Bay title="Model file" wide="w-[250px]">
				<Choice
					label="Kind of model file"
					value={order.as}
					options={modelKinds.map(({ kind: each, words }) => [each, words] as const)}
					onChange={(as) => {
						const next = modelKindOf(as);
						const textures =
							order.textures === 'none' || next.textures.includes(order.textures)
								? order.textures
								: (next.textures[0] ?? order.textures);
						change({ as, textures, up: next.ups.includes(order.up) ? order.up : 'y' });
					}}
				/>
				{models.length > 1 && (
					<Choice
						label="Models"
						value={only}
						options={[
							['all', `All ${models.length} models`],
							['one', 'This model'],
						]}
						onChange={setOnly}
					/>
				)}
				<PartsChoice models={chosen} parts={order.parts} put={(parts) => change({ parts })} />
			</Bay>
			<PicturesBay order={order} put={setOrder} />
			<Bay title="Space" wide="w-[180px]">
				<Choice
					label="Upwards"
					value={order.up}
					options={kind.ups.map((each) => [each, `${each.toUpperCase()} up`] as const)}
					onChange={(up) => change({ up })}
				/>
				<Choice
					label="Scale"
					value={String(order.scale)}
					options={scales.map((each) => [each, `× ${each}`] as const)}
					onChange={(scale) => change({ scale: Number(scale) })}
				/>
				<p className="text-ash">As it lies on its sheets now.</p>
			</Bay>
			<WriteBay
				writing={writing}
				problem={problem}
				words={chosen.length === 1 ? `Write ${chosen[0]?.name}`.slice(0, 34) : `Write ${chosen.length} models`}
				write={() =>
					void writing.write(
						chosen.map(({ id, name }) => ({
							name,
							make: async () => {
								const { files, ...rest } = await modelOut(id, order);
								// Models that bring several files each get a folder.
								const folder =
									chosen.length > 1 && files.length > 1 ? `${name.replace(/[^\p{L}\p{N} _-]+/gu, '-')}/` : '';
								return { ...rest, files: files.map(([path, bytes]) => [folder + path, bytes] as const) };
							},
						})),
						{ name: `${stem} model`, what: `Model as ${kind.words}` },
					)
				}
			/>
		</Frame>
	);
}
