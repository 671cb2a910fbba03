import { lazy, type ReactNode, Suspense } from 'react';
import { createBrowserRouter, Navigate } from 'react-router';
import { ProjectsScreen } from '../screens/projects/ProjectsScreen.tsx';
import { loadPaint, type StageKind, stages } from '../screens/stages.ts';
import { UnbuiltScreen } from '../screens/UnbuiltScreen.tsx';

// What paints comes with the first project that is opened, not with the list of them.
const StudioScreen = lazy(() => {
	void loadPaint();
	return import('../screens/StudioScreen.tsx').then((m) => ({ default: m.StudioScreen }));
});

const later = (screen: ReactNode): ReactNode => <Suspense fallback={null}>{screen}</Suspense>;

const screenOf = ({ name, Screen }: StageKind): ReactNode =>
	'until' in Screen ? <UnbuiltScreen name={name} until={Screen.until} /> : later(<Screen />);

export const router = createBrowserRouter([
	{ path: '/', element: <ProjectsScreen /> },
	{
		path: '/project/:id',
		element: later(<StudioScreen />),
		children: [
			{ index: true, element: <Navigate to="paint" replace /> },
			...stages.map((stage) => ({ path: stage.path, element: screenOf(stage) })),
			{ path: '*', element: <UnbuiltScreen name="This stage" until="There is no such stage." /> },
		],
	},
	{ path: '*', element: <Navigate to="/" replace /> },
]);
