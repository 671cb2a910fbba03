import type { Tool } from '@eppu/core/stroke';
import type { Icon } from '@phosphor-icons/react';
import type { ComponentType } from 'react';
import type { Pointing } from '../studio/protocol.ts';
import type { StudioState } from '../studio/store.ts';

/** A press of the pen or the mouse on a view. */
export interface Press {
	readonly view: 'model' | 'sheet';
	/** What lies there; null beside everything. */
	readonly pointing: Pointing | null;
	readonly state: StudioState;
	readonly shiftKey: boolean;
	readonly altKey: boolean;
	/** Of the screen. */
	readonly clientX: number;
	readonly clientY: number;
}

/**
 * A tool of the hand. Whoever shows tools, listens for their keys or follows the pointer reads this and knows none by
 * name; `press` and `stroke` say what a press on a view does.
 */
export interface ToolKind<N extends string = string> {
	readonly name: N;
	/** On its button. */
	readonly label: string;
	/** In the search box and the drawer of keys. */
	readonly asks: string;
	readonly keys?: string;
	/** Its key works only while it is held. */
	readonly held?: boolean;
	readonly Icon: Icon;
	readonly hint: string;
	/** The tool whose button stands for it too. */
	readonly under?: string;
	/** The heading of the bay; its label and the layer's name where it is left out. */
	readonly title?: string;
	/** What it can be told beside the tip's dials. */
	readonly Options?: ComponentType;
	/** A bay of its own in the place of the tip's and the stencil's. */
	readonly Bay?: ComponentType;
	/** The same where whole texels are drawn. */
	readonly TexelBay?: ComponentType;
	/** How far it goes: from `least` to 1, and what that means. */
	readonly amount?: { readonly least: 0 | -1; readonly hint: string };
	/** What the tip's strength means in its hand, where that is not how much paint. */
	readonly strength?: readonly [label: string, hint: string];
	/** What its strokes do. */
	stroke?(state: StudioState): Tool;
	/** Its strokes are set between press and release, not drawn along a line. */
	readonly placed?: boolean;
	/** Pressed and dragged it takes colours. */
	readonly samples?: boolean;
	/** What it draws on the sheet: shapes, or a line from press to release. */
	readonly draws?: boolean;
	/** Where its button stands: on pixel sheets alone, or not there, or on colour grids alone; everywhere where it is left out. */
	readonly on?: 'pixels' | 'soft' | 'grid';
	/** A press that begins no stroke; where something is carried, a click. */
	press?(press: Press): void;
	/** What a press takes along until it is let go, in either view. */
	readonly carry?: {
		/** What letting go there would do, in words; null where nothing is said. */
		over(from: Press, to: Press | null): string | null;
		drop(from: Press, to: Press): void;
		/** Nothing is carried any more. */
		end(): void;
	};
}

/** A tool's own bay in the bench. */
export const bay = 'min-w-0 overflow-y-auto border-r border-rule px-3 py-2';

export const optionTrigger = 'cut-small shrink-0 px-1.5 text-[12px] hover:bg-bark';
