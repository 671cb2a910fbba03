import { nextCorner } from '@eppu/core/mesh';
import {
	BufferAttribute,
	BufferGeometry,
	Color,
	DoubleSide,
	FrontSide,
	LineBasicMaterial,
	LineSegments,
	Mesh,
	MeshBasicMaterial,
	type Scene,
} from 'three';
import { LineMaterial } from 'three/addons/lines/LineMaterial.js';
import { LineSegments2 } from 'three/addons/lines/LineSegments2.js';
import { LineSegmentsGeometry } from 'three/addons/lines/LineSegmentsGeometry.js';
import type { Shading } from '../studio/slices/screen.ts';
import type { ShownModel } from '../studio/told.ts';
import { createShown } from './modelMarks.ts';

/** Px: how wide marked edges are drawn. */
const MARK_PX = 3.5;
/** And the cut that is pointed at. */
const CUT_PX = 6;

/** Colours over the faces of a model, and the faces that are pointed out. */
export interface ModelShade {
	shade(shading: Shading | null): void;
	dropShade(): void;
}

/** Every corner of some faces as a vertex of its own, so that each face has one colour. */
function facesApart(
	positions: Float32Array,
	{ indices }: ShownModel,
	faces: Iterable<number>,
	count: number,
): Float32Array {
	const out = new Float32Array(count * 9);
	let at = 0;
	for (const face of faces)
		for (let k = 0; k < 3; k++) {
			const v = indices[face * 3 + k] as number;
			for (let axis = 0; axis < 3; axis++) out[at++] = positions[v * 3 + axis] as number;
		}
	return out;
}

/** Borders of triangles as pairs of places. */
function rims(corners: Float32Array): Float32Array {
	const out = new Float32Array(corners.length * 2);
	for (let face = 0; face < corners.length / 9; face++)
		for (let k = 0; k < 3; k++)
			for (const [i, corner] of [k, (k + 1) % 3].entries())
				out.set(corners.subarray(face * 9 + corner * 3, face * 9 + corner * 3 + 3), face * 18 + k * 6 + i * 3);
	return out;
}

/** `placesOf` gives where a model's vertices are drawn now, `seen` which faces are; `later` has the scene drawn. */
export function createModelShade(
	scene: Scene,
	models: readonly ShownModel[],
	placesOf: (model: ShownModel) => Float32Array,
	seen: (model: ShownModel, face: number) => boolean,
	later: () => void,
): ModelShade {
	const shown = createShown(scene);
	/** Draws edges, each by a corner that it begins at: strong where they are seen, faint through the model. */
	const edges = (model: ShownModel, corners: Uint32Array, hex: number, linewidth: number): void => {
		const places = new Float32Array(corners.length * 6);
		const from = placesOf(model);
		corners.forEach((corner, i) => {
			for (const [end, each] of [corner, nextCorner(corner)].entries()) {
				const v = model.indices[each] as number;
				places.set(from.subarray(v * 3, v * 3 + 3), i * 6 + end * 3);
			}
		});
		const geometry = new LineSegmentsGeometry();
		geometry.setPositions(places);
		const color = new Color(hex).convertLinearToSRGB();
		for (const [depthTest, opacity] of [
			[true, 1],
			[false, 0.25],
		] as const) {
			const lines = new LineSegments2(
				geometry,
				new LineMaterial({ color, linewidth, depthTest, transparent: true, opacity }),
			);
			lines.renderOrder = 4;
			lines.frustumCulled = false;
			shown.add(lines);
		}
	};
	/** A wire shell round a model, so far outside of it. */
	const cage = (model: ShownModel, off: number): void => {
		const geometry = new BufferGeometry();
		geometry.setAttribute('position', new BufferAttribute(placesOf(model).slice(), 3));
		geometry.setIndex(new BufferAttribute(model.indices, 1));
		if (model.normals) geometry.setAttribute('normal', new BufferAttribute(model.normals, 3));
		else geometry.computeVertexNormals();
		const places = geometry.getAttribute('position').array;
		const normals = geometry.getAttribute('normal').array;
		for (let i = 0; i < places.length; i++) places[i] = (places[i] as number) + (normals[i] as number) * off;
		const color = new Color(0xe9a23b).convertLinearToSRGB();
		const mesh = new Mesh(
			geometry,
			new MeshBasicMaterial({ color, wireframe: true, transparent: true, opacity: 0.55 }),
		);
		mesh.renderOrder = 3;
		mesh.frustumCulled = false;
		shown.add(mesh);
	};
	return {
		shade(shading) {
			shown.drop();
			const side = shading?.unfold ? DoubleSide : FrontSide;
			const model = models.find(({ id }) => id === shading?.model);
			if (model && shading?.colors) {
				const faces = [...Array(model.indices.length / 3).keys()].filter((face) => seen(model, face));
				const geometry = new BufferGeometry();
				geometry.setAttribute(
					'position',
					new BufferAttribute(facesApart(placesOf(model), model, faces, faces.length), 3),
				);
				const colors = new Uint8Array(faces.length * 9);
				for (const [i, face] of faces.entries())
					for (let k = 0; k < 3; k++) colors.set(shading.colors.subarray(face * 3, face * 3 + 3), i * 9 + k * 3);
				geometry.setAttribute('color', new BufferAttribute(colors, 3, true));
				const mesh = new Mesh(
					geometry,
					new MeshBasicMaterial({ vertexColors: true, transparent: true, opacity: 0.8, side }),
				);
				mesh.renderOrder = 1;
				shown.add(mesh);
			}
			if (model && shading?.lit?.length) {
				const places = facesApart(placesOf(model), model, shading.lit, shading.lit.length);
				const color = new Color(0xe9a23b).convertLinearToSRGB();
				const geometry = new BufferGeometry();
				geometry.setAttribute('position', new BufferAttribute(places, 3));
				const mesh = new Mesh(geometry, new MeshBasicMaterial({ color, transparent: true, opacity: 0.6, side }));
				mesh.renderOrder = 2;
				shown.add(mesh);
				// Seen through the model: what is wrong is often on the other side.
				const edges = new BufferGeometry();
				edges.setAttribute('position', new BufferAttribute(rims(places), 3));
				const lines = new LineSegments(edges, new LineBasicMaterial({ color, depthTest: false }));
				lines.renderOrder = 3;
				shown.add(lines);
			}
			if (model && shading?.cage) cage(model, (shading.cage * model.radius) / 50);
			if (model && shading?.marks?.length) edges(model, shading.marks, 0xa92c45, MARK_PX);
			if (model && shading?.cut?.length) edges(model, shading.cut, 0xe9a23b, CUT_PX);
			later();
		},
		dropShade: () => shown.drop(),
	};
}
