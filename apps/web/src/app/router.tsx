import { lazy, type ReactNode, Suspense } from 'react';
import { createBrowserRouter, Navigate } from 'react-router';
import { ProjectsScreen } from '../screens/projects/ProjectsScreen.tsx';

// What paints comes with the first project that is opened, not with the list of them.
const paint = () => import('../screens/paint/PaintScreen.tsx');
const PaintScreen = lazy(() => paint().then((m) => ({ default: m.PaintScreen })));
const StudioScreen = lazy(() => {
	void paint();
	return import('../screens/StudioScreen.tsx').then((m) => ({ default: m.StudioScreen }));
});
const HandOffScreen = lazy(() =>
	import('../screens/handoff/HandOffScreen.tsx').then((m) => ({ default: m.HandOffScreen })),
);
const UnbuiltScreen = lazy(() => import('../screens/UnbuiltScreen.tsx').then((m) => ({ default: m.UnbuiltScreen })));

const later = (screen: ReactNode): ReactNode => <Suspense fallback={null}>{screen}</Suspense>;

export const router = createBrowserRouter([
	{ path: '/', element: <ProjectsScreen /> },
	{
		path: '/project/:id',
		element: later(<StudioScreen />),
		children: [
			{ index: true, element: <Navigate to="paint" replace /> },
			{ path: 'paint', element: later(<PaintScreen />) },
			{ path: 'hand-off', element: later(<HandOffScreen />) },
			{ path: ':stage', element: later(<UnbuiltScreen />) },
		],
	},
	{ path: '*', element: <Navigate to="/" replace /> },
]);
