/** Ms after the page is there: loading comes first. */
const LATER_MS = 4000;

/** Keeps the page itself in the browser, so that it can say so where there is no server. */
export function keepShell(): void {
	if (!import.meta.env.PROD || !('serviceWorker' in navigator)) return;
	const keep = async (): Promise<void> => {
		await navigator.serviceWorker.register('/shell.js');
		const { active } = await navigator.serviceWorker.ready;
		const loaded = performance.getEntriesByType('resource').map((entry) => entry.name);
		active?.postMessage({ keep: ['/', ...loaded.filter((name) => name.startsWith(`${location.origin}/assets/`))] });
	};
	setTimeout(() => void keep().catch(() => undefined), LATER_MS);
}
