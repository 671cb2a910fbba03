/** What modules of the page ask of a browser as they are loaded; imported first. */
const kept = new Map<string, string>();
Object.assign(globalThis, {
	addEventListener: () => undefined,
	localStorage: {
		getItem: (key: string) => kept.get(key) ?? null,
		setItem: (key: string, value: string) => void kept.set(key, value),
	},
});
