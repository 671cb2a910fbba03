import type { ComponentType } from 'react';

/** A stage of the work: a bead on the path at the top. */
export interface StageKind {
	/** In the address. */
	readonly path: string;
	readonly name: string;
	/** Comes with the first visit to the stage; what stands there until it is built, where it is not. */
	readonly screen: { readonly load: () => Promise<ComponentType> } | { readonly until: string };
}

/** What paints: it comes with the first project that is opened, ahead of its stage. */
export const loadPaint = () => import('./paint/PaintScreen.tsx');

/** Every stage in the order of the work: a new one is a line here. */
export const stages: readonly StageKind[] = [
	{
		path: 'lay-out',
		name: 'Lay out',
		screen: { load: () => import('./layout/LayOutScreen.tsx').then((m) => m.LayOutScreen) },
	},
	{
		path: 'light',
		name: 'Light',
		screen: { load: () => import('./light/LightScreen.tsx').then((m) => m.LightScreen) },
	},
	{ path: 'paint', name: 'Paint', screen: { load: () => loadPaint().then((m) => m.PaintScreen) } },
	{ path: 'look-over', name: 'Look over', screen: { until: 'Checks and small-size previews will be here.' } },
	{
		path: 'hand-off',
		name: 'Hand off',
		screen: { load: () => import('./handoff/HandOffScreen.tsx').then((m) => m.HandOffScreen) },
	},
];

/** Whether a stage is there to work at. */
export const isBuilt = ({ screen }: StageKind): boolean => 'load' in screen;
