import { useEffect, useState } from 'react';
import { Link, NavLink, useParams } from 'react-router';
import { isTrouble, keepingWords, saveWork } from '../actions/keeping.ts';
import { tell, tryKeeping } from '../studio/line.ts';
import { modelShown, useStudio } from '../studio/store.ts';
import { Button } from '../ui/Button.tsx';
import { Hint } from '../ui/Hint.tsx';
import { Mark } from '../ui/Mark.tsx';
import { ThemeSwitch } from '../ui/ThemeSwitch.tsx';
import { isBuilt, stages } from './stages.ts';

function KeepingState() {
	const keeping = useStudio((state) => state.keeping);
	const [now, setNow] = useState(Date.now());
	useEffect(() => {
		setNow(Date.now());
		const timer = setInterval(() => setNow(Date.now()), 1000);
		return () => clearInterval(timer);
	}, [keeping]);
	const { short, whole } = keepingWords(keeping, now);
	return (
		<Hint text={whole} side="bottom">
			<output
				className={`min-w-0 truncate ${isTrouble(keeping) ? 'font-semibold text-lingon' : 'text-ash'}`}
				aria-live="polite"
				data-keeping={keeping.state}
				data-words={keeping.state !== 'kept' && keeping.words}
			>
				{short}
			</output>
		</Hint>
	);
}

/**
 * Said over every stage while something is not kept: what, why, where it is, and what can be done. It lies over the views
 * and moves nothing: a hand may be painting.
 */
export function KeepingTrouble() {
	const keeping = useStudio((state) => state.keeping);
	if (!isTrouble(keeping)) return null;
	return (
		<div
			role="alert"
			data-trouble={keeping.state}
			className="cut fixed bottom-[176px] left-1/2 z-30 flex w-max max-w-[calc(100vw-340px)] -translate-x-1/2 items-center gap-3 border border-lingon bg-sheet py-1.5 pr-1.5 pl-3 shadow-lg"
		>
			<p className="min-w-0 flex-1">{keepingWords(keeping, 0).whole}</p>
			<Button onClick={tryKeeping}>Try now</Button>
			<Button onClick={() => void saveWork()}>Save the work as a file</Button>
		</div>
	);
}

/** Mark, project and model; the stages as beads on a path; the state of keeping; undo and redo. */
export function TopStrip() {
	const { id } = useParams();
	const outline = useStudio((state) => state.outline);
	const project = outline?.project;
	const shown = useStudio((state) => modelShown(state)?.id);
	const model = project?.models.find(({ id }) => id === shown)?.name ?? project?.sheets[0]?.name;
	return (
		<header className="flex h-[46px] shrink-0 items-center gap-3 border-b border-rule px-3">
			<Hint text="All projects" side="bottom">
				<Link to="/" aria-label="All projects" className="flex items-center gap-2">
					<Mark />
					<span className="font-head text-[17px] font-bold">Eppu</span>
				</Link>
			</Hint>
			<p className="min-w-0 flex-1 basis-0 truncate">
				<span className="text-ash">{project?.name}</span>
				{model && <span className="text-ash"> / </span>}
				<span className="font-head text-[16px] font-bold">{model}</span>
			</p>
			<nav aria-label="Stages" className="flex items-center">
				{stages.map((stage, i) => (
					<span key={stage.path} className="flex items-center">
						{i > 0 && <span className="mx-1.5 h-px w-4 bg-rule" aria-hidden="true" />}
						<NavLink
							to={`/project/${id}/${stage.path}`}
							className={({ isActive }) =>
								`cut-small flex items-center gap-1.5 px-1 py-0.5 ${isActive ? 'font-bold' : isBuilt(stage) ? '' : 'text-ash'}`
							}
						>
							{({ isActive }) => (
								<>
									<span
										className={`size-2.5 rounded-full border-[1.5px] ${isActive ? 'border-soot bg-berry' : isBuilt(stage) ? 'border-soot' : 'border-rule'}`}
										aria-hidden="true"
									/>
									{stage.name}
								</>
							)}
						</NavLink>
					</span>
				))}
			</nav>
			<div className="flex flex-1 basis-0 items-center justify-end gap-2">
				<KeepingState />
				<Hint
					text={outline?.done.length ? `Undo: ${outline.done.at(-1)}` : 'Nothing to undo'}
					keys="Ctrl+Z"
					side="bottom"
				>
					<Button disabled={!outline?.done.length} onClick={() => tell({ say: 'undo' })}>
						Undo
					</Button>
				</Hint>
				<Hint
					text={outline?.undone.length ? `Redo: ${outline.undone[0]}` : 'Nothing to redo'}
					keys="Shift+Ctrl+Z"
					side="bottom"
				>
					<Button disabled={!outline?.undone.length} onClick={() => tell({ say: 'redo' })}>
						Redo
					</Button>
				</Hint>
				<ThemeSwitch />
			</div>
		</header>
	);
}
