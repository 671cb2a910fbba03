import type { Guard } from '@eppu/core/document';
import { guardLets } from '@eppu/core/document';
import {
	BufferAttribute,
	BufferGeometry,
	Color,
	LineBasicMaterial,
	LineSegments,
	type Material,
	Mesh,
	MeshBasicMaterial,
	type Object3D,
	type Scene,
	ShaderMaterial,
} from 'three';
import type { ShownModel } from '../studio/told.ts';

/** A border of light and dark dashes that walk. */
const outlineVertex = `
attribute float along;
varying float at;
void main() {
	at = along;
	gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0);
}`;
const outlineFragment = `
uniform float dash;
uniform float step;
varying float at;
void main() {
	float tone = fract(at / dash / 2.0 - step) < 0.5 ? 0.96 : 0.07;
	gl_FragColor = vec4(vec3(tone), 1.0);
}`;

/** What is shown over the model beside its paint. */
export interface ModelMarks {
	/** Dims what a guard keeps paint off; null dims nothing. */
	guard(guard: Guard | null): void;
	/** Shows the border of what is selected: pairs of places; null shows none. */
	selection(places: Float32Array | null): void;
	/** Shows where mirror planes cut the model: pairs of places. */
	planes(places: Float32Array | null): void;
	drop(): void;
}

/** What was put into a scene for one mark, taken out together. */
export function createShown(scene: Scene) {
	let list: (Object3D & { readonly geometry: BufferGeometry; readonly material: Material | Material[] })[] = [];
	return {
		add(each: (typeof list)[number]): void {
			list.push(each);
			scene.add(each);
		},
		drop(): void {
			for (const each of list) {
				scene.remove(each);
				each.geometry.dispose();
				for (const material of [each.material].flat()) material.dispose();
			}
			list = [];
		},
	};
}

/** The selection's border: dashes that walk, one length along all its pieces. */
function outlineOf(places: Float32Array, dash: number): { readonly lines: LineSegments; walk(): void } {
	const geometry = new BufferGeometry();
	geometry.setAttribute('position', new BufferAttribute(places, 3));
	const along = new Float32Array(places.length / 3);
	for (let i = 0; i + 1 < along.length; i += 2) {
		const at = (n: number, k: number): number => places[n * 3 + k] as number;
		const start = i ? (along[i - 1] as number) : 0;
		along[i] = start;
		along[i + 1] = start + Math.hypot(at(i + 1, 0) - at(i, 0), at(i + 1, 1) - at(i, 1), at(i + 1, 2) - at(i, 2));
	}
	geometry.setAttribute('along', new BufferAttribute(along, 1));
	const step = { value: 0 };
	const material = new ShaderMaterial({
		vertexShader: outlineVertex,
		fragmentShader: outlineFragment,
		uniforms: { dash: { value: dash }, step },
	});
	const lines = new LineSegments(geometry, material);
	lines.renderOrder = 2;
	return {
		lines,
		walk() {
			step.value = (step.value + 0.12) % 1;
		},
	};
}

/** The faces that a guard keeps paint off, as a grey over them. */
function dimmedOf(model: ShownModel, guard: Guard): Mesh {
	const kept: number[] = [];
	for (let face = 0; face < model.indices.length / 3; face++)
		if (!guardLets(guard, face, model.partOfFace[face] as number, model.islandOfFace[face] as number))
			kept.push(...model.indices.subarray(face * 3, face * 3 + 3));
	const geometry = new BufferGeometry();
	geometry.setAttribute('position', new BufferAttribute(model.positions, 3));
	geometry.setIndex(kept);
	const grey = new Color(0x464646).convertLinearToSRGB();
	const mesh = new Mesh(geometry, new MeshBasicMaterial({ color: grey, transparent: true, opacity: 0.72 }));
	mesh.renderOrder = 1;
	return mesh;
}

/** Marks over the models of a scene; `later` has it drawn. Without a graphics card nothing walks. */
export function createModelMarks(
	scene: Scene,
	models: readonly ShownModel[],
	later: () => void,
	software: boolean,
): ModelMarks {
	const [dimmed, outlined, cut] = [createShown(scene), createShown(scene), createShown(scene)];
	const radius = models[0]?.radius ?? 1;
	let walking: ReturnType<typeof setInterval> | undefined;
	return {
		guard(guard) {
			dimmed.drop();
			if (guard) for (const model of models) dimmed.add(dimmedOf(model, guard));
			later();
		},
		selection(places) {
			clearInterval(walking);
			outlined.drop();
			if (places?.length) {
				const { lines, walk } = outlineOf(places, radius * 0.022);
				outlined.add(lines);
				if (!software && !matchMedia('(prefers-reduced-motion: reduce)').matches)
					walking = setInterval(() => {
						walk();
						later();
					}, 110);
			}
			later();
		},
		planes(places) {
			cut.drop();
			if (places?.length) {
				const geometry = new BufferGeometry();
				geometry.setAttribute('position', new BufferAttribute(places, 3));
				const color = new Color(0xe9a23b).convertLinearToSRGB();
				const lines = new LineSegments(geometry, new LineBasicMaterial({ color, depthTest: true }));
				lines.renderOrder = 2;
				cut.add(lines);
			}
			later();
		},
		drop() {
			clearInterval(walking);
			for (const each of [dimmed, outlined, cut]) each.drop();
		},
	};
}
