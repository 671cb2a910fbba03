let known: boolean | undefined;

/** Whether WebGL is drawn by the processor: then smoothing edges at every frame costs more than it gives. */
export function drawnBySoftware(): boolean {
	known ??= asked();
	return known;
}

function asked(): boolean {
	const gl = document.createElement('canvas').getContext('webgl2');
	const info = gl?.getExtension('WEBGL_debug_renderer_info');
	const name = String(info && gl ? gl.getParameter(info.UNMASKED_RENDERER_WEBGL) : '');
	gl?.getExtension('WEBGL_lose_context')?.loseContext();
	return /swiftshader|llvmpipe|software/i.test(name);
}
