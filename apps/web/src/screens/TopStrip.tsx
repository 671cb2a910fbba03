import { useEffect, useState } from 'react';
import { Link, NavLink, useParams } from 'react-router';
import { tell, tryKeeping } from '../studio/client.ts';
import type { Keeping } from '../studio/protocol.ts';
import { useStudio } from '../studio/store.ts';
import { Button } from '../ui/Button.tsx';
import { Hint } from '../ui/Hint.tsx';
import { Mark } from '../ui/Mark.tsx';
import { ThemeSwitch } from '../ui/ThemeSwitch.tsx';

export const stages = [
	{ path: 'lay-out', name: 'Lay out', built: false },
	{ path: 'light', name: 'Light', built: false },
	{ path: 'paint', name: 'Paint', built: true },
	{ path: 'look-over', name: 'Look over', built: false },
	{ path: 'hand-off', name: 'Hand off', built: true },
] as const;

const since = (ms: number): string => {
	const s = Math.max(0, Math.round(ms / 1000));
	return s < 60 ? `${s} s` : s < 3600 ? `${Math.floor(s / 60)} min` : `${Math.floor(s / 3600)} h`;
};

function keepingWords(keeping: Keeping, now: number): string {
	if (keeping.state === 'kept') return keeping.at ? `Kept ${since(now - keeping.at)} ago` : '';
	if (keeping.state === 'keeping') return 'Keeping…';
	if (keeping.state === 'conflict') return 'Not kept: changed elsewhere. Open it again.';
	const held = keeping.strokes === 0 ? 'changes' : keeping.strokes === 1 ? '1 stroke' : `${keeping.strokes} strokes`;
	return `Not kept: ${keeping.why}, ${held} held here`;
}

function KeepingState() {
	const keeping = useStudio((state) => state.keeping);
	const [now, setNow] = useState(Date.now());
	useEffect(() => {
		setNow(Date.now());
		const timer = setInterval(() => setNow(Date.now()), 1000);
		return () => clearInterval(timer);
	}, [keeping]);
	const bad = keeping.state === 'held' || keeping.state === 'conflict';
	return (
		<output
			className={`max-w-72 truncate ${bad ? 'font-semibold text-lingon' : 'text-ash'}`}
			aria-live="polite"
			data-keeping={keeping.state}
		>
			{keepingWords(keeping, now)}
			{keeping.state === 'held' && (
				<button type="button" className="ml-2 underline" onClick={tryKeeping}>
					Try now
				</button>
			)}
		</output>
	);
}

/** Mark, project and model; the stages as beads on a path; the state of keeping; undo and redo. */
export function TopStrip() {
	const { id } = useParams();
	const outline = useStudio((state) => state.outline);
	const project = outline?.project;
	const model = project?.models[0]?.name ?? project?.sheets[0]?.name;
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
								`cut-small flex items-center gap-1.5 px-1 py-0.5 ${isActive ? 'font-bold' : stage.built ? '' : 'text-ash'}`
							}
						>
							{({ isActive }) => (
								<>
									<span
										className={`size-2.5 rounded-full border-[1.5px] ${isActive ? 'border-soot bg-berry' : stage.built ? 'border-soot' : 'border-rule'}`}
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
