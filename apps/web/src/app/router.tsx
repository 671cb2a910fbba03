import { createBrowserRouter, Navigate, type RouteObject } from 'react-router';
import { ProjectsScreen } from '../screens/projects/ProjectsScreen.tsx';
import { loadPaint, type StageKind, stages } from '../screens/stages.ts';
import { UnbuiltScreen } from '../screens/UnbuiltScreen.tsx';

/** What paints comes with the first project that is opened, not with the list of them. */
export const loadStudio = () => {
	void loadPaint();
	return import('../screens/StudioScreen.tsx');
};
/** What a stage shows; it comes before the address changes, so that nothing stands empty in between. */
const screenOf = ({ name, screen }: StageKind): RouteObject =>
	'load' in screen
		? { lazy: async () => ({ Component: await screen.load() }) }
		: { element: <UnbuiltScreen name={name} until={screen.until} /> };

/** The pages by their addresses. What is at the address is begun at once. */
export const createPages = () =>
	createBrowserRouter([
		{ path: '/', element: <ProjectsScreen /> },
		{
			path: '/project/:id',
			lazy: async () => ({ Component: (await loadStudio()).StudioScreen }),
			children: [
				{ index: true, element: <Navigate to="paint" replace /> },
				...stages.map((stage) => ({ path: stage.path, ...screenOf(stage) })),
				{ path: '*', element: <UnbuiltScreen name="This stage" until="There is no such stage." /> },
			],
		},
		{ path: '*', element: <Navigate to="/" replace /> },
	]);
