import { type ComponentType, lazy } from 'react';

/** A stage of the work: a bead on the path at the top. */
export interface StageKind {
	/** In the address. */
	readonly path: string;
	readonly name: string;
	/** Comes with the first visit to the stage; what stands there until it is built, where it is not. */
	readonly Screen: ComponentType | { readonly until: string };
}

/** What paints: it comes with the first project that is opened, ahead of its stage. */
export const loadPaint = () => import('./paint/PaintScreen.tsx');

/** Every stage in the order of the work: a new one is a line here. */
export const stages: readonly StageKind[] = [
	{
		path: 'lay-out',
		name: 'Lay out',
		Screen: {
			until:
				'Unwrapping, arranging islands and measuring texel density will be done here. Until then bring models with UVs.',
		},
	},
	{
		path: 'light',
		name: 'Light',
		Screen: {
			until:
				'Baked occlusion and light layers will be made here. Until then light is painted by hand, as on the demo smoker.',
		},
	},
	{ path: 'paint', name: 'Paint', Screen: lazy(() => loadPaint().then((m) => ({ default: m.PaintScreen }))) },
	{ path: 'look-over', name: 'Look over', Screen: { until: 'Checks and small-size previews will be here.' } },
	{
		path: 'hand-off',
		name: 'Hand off',
		Screen: lazy(() => import('./handoff/HandOffScreen.tsx').then((m) => ({ default: m.HandOffScreen }))),
	},
];

/** Whether a stage is there to work at. */
export const isBuilt = ({ Screen }: StageKind): boolean => !('until' in Screen);
