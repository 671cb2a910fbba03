import { useEffect } from 'react';
import { Link, Outlet, useLocation, useNavigate, useParams } from 'react-router';
import { setCommands } from '../actions/command.ts';
import { railHabits } from '../actions/drawers.ts';
import { takeFilesWith } from '../actions/drops.ts';
import { followExchange } from '../actions/exchange.ts';
import { layerHabits } from '../actions/habits.ts';
import { takeLayersIn } from '../actions/handoff.ts';
import { watchMoving } from '../actions/moving.ts';
import { listenForKeys } from '../input/keys.ts';
import { whenBack } from '../server/health.ts';
import { useLibraryChange } from '../server/library.ts';
import { setDesk } from '../studio/desk.ts';
import { closeProject, openProject } from '../studio/session.ts';
import { useStudio } from '../studio/store.ts';
import { Button } from '../ui/Button.tsx';
import { AskBox } from './AskBox.tsx';
import { studioCommands } from './commands.ts';
import { SaveHeld } from './Held.tsx';
import { KeepingTrouble, TopStrip } from './TopStrip.tsx';

setCommands(studioCommands);

/** A project open for work: the strip over every stage, and the stage below it. */
export function StudioScreen() {
	const { id = '' } = useParams();
	const status = useStudio((state) => state.status);
	const coming = useStudio((state) => state.status === 'opening' && state.outline !== null);
	const failure = useStudio((state) => state.failure);
	const movedTo = useStudio((state) => state.movedTo);
	const navigate = useNavigate();
	const { pathname } = useLocation();
	useEffect(() => {
		// The work goes on as a copy: only the address changes, nothing is opened anew.
		if (movedTo && movedTo !== id)
			void navigate(pathname.replace(`/project/${id}`, `/project/${movedTo}`), { replace: true });
	}, [movedTo, id, pathname, navigate]);
	useEffect(() => {
		if (failure?.why !== 'away') return;
		return whenBack(() => void openProject(id));
	}, [failure, id]);
	useEffect(() => {
		void openProject(id);
		// What draws models is got ready while the workers begin: nothing else is to be done then.
		const warming = setTimeout(() => void import('../views/modelCanvas.ts').then(({ warmCanvas }) => warmCanvas()));
		const stopKeys = listenForKeys();
		const stopMoving = watchMoving();
		const stop = (): void => {
			clearTimeout(warming);
			stopKeys();
			stopMoving();
		};
		return () => {
			stop();
			if (useStudio.getState().movedTo === null) closeProject();
			useStudio.setState({ movedTo: null });
		};
	}, [id]);
	useEffect(() => (status === 'open' ? followExchange(id) : undefined), [status, id]);
	useEffect(() => {
		railHabits();
		layerHabits();
	}, []);
	const { addPictures } = useLibraryChange();
	useEffect(
		() =>
			takeFilesWith({
				layers: (file) => void takeLayersIn(file, null),
				pictures: (files) =>
					void addPictures('pinned', files).then((ids) => {
						if (!ids.length) return;
						const { references } = useStudio.getState().desk;
						setDesk({ references: [...references, ...ids] });
						useStudio.setState({ drawer: 'references' });
					}),
			}),
		[],
	);
	return (
		<div className="flex h-full min-w-[960px] flex-col">
			<TopStrip />
			<KeepingTrouble />
			{(status === 'open' || coming) && (
				<div className="flex min-h-0 flex-1 flex-col" inert={coming} aria-busy={coming}>
					<Outlet />
				</div>
			)}
			{coming && (
				<p
					role="status"
					className="cut late pointer-events-none fixed top-1/2 left-1/2 -translate-x-1/2 bg-black/70 px-3 py-1 text-white"
				>
					Opening… fetching the paint
				</p>
			)}
			{status === 'opening' && !coming && <Middle title="Opening…" text="Fetching the layers and the model." />}
			{status === 'failed' && (
				<Middle title="This project is not open" text={failure?.text ?? ''}>
					{failure?.why !== 'gone' && (
						<Button look="main" onClick={() => void openProject(id)}>
							Try again
						</Button>
					)}
					{failure?.why !== 'gone' && <SaveHeld project={id} />}
					<Link to="/" className="cut border border-rule px-3 py-1">
						To the projects
					</Link>
				</Middle>
			)}
			{status === 'elsewhere' && (
				<Middle
					title="Open in another tab"
					text="This project is being painted in another tab of this browser. Two hands on one sheet would undo each other, so this tab waits and opens it by itself once that is closed."
				>
					<Button look="main" onClick={() => void openProject(id, 'take')}>
						Take it over here
					</Button>
					<Link to="/" className="cut border border-rule px-3 py-1">
						To the projects
					</Link>
				</Middle>
			)}
			<AskBox />
		</div>
	);
}

function Middle({
	title,
	text,
	children,
}: {
	readonly title: string;
	readonly text: string;
	readonly children?: React.ReactNode;
}) {
	return (
		<div className="flex flex-1 flex-col items-center justify-center gap-3 px-6 text-center" role="status">
			<h2 className="text-[20px] font-bold">{title}</h2>
			<p className="max-w-md text-ash">{text}</p>
			<div className="flex items-center gap-2">{children}</div>
		</div>
	);
}
