import type { Model } from '@eppu/core/document';
import { freeName } from '@eppu/core/document';
import {
	boxRenamed,
	boxTaken,
	type Figure,
	type FigureBox,
	type FigurePose,
	figureText,
	newBox,
	readFigure,
} from '@eppu/core/figure';
import { figureMesh, type LaidMesh, posedMesh } from '@eppu/core/mesh';
import { Dialog } from 'radix-ui';
import { useMemo, useState } from 'react';
import { exchange } from '../../actions/models.ts';
import { figureFile } from '../../actions/newProject.ts';
import { saveFile } from '../../server/library.ts';
import { Button } from '../../ui/Button.tsx';
import { Choice } from '../../ui/Choice.tsx';
import { MeshPreview } from '../MeshPreview.tsx';
import { BoxFields } from './BoxFields.tsx';
import { Crosses } from './Crosses.tsx';
import { PoseFields } from './PoseFields.tsx';

/** The figure as a mesh, in a pose where one is named: as far as it swings to one side. */
const figureIn = (figure: Figure, pose: FigurePose | undefined): LaidMesh =>
	pose ? posedMesh(figure, pose, (pose.beat ?? 1) / 4) : figureMesh(figure);

/** The boxes by their names: chosen, added, taken away. */
function BoxList({
	figure,
	chosen,
	choose,
	change,
}: {
	readonly figure: Figure;
	readonly chosen: number;
	readonly choose: (box: number) => void;
	readonly change: (figure: Figure) => void;
}) {
	const added = newBox(figure);
	return (
		<div className="grid content-start gap-1">
			<ul aria-label="Boxes" className="max-h-[340px] overflow-y-auto">
				{figure.boxes.map(({ name }, i) => (
					<li key={i}>
						<button
							type="button"
							aria-pressed={i === chosen}
							className={`cut-small w-full truncate px-2 py-0.5 text-left ${i === chosen ? 'bg-berry/60 font-semibold' : 'hover:bg-bark'}`}
							onClick={() => choose(i)}
						>
							{name || 'Without a name'}
						</button>
					</li>
				))}
			</ul>
			<div className="mt-1 flex gap-1.5">
				<Button
					disabled={!added}
					title={added ? undefined : 'The sheet has no room for another box'}
					onClick={() => {
						if (!added) return;
						change({ ...figure, boxes: [...figure.boxes, added] });
						choose(figure.boxes.length);
					}}
				>
					Add
				</Button>
				<Button
					disabled={figure.boxes.length < 2}
					onClick={() => {
						change(boxTaken(figure, chosen));
						choose(Math.max(0, chosen - 1));
					}}
				>
					Take away
				</Button>
			</div>
		</div>
	);
}

/** Which pose is looked at and changed. */
function PoseRow({
	poses,
	posing,
	choose,
	change,
}: {
	readonly poses: readonly FigurePose[];
	readonly posing: number | null;
	readonly choose: (pose: number | null) => void;
	readonly change: (poses: readonly FigurePose[]) => void;
}) {
	return (
		<div className="mt-3 flex items-center gap-1.5">
			<Choice
				label="Pose"
				value={String(posing ?? '')}
				options={[['', 'At rest'], ...poses.map(({ name }, i) => [String(i), name || '…'] as const)]}
				onChange={(next) => choose(next === '' ? null : Number(next))}
			/>
			<Button
				className="!px-2 !py-0 !text-[12px]"
				disabled={poses.length >= 32}
				onClick={() => {
					change([
						...poses,
						{
							name: freeName(
								'Pose',
								poses.map(({ name }) => name),
							),
							turns: {},
						},
					]);
					choose(poses.length);
				}}
			>
				New pose
			</Button>
		</div>
	);
}

