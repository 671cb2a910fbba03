/** Names that begin with what the page said, so that the same words make the same names when they are said again. */
export const namesFrom = (seed: string): (() => string) => {
	let n = 0;
	return () => `${seed}-${n++}`;
};
