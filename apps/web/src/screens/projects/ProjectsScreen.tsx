import { keeperFigure } from '@eppu/core/figure';
import { pictureEndings } from '@eppu/core/format';
import { modelEndings } from '@eppu/core/mesh';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { createFromBundle } from '../../actions/bundle.ts';
import { takeFiles, takeFilesWith, takeFolder } from '../../actions/drops.ts';
import { chosenFolder } from '../../actions/folder.ts';
import { holdsWork, readWorkFile } from '../../actions/heldWork.ts';
import { createGrid, createWorn, type NewStart, readStart } from '../../actions/newProject.ts';
import { ApiError, api, type ProjectCard } from '../../server/api.ts';
import { useLibraryChange } from '../../server/library.ts';
import { Button } from '../../ui/Button.tsx';
import { Mark } from '../../ui/Mark.tsx';
import { Menu } from '../../ui/Menu.tsx';
import { ThemeSwitch } from '../../ui/ThemeSwitch.tsx';
import { AwayPage } from '../Held.tsx';
import { Card } from './Card.tsx';
import { NewDialog } from './NewDialog.tsx';
import { PixelDialog } from './PixelDialog.tsx';
import { ShapeDialog } from './ShapeDialog.tsx';

/** The projects with their pictures: open, make, rename, copy, delete and bring back. */
// biome-ignore lint/complexity/noExcessiveLinesPerFunction: one screen as it stands, markup with what each control does.
export function ProjectsScreen() {
	const queries = useQueryClient();
	const navigate = useNavigate();
	const list = useQuery({ queryKey: ['projects'], queryFn: () => api.projects() });
	const gone = useQuery({ queryKey: ['projects', 'deleted'], queryFn: () => api.projects(true) });
	const [start, setStart] = useState<NewStart | null>(null);
	const [shaping, setShaping] = useState(false);
	const [pixeling, setPixeling] = useState(false);
	const [problem, setProblem] = useState<string | null>(null);
	const picker = useRef<HTMLInputElement>(null);
	const folder = useRef<HTMLInputElement>(null);
	const fresh = () => queries.invalidateQueries({ queryKey: ['projects'] });
	const said = (error: Error) => void toast(error.message);
	const copy = useMutation({
		mutationFn: (card: ProjectCard) => api.copy(card.id, `${card.name.slice(0, 110)} copy`),
		onSuccess: fresh,
		onError: said,
	});
	const rename = useMutation({
		mutationFn: ({ id, name }: { id: string; name: string }) => api.rename(id, name),
		onSuccess: fresh,
		onError: said,
	});
	const restore = useMutation({
		mutationFn: (card: ProjectCard) => api.restore(card.id),
		onSuccess: fresh,
		onError: said,
	});
	const remove = useMutation({
		mutationFn: (card: ProjectCard) => api.remove(card.id),
		onSuccess: (_answer, card) => {
			void fresh();
			toast(`"${card.name}" is deleted. It can be brought back for 30 days.`, {
				action: { label: 'Bring it back', onClick: () => restore.mutate(card) },
			});
		},
		onError: said,
	});

	const begin = useMutation({
		mutationFn: createGrid,
		onSuccess: (id) => {
			void fresh();
			void navigate(`/project/${id}/paint`);
		},
		onError: said,
	});
	const wear = useMutation({
		mutationFn: createWorn,
		onSuccess: (id) => {
			void fresh();
			void navigate(`/project/${id}/paint`);
		},
		onError: said,
	});
	const { addPictures } = useLibraryChange();
	/** Files that wait: each is looked at when the one before it is done with. */
	const [queue, setQueue] = useState<readonly { readonly file: File; readonly beside: readonly File[] }[]>([]);
	const [reading, setReading] = useState<{ readonly name: string; readonly stop: AbortController } | null>(null);
	const take = async ({ file, beside }: { readonly file: File; readonly beside: readonly File[] }): Promise<void> => {
		if (await holdsWork(file)) {
			const work = await readWorkFile(file).catch((error: Error) => ({ ok: false, text: error.message }) as const);
			setProblem(work.ok ? null : work.text);
			if (!work.ok) return;
			toast(work.words);
			await fresh();
			return void navigate(`/project/${work.project}/paint`);
		}
		const stop = new AbortController();
		setReading({ name: file.name, stop });
		const read = await readStart(file, stop.signal, beside);
		setReading(null);
		if (!read) return;
		setProblem(read.ok ? null : read.text);
		if (read.ok && read.start.kind === 'figure') return wear.mutate(read.start.figure);
		if (read.ok && read.start.kind === 'bundle') {
			const { name, bytes, bundle } = read.start;
			const id = await createFromBundle(name, bytes, bundle).catch((error: Error) => setProblem(error.message));
			if (!id) return;
			await fresh();
			return void navigate(`/project/${id}/paint`);
		}
		setStart(read.ok && read.start.kind !== 'bundle' && read.start.kind !== 'figure' ? read.start : null);
	};
	useEffect(() => {
		const [next, ...rest] = queue;
		if (!next || start || reading) return;
		setQueue(rest);
		void take(next);
	}, [queue, start, reading]);
	useEffect(
		() =>
			takeFilesWith({
				start: (file, beside) => setQueue((now) => [...now, { file, beside }]),
				pictures: (files) =>
					void addPictures('reference', files).then((ids) => {
						if (ids.length)
							toast(`${ids.length === 1 ? 'A picture is' : `${ids.length} pictures are`} among the references.`);
					}),
			}),
		[],
	);

	if (list.error instanceof ApiError && list.error.away && !list.data)
		return <AwayPage onBack={() => void list.refetch()} />;
	return (
		<main className="flex h-full flex-col">
			<header className="flex h-[52px] shrink-0 items-center gap-3 border-b border-rule px-5">
				<Mark />
				<h1 className="text-[19px] font-bold">Eppu</h1>
				<span className="text-ash">hand-painted textures</span>
				<span className="flex-1" />
				<ThemeSwitch />
				<Menu
					label="Begin without a file"
					className="cut !px-3 !py-1 border border-rule bg-sheet text-[13px] leading-5"
					items={[
						{ label: 'A shape…', run: () => setShaping(true), takesFocus: true },
						{ label: 'A pixel sheet…', run: () => setPixeling(true), takesFocus: true },
						{ label: 'A suit worn by a figure of boxes', run: () => wear.mutate(keeperFigure) },
						{ label: 'A colour grid', run: () => begin.mutate() },
						{ label: 'A folder of textures…', run: () => folder.current?.click(), apart: true },
					]}
				>
					Begin without a file…
				</Menu>
				<Button look="main" onClick={() => picker.current?.click()}>
					New from a model or a picture…
				</Button>
				<input
					ref={picker}
					type="file"
					hidden
					multiple
					accept={[...modelEndings, '.mtl', '.bin', ...pictureEndings, '.eppu', '.ora', '.zip', '.json'].join()}
					aria-label="Model or picture"
					onChange={(event) => {
						takeFiles([...(event.target.files ?? [])]);
						event.target.value = '';
					}}
				/>
			</header>
			<input
				ref={(input) => {
					folder.current = input;
					input?.setAttribute('webkitdirectory', '');
				}}
				type="file"
				hidden
				aria-label="Folder of textures"
				onChange={(event) => {
					const { name, files } = chosenFolder([...(event.target.files ?? [])]);
					event.target.value = '';
					void takeFolder(name, files);
				}}
			/>
			<div className="min-h-0 flex-1 overflow-y-auto px-5 py-5">
				{problem && (
					<div role="alert" className="cut mb-5 flex items-start gap-3 border border-lingon bg-sheet px-4 py-2.5">
						<p className="flex-1">
							{problem} <span className="text-ash">No project was made.</span>
						</p>
						<Button look="bare" onClick={() => setProblem(null)}>
							Close
						</Button>
					</div>
				)}
				{list.isError && (
					<div role="alert" className="cut mb-5 flex items-center gap-3 border border-lingon bg-sheet px-4 py-2.5">
						<p className="flex-1">{list.error.message}</p>
						<Button onClick={() => void list.refetch()}>Try again</Button>
					</div>
				)}
				{reading && (
					<div role="status" className="cut mb-5 flex items-center gap-3 border border-rule bg-sheet px-4 py-2.5">
						<p className="flex-1">Reading {reading.name}…</p>
						<Button onClick={() => reading.stop.abort()}>Stop</Button>
					</div>
				)}
				{list.isPending && <p className="text-ash">Looking for projects…</p>}
				<ul className="grid grid-cols-[repeat(auto-fill,minmax(270px,1fr))] gap-5">
					{list.data?.map((card) => (
						<Card
							key={card.id}
							card={card}
							onCopy={() => copy.mutate(card)}
							onDelete={() => remove.mutate(card)}
							onRename={(name) => rename.mutate({ id: card.id, name })}
						/>
					))}
					<li>
						<button
							type="button"
							onClick={() => picker.current?.click()}
							className="cut flex h-full min-h-[236px] w-full flex-col items-center justify-center gap-1.5 border-2 border-dashed border-rule px-6 text-center hover:bg-bark"
						>
							<span className="font-head text-[15px] font-semibold">Begin something</span>
							<span className="text-ash">
								Drop a model here (OBJ, GLB, glTF, PLY), the picture of a UV template, or a ZIP or folder of textures,
								or click to choose one.
							</span>
						</button>
					</li>
				</ul>
				{gone.data && gone.data.length > 0 && (
					<section className="mt-8">
						<h2 className="bay-title mb-2">Deleted, still here for 30 days</h2>
						<ul className="flex flex-wrap gap-2">
							{gone.data.map((card) => (
								<li key={card.id} className="cut flex items-center gap-2 border border-rule bg-sheet py-1 pr-1 pl-3">
									<span className="max-w-64 truncate text-ash">{card.name}</span>
									<Button look="bare" onClick={() => restore.mutate(card)}>
										Bring it back
									</Button>
								</li>
							))}
						</ul>
					</section>
				)}
			</div>
			{start && <NewDialog start={start} onClose={() => setStart(null)} />}
			{pixeling && <PixelDialog onClose={() => setPixeling(false)} />}
			{shaping && <ShapeDialog onClose={() => setShaping(false)} />}
		</main>
	);
}
