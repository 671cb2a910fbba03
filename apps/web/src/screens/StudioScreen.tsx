import { useEffect } from 'react';
import { Link, Outlet, useParams } from 'react-router';
import { listenForKeys } from '../app/keys.ts';
import { watchMoving } from '../app/moving.ts';
import { closeProject, openProject } from '../studio/client.ts';
import { useStudio } from '../studio/store.ts';
import { Button } from '../ui/Button.tsx';
import { AskBox } from './AskBox.tsx';
import { TopStrip } from './TopStrip.tsx';

/** A project open for work: the strip over every stage, and the stage below it. */
export function StudioScreen() {
	const { id = '' } = useParams();
	const status = useStudio((state) => state.status);
	const failure = useStudio((state) => state.failure);
	useEffect(() => {
		void openProject(id);
		const stopKeys = listenForKeys();
		const stopMoving = watchMoving();
		const stop = (): void => {
			stopKeys();
			stopMoving();
		};
		return () => {
			stop();
			closeProject();
		};
	}, [id]);
	return (
		<div className="flex h-full min-w-[960px] flex-col">
			<TopStrip />
			{status === 'open' && <Outlet />}
			{status === 'opening' && <Middle title="Opening…" text="Fetching the layers and the model." />}
			{status === 'failed' && (
				<Middle title="This project is not open" text={failure?.text ?? ''}>
					{!failure?.gone && (
						<Button look="main" onClick={() => void openProject(id)}>
							Try again
						</Button>
					)}
					<Link to="/" className="cut border border-rule px-3 py-1">
						To the projects
					</Link>
				</Middle>
			)}
			{status === 'elsewhere' && (
				<Middle
					title="Open in another tab"
					text="This project is being painted in another tab of this browser. Two hands on one sheet would undo each other, so this tab waits."
				>
					<Button look="main" onClick={() => void openProject(id, true)}>
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
