interface Probe {
	readonly software: boolean;
	/** What was asked, while nobody draws on it: a context takes long to make where the processor draws. */
	canvas: HTMLCanvasElement | null;
}

let probe: Probe | null = null;

function asked(): Probe {
	const canvas = document.createElement('canvas');
	const gl = canvas.getContext('webgl2', { antialias: false, preserveDrawingBuffer: true });
	const info = gl?.getExtension('WEBGL_debug_renderer_info');
	const name = String(info && gl ? gl.getParameter(info.UNMASKED_RENDERER_WEBGL) : '');
	if (/swiftshader|llvmpipe|software/i.test(name)) return { software: true, canvas };
	gl?.getExtension('WEBGL_lose_context')?.loseContext();
	return { software: false, canvas: null };
}

/** Whether WebGL is drawn by the processor: then smoothing edges at every frame costs more than it gives. */
export function drawnBySoftware(): boolean {
	probe ??= asked();
	return probe.software;
}

/**
 * A canvas to draw by WebGL on, its edges not smoothed and what is drawn kept where the processor draws: the first one
 * then has its context already.
 */
export function freshCanvas(): HTMLCanvasElement {
	probe ??= asked();
	const { canvas } = probe;
	probe.canvas = null;
	return canvas ?? document.createElement('canvas');
}
