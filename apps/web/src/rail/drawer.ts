import type { ComponentType } from 'react';

/** A drawer at the right edge. */
export interface DrawerKind {
	readonly name: string;
	/** On its tab. */
	readonly label: string;
	/** In the search box. */
	readonly asks: string;
	readonly Drawer: ComponentType;
	/** Stands beside the views until the artist chooses otherwise. */
	readonly beside?: boolean;
}
