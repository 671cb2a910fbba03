/** The page without a browser: workers that only note what they are told. Imported after browser.ts. */
import { emptyDesk, type Layer, type Project } from '@eppu/core/document';
import type { ToKeeper } from '../src/studio/keeping.ts';
import type { ToStudioLine } from '../src/studio/protocol.ts';
import { closed, useStudio } from '../src/studio/store.ts';

export const told: { readonly to: 'studio' | 'keeper'; readonly message: ToStudioLine | ToKeeper }[] = [];

class NotingWorker {
	private readonly to: 'studio' | 'keeper';
	constructor(url: URL) {
		this.to = url.pathname.includes('keeper') ? 'keeper' : 'studio';
	}
	postMessage(message: ToStudioLine | ToKeeper): void {
		told.push({ to: this.to, message });
	}
	terminate(): void {}
}
Object.assign(globalThis, { Worker: NotingWorker });

export const projectOf = (layers: readonly Layer[]): Project => ({
	schema: 1,
	id: 'p',
	name: 'Page',
	models: [],
	sheets: [{ id: 's', name: 'Sheet', width: 64, height: 64, bleed: 4, base: null, layers, guide: null }],
	palette: { name: 'Few', colors: ['#000000', '#ffffff'] },
});

/** Opens a project of these layers on the page, the topmost of them active. */
export function openWith(layers: readonly Layer[], active = layers.at(-1)?.id): void {
	told.length = 0;
	useStudio.setState({
		...closed,
		status: 'open',
		outline: { project: projectOf(layers), done: [], undone: [], gesture: null },
		desk: { ...emptyDesk, sheet: 's', layers: active ? { s: active } : {} },
	});
}

/** What the studio was told of a kind, in order. */
export const saidTo = (say: string): readonly Record<string, unknown>[] =>
	told.flatMap(({ to, message }) =>
		to === 'studio' && message.say === say ? [message as unknown as Record<string, unknown>] : [],
	);
