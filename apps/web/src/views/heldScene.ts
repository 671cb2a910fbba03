import { heldMesh } from '@eppu/core/pixel';
import {
	BufferAttribute,
	BufferGeometry,
	Color,
	LinearSRGBColorSpace,
	Mesh,
	MeshBasicMaterial,
	PerspectiveCamera,
	Scene,
	WebGLRenderer,
} from 'three';
import type { SheetPicture } from '../studio/pictures.ts';

/** How a held thing is turned towards whoever looks, degrees, and how near it is. */
export interface HeldPose {
	readonly yaw: number;
	readonly pitch: number;
	/** 1 fills the view. */
	readonly near: number;
}

/** A pixel picture as a thing that is held, one texel thick. */
export interface HeldScene {
	/** After texels came or went, or changed colour. */
	make(picture: SheetPicture, lit: boolean): void;
	look(pose: HeldPose, width: number, height: number, surround: string): void;
	dispose(): void;
}

/** How light each side is where it is lit: as a thing in the hand is shaded. */
const shades = { front: 1, back: 0.82, side: 0.7, top: 0.95, bottom: 0.5 } as const;

const shadeOf = (x: number, y: number, z: number): number =>
	z > 0 ? shades.front : z < 0 ? shades.back : y > 0 ? shades.top : y < 0 ? shades.bottom : x ? shades.side : 1;

/** Throws Error where the browser offers no WebGL. */
export function createHeldScene(canvas: HTMLCanvasElement): HeldScene {
	const renderer = new WebGLRenderer({ canvas, antialias: true, preserveDrawingBuffer: true, alpha: true });
	// Bytes of texels reach the screen as they are.
	renderer.outputColorSpace = LinearSRGBColorSpace;
	renderer.setPixelRatio(Math.min(2, devicePixelRatio));
	const scene = new Scene();
	const camera = new PerspectiveCamera(30, 1, 0.1, 10_000);
	const material = new MeshBasicMaterial({ vertexColors: true });
	const body = new Mesh(new BufferGeometry(), material);
	scene.add(body);
	let span = 16;
	return {
		make(picture, lit) {
			const { positions, normals, colors, indices } = heldMesh(picture);
			const shaded = new Float32Array((colors as Float32Array).length);
			for (let v = 0; v < shaded.length / 4; v++) {
				const [x, y, z] = (normals as Float32Array).subarray(v * 3, v * 3 + 3) as unknown as [number, number, number];
				const light = lit ? shadeOf(x, y, z) : 1;
				for (let c = 0; c < 3; c++) shaded[v * 4 + c] = ((colors as Float32Array)[v * 4 + c] as number) * light;
				shaded[v * 4 + 3] = 1;
			}
			body.geometry.dispose();
			const geometry = new BufferGeometry();
			geometry.setAttribute('position', new BufferAttribute(positions, 3));
			geometry.setAttribute('color', new BufferAttribute(shaded, 4));
			geometry.setIndex(new BufferAttribute(indices, 1));
			body.geometry = geometry;
			span = Math.hypot(picture.width, picture.height);
		},
		look({ yaw, pitch, near }, width, height, surround) {
			renderer.setSize(width, height, false);
			renderer.setClearColor(new Color().setStyle(surround, LinearSRGBColorSpace), 1);
			camera.aspect = width / height;
			const far = ((span / 2) * 1.15) / Math.tan((camera.fov * Math.PI) / 360) / Math.min(1, camera.aspect) / near;
			const [y, p] = [(yaw * Math.PI) / 180, (pitch * Math.PI) / 180];
			camera.position.set(far * Math.sin(y) * Math.cos(p), far * Math.sin(p), far * Math.cos(y) * Math.cos(p));
			camera.near = far / 20;
			camera.far = far * 4;
			camera.lookAt(0, 0, 0);
			camera.updateProjectionMatrix();
			renderer.render(scene, camera);
		},
		dispose() {
			body.geometry.dispose();
			material.dispose();
			renderer.dispose();
		},
	};
}
