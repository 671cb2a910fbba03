/** Ms between looks for a server that is away. */
const LOOK_MS = 2000;

/** Whether the server answers. */
export const isBack = (): Promise<boolean> =>
	fetch('/api/health', { cache: 'no-store', signal: AbortSignal.timeout(LOOK_MS * 2) }).then(
		(answer) => answer.ok,
		() => false,
	);

/** Calls once the server answers again; returns what stops the waiting. */
export function whenBack(call: () => void): () => void {
	let gone = false;
	const look = async (): Promise<void> => {
		const back = await isBack();
		if (gone) return;
		if (back) call();
		else timer = setTimeout(look, LOOK_MS);
	};
	let timer = setTimeout(look, LOOK_MS);
	return () => {
		gone = true;
		clearTimeout(timer);
	};
}
