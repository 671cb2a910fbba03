import { useStudio } from '../studio/store.ts';

const stored = 'eppu-rail';
export const railWidths = { least: 220, usual: 300, most: 720 } as const;

const clamp = (width: number): number => Math.min(railWidths.most, Math.max(railWidths.least, Math.round(width)));

/** How drawers stood when this browser was last used: which beside the views, and how wide. */
export function railHabits(): void {
	try {
		const kept = JSON.parse(localStorage.getItem(stored) ?? '{}') as { beside?: unknown; width?: unknown };
		const { beside, width } = kept;
		useStudio.setState({
			rail: {
				beside: typeof beside === 'object' && beside ? { ...(beside as Record<string, boolean>) } : {},
				width: typeof width === 'number' ? clamp(width) : railWidths.usual,
			},
		});
	} catch {
		// What cannot be read is as if it had never been chosen.
	}
}

function setRail(change: Partial<ReturnType<typeof useStudio.getState>['rail']>): void {
	const rail = { ...useStudio.getState().rail, ...change };
	useStudio.setState({ rail });
	try {
		localStorage.setItem(stored, JSON.stringify(rail));
	} catch {
		// A browser that keeps nothing forgets it with the tab.
	}
}

export const setRailWidth = (width: number): void => setRail({ width: clamp(width) });

/** Whether a drawer stands beside the views or over them, as the artist chose it. */
export const standBeside = (name: string, beside: boolean): void =>
	setRail({ beside: { ...useStudio.getState().rail.beside, [name]: beside } });

/** Opens a drawer, or shuts it where it is open. */
export const toggleDrawer = (name: string): void =>
	useStudio.setState({ drawer: useStudio.getState().drawer === name ? null : name });
