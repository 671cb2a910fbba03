import { createBrowserRouter, Navigate } from 'react-router';
import { HandOffScreen } from '../screens/handoff/HandOffScreen.tsx';
import { PaintScreen } from '../screens/paint/PaintScreen.tsx';
import { ProjectsScreen } from '../screens/projects/ProjectsScreen.tsx';
import { StudioScreen } from '../screens/StudioScreen.tsx';
import { UnbuiltScreen } from '../screens/UnbuiltScreen.tsx';

export const router = createBrowserRouter([
	{ path: '/', element: <ProjectsScreen /> },
	{
		path: '/project/:id',
		element: <StudioScreen />,
		children: [
			{ index: true, element: <Navigate to="paint" replace /> },
			{ path: 'paint', element: <PaintScreen /> },
			{ path: 'hand-off', element: <HandOffScreen /> },
			{ path: ':stage', element: <UnbuiltScreen /> },
		],
	},
	{ path: '*', element: <Navigate to="/" replace /> },
]);
