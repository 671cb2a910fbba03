/** A PNG made smaller in a worker of its own; as it was where that cannot be done. */
export function pressPng(png: Uint8Array<ArrayBuffer>): Promise<Uint8Array<ArrayBuffer>> {
	const worker = new Worker(new URL('../workers/press.worker.ts', import.meta.url), { type: 'module' });
	return new Promise((resolve) => {
		const done = (made: Uint8Array<ArrayBuffer> | null): void => {
			worker.terminate();
			resolve(made && made.length < png.length ? made : png);
		};
		worker.onmessage = ({ data }: MessageEvent<{ readonly png: Uint8Array<ArrayBuffer> | null }>) => done(data.png);
		worker.onerror = () => done(null);
		worker.postMessage(png);
	});
}
