import {
	BufferAttribute,
	BufferGeometry,
	DataTexture,
	LinearSRGBColorSpace,
	LineSegments,
	Mesh,
	PerspectiveCamera,
	Scene,
	WebGLRenderer,
} from 'three';
import { drawnBySoftware, freshCanvas } from './drawnBySoftware.ts';
import { bodyMaterial, seamMaterials } from './modelMaterials.ts';

/** What models are drawn on and with. */
export interface ModelCanvas {
	readonly canvas: HTMLCanvasElement;
	readonly renderer: WebGLRenderer;
	/** The processor draws. */
	readonly software: boolean;
}

/**
 * Canvases that nobody draws on. They serve again, from stage to stage: a context and its shaders, got ready anew, take
 * a third of a second where the processor draws.
 */
const spare: ModelCanvas[] = [];

function made(): ModelCanvas {
	const software = drawnBySoftware();
	const canvas = freshCanvas();
	canvas.className = 'block size-full';
	const renderer = new WebGLRenderer({ canvas, antialias: !software, preserveDrawingBuffer: true });
	renderer.outputColorSpace = LinearSRGBColorSpace; // texel bytes reach the screen as they are
	return { canvas, renderer, software };
}

/** A canvas to draw models on, until it is given back. Throws Error where the browser offers no WebGL. */
export function borrowCanvas(): ModelCanvas {
	for (let each = spare.pop(); each; each = spare.pop())
		if (!each.renderer.getContext().isContextLost()) return each;
		else each.renderer.dispose();
	return made();
}

/** Gives a canvas back, bare. */
export function giveCanvas(own: ModelCanvas): void {
	own.canvas.remove();
	own.renderer.setSize(1, 1, false);
	spare.push(own);
}

/** One face and one line with all that a model's first picture is drawn with. */
function sample(): Scene {
	const scene = new Scene();
	const texture = new DataTexture(new Uint8Array(4), 1, 1);
	texture.needsUpdate = true;
	const geometry = new BufferGeometry();
	for (const [name, size] of [
		['position', 3],
		['uv', 2],
		['normal', 3],
	] as const)
		geometry.setAttribute(name, new BufferAttribute(new Float32Array(3 * size).fill(0.1), size));
	geometry.setIndex(new BufferAttribute(new Uint32Array([0, 1, 2]), 1));
	const body = new Mesh(geometry, bodyMaterial(texture, false, false));
	const lines = seamMaterials(1).map((material) => {
		const seam = new LineSegments(geometry.toNonIndexed(), material);
		seam.computeLineDistances();
		return seam;
	});
	for (const each of [body, ...lines]) {
		each.frustumCulled = false;
		scene.add(each);
	}
	return scene;
}

/**
 * Gets a canvas ready before there is a model: its shaders are compiled and have drawn once. Nothing waits for them, and
 * what they were made for stays, so that they are never compiled again. Does nothing where there is no WebGL.
 */
export async function warmCanvas(): Promise<void> {
	if (spare.length) return;
	try {
		const own = made();
		spare.push(own);
		const [scene, camera] = [sample(), new PerspectiveCamera()];
		await own.renderer.compileAsync(scene, camera);
		if (spare.includes(own)) own.renderer.render(scene, camera);
	} catch {
		// Who wants to see a model is told.
	}
}