/** The boxes of a figure: their sizes, where they stand, turn and lie on the sheet; seen as they will be, taken over as a newer version. */
export function FigureDialog({
	model,
	figure: was,
	onClose,
}: {
	readonly model: Model;
	readonly figure: Figure;
	readonly onClose: () => void;
}) {
	const [figure, setFigure] = useState(was);
	const [chosen, setChosen] = useState(0);
	const [yaw, setYaw] = useState(32);
	const [posing, setPosing] = useState<number | null>(null);
	const box = figure.boxes[Math.min(chosen, figure.boxes.length - 1)];
	const read = useMemo(() => readFigure(figureText(figure), 'The figure'), [figure]);
	const [good, setGood] = useState(was);
	if (read.ok && good !== figure) setGood(figure);
	const poses = figure.poses ?? [];
	const pose = posing === null ? undefined : poses[posing];
	const mesh = useMemo(() => figureIn(good, posing === null ? undefined : good.poses?.[posing]), [good, posing]);
	const setPoses = (next: readonly FigurePose[]): void => setFigure({ ...figure, poses: next });
	const change = (next: FigureBox): void => {
		if (!box) return;
		const named = next.name === box.name ? figure : boxRenamed(figure, box.name, next.name);
		setFigure({ ...named, boxes: named.boxes.map((each, i) => (i === figure.boxes.indexOf(box) ? next : each)) });
	};
	const take = (): void => {
		void exchange(model.id, figureFile(figure), []);
		onClose();
	};
	return (
		<Dialog.Root open onOpenChange={(open) => !open && onClose()}>
			<Dialog.Portal>
				<Dialog.Overlay className="fixed inset-0 z-40 bg-black/35" />
				<Dialog.Content
					className="cut fixed top-1/2 left-1/2 z-50 max-h-[94vh] w-[860px] max-w-[96vw] -translate-1/2 overflow-y-auto border border-rule bg-sheet p-5 shadow-xl"
					onKeyDown={(event) => event.stopPropagation()}
				>
					<Dialog.Title className="text-[17px] font-bold">Boxes of {figure.name}</Dialog.Title>
					<Dialog.Description className="mt-1 text-ash">
						Lengths are texels. What is painted goes along with its box, and is stretched where a side becomes larger.
					</Dialog.Description>
					<PoseRow poses={poses} posing={posing} choose={setPosing} change={setPoses} />
					<div className="mt-4 grid grid-cols-[170px_1fr_260px] gap-5">
						<BoxList
							figure={figure}
							chosen={figure.boxes.indexOf(box as FigureBox)}
							choose={setChosen}
							change={setFigure}
						/>
						{box && !pose && (
							<BoxFields box={box} others={figure.boxes.filter((each) => each !== box)} onChange={change} />
						)}
						{box && pose && (
							<PoseFields
								pose={pose}
								box={box}
								onChange={(next) => setPoses(poses.map((each) => (each === pose ? next : each)))}
								onRemove={() => {
									setPoses(poses.filter((each) => each !== pose));
									setPosing(null);
								}}
							/>
						)}
						<div className="grid content-start gap-2">
							<button
								type="button"
								title="Press to turn it"
								aria-label="Turn the figure"
								onClick={() => setYaw((yaw + 45) % 360)}
							>
								<MeshPreview
									mesh={mesh}
									yaw={yaw}
									told={mesh.parts[good.boxes.findIndex(({ name }) => name === box?.name)]}
									label="The figure as it will be"
								/>
							</button>
							<Crosses figure={figure} chosen={box} sheet={model.parts[0]?.sheet} />
						</div>
					</div>
					{!read.ok && (
						<p role="alert" className="mt-3 text-lingon">
							{read.text}
						</p>
					)}
					<div className="mt-4 flex justify-end gap-2">
						<Button
							className="mr-auto"
							disabled={!read.ok}
							onClick={() => saveFile(figureFile(figure).name, figureFile(figure))}
						>
							Write its file
						</Button>
						<Button onClick={onClose}>Cancel</Button>
						<Button look="main" disabled={!read.ok || figure === was} onClick={take}>
							Take it over
						</Button>
					</div>
				</Dialog.Content>
			</Dialog.Portal>
		</Dialog.Root>
	);
}
