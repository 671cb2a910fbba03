import type { Relaying } from '@eppu/core/engine';
import type { RelayWords } from './told.ts';

/** Names that begin with what the page said, so that the same words make the same names when they are said again. */
export const namesFrom = (seed: string): (() => string) => {
	let n = 0;
	return () => `${seed}-${n++}`;
};

/** What the page said of a layout, as the engine takes it. */
export const relayingOf = ({ layouts, parts, sheets, models, unmarked }: RelayWords): Relaying => ({
	...(layouts ? { layouts: new Map(layouts.map(([model, uvs]) => [model, uvs && { uvs }])) } : {}),
	...(parts ? { parts: new Map(parts) } : {}),
	...(sheets ? { sheets } : {}),
	...(models ? { models } : {}),
	...(unmarked ? { unmarked: new Map(unmarked) } : {}),
});
