import { pictureEndings } from '@eppu/core/format';
import { isModelName, modelEndings } from '@eppu/core/mesh';
import { DotsThreeIcon } from '@phosphor-icons/react/dist/csr/DotsThree';
import { useQuery } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import {
	bringIn,
	contentsOf,
	exchange,
	layBySet,
	layPicture,
	layVertexColors,
	renameModel,
	saveVertexColors,
	takeAway,
} from '../../actions/models.ts';
import { showModel } from '../../actions/views.ts';
import { modelShown, useStudio } from '../../studio/store.ts';
import type { ShownModel } from '../../studio/told.ts';
import { Button } from '../../ui/Button.tsx';
import { Menu } from '../../ui/Menu.tsx';
import { useFigures } from '../../views/usePoses.ts';
import { Block, lightRow } from './Block.tsx';
import { FigureDialog } from './FigureDialog.tsx';
import { NameField } from './NameField.tsx';

/** The models of the project: shown one at a time, brought in, exchanged for newer versions, taken away. */
export function Models() {
	const models = useStudio((state) => state.models);
	const file = useRef<HTMLInputElement>(null);
	/** Which model the file that is being chosen takes the place of; null brings another in. */
	const place = useRef<string | null>(null);
	const [busy, setBusy] = useState(false);
	const choose = (model: string | null): void => {
		place.current = model;
		file.current?.click();
	};
	const take = async (files: readonly File[]): Promise<void> => {
		const chosen = files.find(({ name }) => isModelName(name)) ?? files[0];
		if (!chosen) return;
		// What a glTF file names is chosen with it.
		const beside = files.filter((each) => each !== chosen);
		setBusy(true);
		await (place.current === null ? bringIn(chosen, beside) : exchange(place.current, chosen, beside));
		setBusy(false);
	};
	return (
		<Block title={models.length > 1 ? 'Models' : 'Model'}>
			<ul className="grid grid-cols-[minmax(0,1fr)] gap-1.5">
				{models.map((model) => (
					<ModelRow key={model.id} model={model} only={models.length === 1} choose={choose} />
				))}
			</ul>
			<Button className="mt-2 w-full" disabled={busy} onClick={() => choose(null)}>
				{busy ? 'Reading the file…' : 'Bring in another model…'}
			</Button>
			<input
				ref={file}
				type="file"
				aria-label="Model file"
				className="sr-only"
				tabIndex={-1}
				multiple
				accept={[...modelEndings, '.bin', ...pictureEndings].join(',')}
				onChange={(event) => {
					void take([...(event.target.files ?? [])]).finally(() => {
						if (file.current) file.current.value = '';
					});
				}}
			/>
		</Block>
	);
}

function ModelRow({
	model,
	only,
	choose,
}: {
	readonly model: ShownModel;
	readonly only: boolean;
	readonly choose: (model: string) => void;
}) {
	const shown = useStudio((state) => modelShown(state)?.id === model.id);
	const known = useStudio((state) => state.outline?.project.models.find(({ id }) => id === model.id));
	const contents = useQuery({
		queryKey: ['contents', known?.asset.hash],
		queryFn: () => (known ? contentsOf(known.asset) : null),
		staleTime: Number.POSITIVE_INFINITY,
	}).data;
	const figure = useFigures().find((each) => each.model === model.id)?.figure;
	const [naming, setNaming] = useState(false);
	const [boxes, setBoxes] = useState(false);
	const name = known?.name ?? '';
	const faces = model.indices.length / 3;
	if (naming)
		return (
			<li>
				<NameField
					name={name}
					most={120}
					onName={(next) => renameModel(model.id, next)}
					onClose={() => setNaming(false)}
				/>
			</li>
		);
	return (
		<li className="relative">
			{boxes && figure && known && <FigureDialog model={known} figure={figure} onClose={() => setBoxes(false)} />}
			<span className="absolute top-1.5 right-2">
				<Menu
					label={`More of ${name}`}
					items={[
						{ label: 'Newer version from a file…', run: () => choose(model.id) },
						...(figure ? [{ label: 'Boxes of the figure…', run: () => setBoxes(true), takesFocus: true }] : []),
						{ label: 'Name…', run: () => setNaming(true), takesFocus: true },
						...(model.colored
							? [{ label: 'Layer of its vertex colours', run: () => layVertexColors(model.id), apart: true }]
							: []),
						{
							label: 'Write with vertex colours',
							items: [
								{ label: 'PLY', run: () => saveVertexColors(model.id, 'ply') },
								{ label: 'GLB', run: () => saveVertexColors(model.id, 'glb') },
							],
						},
						...(contents?.pictures.length
							? [
									{
										label: 'Layer of its colour picture',
										items: contents.pictures.map((picture) => ({
											label: picture.name,
											run: () => layPicture(picture),
										})),
									},
								]
							: []),
						...(known && contents && contents.uvSets > 1
							? [
									{
										label: 'Lie by UV set',
										items: Array.from({ length: contents.uvSets }, (_, set) => ({
											label: String(set + 1),
											run: () => layBySet(model.id, known.asset, set),
										})),
									},
								]
							: []),
						...(only ? [] : [{ label: 'Take it away', danger: true, apart: true, run: () => takeAway(model.id) }]),
					]}
				>
					<DotsThreeIcon size={18} weight="bold" />
				</Menu>
			</span>
			<button type="button" aria-pressed={shown} className={lightRow(shown)} onClick={() => showModel(model)}>
				<span className="block truncate pr-8 font-semibold" title={name}>
					{name}
				</span>
				<span className="block truncate text-[12px] text-ash tabular-nums">
					{faces.toLocaleString('en')} faces in {model.parts.length} {model.parts.length === 1 ? 'part' : 'parts'} ·{' '}
					{known?.asset.name}
				</span>
			</button>
		</li>
	);
}
