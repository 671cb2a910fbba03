import { type Placed, posed } from '@eppu/core/figure';
import { nextCorner } from '@eppu/core/mesh';
import { type Camera, cameraBasis } from '@eppu/core/projection';
import {
	BufferAttribute,
	BufferGeometry,
	CanvasTexture,
	CircleGeometry,
	Color,
	DoubleSide,
	FrontSide,
	LineSegments,
	Matrix4,
	Mesh,
	NoColorSpace,
	OrthographicCamera,
	PerspectiveCamera,
	Scene,
	type ShaderMaterial,
	type Camera as ThreeCamera,
} from 'three';
import { frameFor } from '../input/strokesOn.ts';
import type { SheetPicture } from '../studio/pictures.ts';
import type { ShownModel } from '../studio/told.ts';
import type { ModelCanvas } from './modelCanvas.ts';
import { createModelMarks, type ModelMarks } from './modelMarks.ts';
import { bodyMaterial, groundMaterial, seamMaterials, wireMaterial } from './modelMaterials.ts';
import { createModelShade, type ModelShade } from './modelShade.ts';
import { numberedChecker } from './numbered.ts';
import type { PreviewLight } from './previewLight.ts';
import { createSheetTextures } from './sheetTextures.ts';
import { between, flatPlaces } from './unfolding.ts';

export interface ModelShow {
	readonly seams: boolean;
	readonly wire: boolean;
	/** Null is as the game shows it. */
	readonly light: PreviewLight | null;
	/** A round ground below it. */
	readonly ground: boolean;
}

/** Whether a part of a model, by its number, is seen. */
export type PartShown = (model: string, part: number) => boolean;

/** The model drawn with its sheets on it; draws only when told to. */
export interface ModelScene extends Omit<ModelMarks, 'drop'>, Pick<ModelShade, 'shade'> {
	look(camera: Camera, width: number, height: number): void;
	show(what: ModelShow, viewGrey: string): void;
	/** Shows only some parts of the models. */
	parts(shown: PartShown): void;
	/** Lays the models flat by a share, 0 as they are to 1 as they lie on their sheets, facing a camera. */
	unfold(share: number, from: Camera): void;
	/** Shows pixel sheets as they were when this visit began, or as they are. */
	before(shown: boolean): void;
	/** Has a model's parts stand where these take them; null as they are. */
	pose(model: string, places: readonly Placed[] | null): void;
	draw(): void;
	/** Has the light of the preview stand elsewhere; null puts it back. */
	carry(toward: readonly [number, number, number] | null): void;
	/** The model from a camera as a square picture. */
	picture(camera: Camera, side: number): Promise<Blob | null>;
	dispose(): void;
}

/** Edges of a run of faces as pairs of vertices. */
function edgesOf({ indices, inner, borders }: ShownModel, run: { readonly firstFace: number; readonly faces: number }) {
	const [first, end] = [run.firstFace * 3, (run.firstFace + run.faces) * 3];
	const pairs = new Uint32Array((inner.length + borders.length) * 2);
	let at = 0;
	for (const corners of [inner, borders])
		for (const corner of corners) {
			if (corner < first || corner >= end) continue;
			pairs[at++] = indices[corner] as number;
			pairs[at++] = indices[nextCorner(corner)] as number;
		}
	return pairs.slice(0, at);
}

/** A round ground that models stand on, darkest below them. */
function roundGround(models: readonly ShownModel[]): Mesh {
	let low = Infinity;
	for (const { positions } of models)
		for (let i = 1; i < positions.length; i += 3) low = Math.min(low, positions[i] as number);
	const [model] = models;
	const radius = model?.radius ?? 1;
	const geometry = new CircleGeometry(radius * 1.35, 48);
	geometry.rotateX(-Math.PI / 2);
	geometry.translate(model?.center[0] ?? 0, Number.isFinite(low) ? low - radius * 1e-3 : 0, model?.center[2] ?? 0);
	const mesh = new Mesh(geometry, groundMaterial());
	mesh.visible = false;
	mesh.frustumCulled = false;
	return mesh;
}

/** How long the view must rest before it is drawn finely where the processor draws it. */
const REST_MS = 350;

/** Draws on a borrowed canvas, which is the borrower's to give back once the scene is dropped. */
// biome-ignore lint/complexity/noExcessiveLinesPerFunction: builds one scene: what is made is let go of in one place.
export function createModelScene(
	{ canvas, renderer, software }: ModelCanvas,
	models: readonly ShownModel[],
	pictures: ReadonlyMap<string, SheetPicture>,
	/** Whether each texel of a sheet is shown as a square. */
	whole: (sheet: string) => boolean,
): ModelScene {
	const ratio = Math.min(2, devicePixelRatio);
	renderer.setPixelRatio(ratio);
	const scene = new Scene();
	const materials: ShaderMaterial[] = [];
	/** What is drawn of each part. */
	const drawn: {
		readonly model: ShownModel;
		readonly part: number;
		body?: Mesh;
		wire?: LineSegments;
		seams?: LineSegments;
	}[] = [];
	const disposables: { dispose(): void }[] = [];
	const bodies: { readonly model: ShownModel; readonly position: BufferAttribute; readonly normal: BufferAttribute }[] =
		[];
	/** Models that stand in a pose. */
	const inPose = new Set<string>();
	let unfolded = 0;
	let partShown: PartShown = () => true;
	let what: ModelShow = { seams: false, wire: false, light: null, ground: false };
	let carried: readonly [number, number, number] | null = null;
	const setLight = (): void => {
		for (const { uniforms } of materials) {
			const put = (name: string, value: unknown): void => {
				(uniforms[name] as { value: unknown }).value = value;
			};
			put('lit', what.light ? 1 : 0);
			if (!what.light) continue;
			put('toward', carried ?? what.light.toward);
			put('key', what.light.key);
			put('sky', what.light.sky);
			put('ground', what.light.ground);
		}
	};
	const showLines = (): void => {
		for (const { model, part, body, wire, seams } of drawn) {
			const here = partShown(model.id, part);
			if (body) body.visible = here;
			if (wire) wire.visible = here && what.wire;
			if (seams) seams.visible = here && what.seams && unfolded === 0 && !inPose.has(model.id);
		}
	};
	let camera: ThreeCamera = new PerspectiveCamera();
	let stopWaiting: (() => void) | null = null;
	let resting: ReturnType<typeof setTimeout> | undefined;
	let size = { width: 1, height: 1 };
	let disposed = false;
	let drawnAt = 0;
	const later = (): void => {
		if (stopWaiting || disposed) return;
		stopWaiting = frameFor('model', software, drawnAt, (now) => {
			stopWaiting = null;
			drawnAt = now;
			draw();
		});
	};
	const setRatio = (next: number): void => {
		if (renderer.getPixelRatio() === next) return;
		renderer.setPixelRatio(next);
		renderer.setSize(size.width, size.height, false);
	};
	const draw = (): void => {
		if (disposed) return;
		if (software) {
			// Drawn by the processor: coarsely while something moves, finely once it rests.
			setRatio(ratio);
			clearTimeout(resting);
			resting = setTimeout(() => {
				setRatio(2 * ratio);
				if (!disposed) renderer.render(scene, camera);
			}, REST_MS);
		}
		renderer.render(scene, camera);
	};

	const sheets = createSheetTextures(renderer, pictures, whole, later);
	const { textures } = sheets;
	const backdrop = new Color();
	// A browser may take a context away, and give another with nothing in it.
	const restored = (): void => {
		renderer.setClearColor(backdrop);
		sheets.again();
		later();
	};
	canvas.addEventListener('webglcontextrestored', restored);
	for (const model of models) {
		const position = new BufferAttribute(model.positions.slice(), 3);
		const uv = new BufferAttribute(model.uvs, 2);
		const normal = new BufferAttribute((model.normals ?? new Float32Array(model.positions.length)).slice(), 3);
		bodies.push({ model, position, normal });
		for (const [number, part] of model.parts.entries()) {
			const geometry = new BufferGeometry();
			geometry.setAttribute('position', position).setAttribute('uv', uv).setAttribute('normal', normal);
			geometry.setIndex(
				new BufferAttribute(model.indices.subarray(part.firstFace * 3, (part.firstFace + part.faces) * 3), 1),
			);
			const texture = textures.get(part.sheet);
			const material = bodyMaterial(texture, !model.normals, whole(part.sheet));
			materials.push(material);
			const mesh = new Mesh(geometry, material);
			// Its bounds change while it is unfolded.
			mesh.frustumCulled = false;
			scene.add(mesh);
			const edges = new BufferGeometry();
			edges.setAttribute('position', position).setAttribute('uv', uv).setAttribute('normal', normal);
			edges.setIndex(new BufferAttribute(edgesOf(model, part), 1));
			const wire = new LineSegments(edges, wireMaterial(texture, material));
			wire.frustumCulled = false;
			drawn.push({ model, part: number, body: mesh, wire });
			scene.add(wire);
			disposables.push(geometry, material, wire.geometry, wire.material);
		}
		const partOfVertex = new Uint16Array(model.positions.length / 3);
		model.indices.forEach((v, corner) => {
			partOfVertex[v] = model.partOfFace[Math.floor(corner / 3)] as number;
		});
		model.parts.forEach((_, part) => {
			const seams = new BufferGeometry();
			seams.setAttribute('position', new BufferAttribute(model.positions, 3));
			const own = model.seams.filter((_v, i) => partOfVertex[model.seams[i - (i % 2)] as number] === part);
			seams.setIndex(new BufferAttribute(own, 1));
			const flat = seams.toNonIndexed();
			for (const material of seamMaterials(model.radius)) {
				const lines = new LineSegments(flat, material);
				lines.computeLineDistances();
				drawn.push({ model, part, seams: lines });
				scene.add(lines);
				disposables.push(material);
			}
			disposables.push(seams, flat);
		});
	}

	const stand = roundGround(models);
	scene.add(stand);
	disposables.push(stand.geometry, stand.material as ShaderMaterial);

	const checkers = new Map<string, CanvasTexture>();
	const checkerOf = (sheet: string): CanvasTexture => {
		let found = checkers.get(sheet);
		if (!found) {
			const { width, height } = pictures.get(sheet) ?? { width: 1, height: 1 };
			found = new CanvasTexture(numberedChecker(width, height));
			Object.assign(found, { flipY: false, colorSpace: NoColorSpace, anisotropy: 8 });
			checkers.set(sheet, found);
			disposables.push(found);
		}
		return found;
	};
	/** A numbered checker stands for what is painted; what was painted when the visit began, for what is. */
	let [checkered, earlier] = [false, false];
	const showSheets = (): void => {
		for (const { model, part, body } of drawn) {
			const sheet = model.parts[part]?.sheet ?? '';
			const { uniforms } = (body?.material ?? { uniforms: {} }) as ShaderMaterial;
			if (!uniforms.sheet) continue;
			uniforms.sheet.value = checkered ? checkerOf(sheet) : (earlier && sheets.before(sheet)) || textures.get(sheet);
		}
	};
	const marks = createModelMarks(scene, models, later, software);
	const shade = createModelShade(
		scene,
		models,
		({ id }) => bodies.find(({ model }) => model.id === id)?.position.array as Float32Array,
		(model, face) => partShown(model.id, model.partOfFace[face] as number),
		later,
	);

	const lookFrom = (from: Camera, width: number, height: number): void => {
		const { eye, right, up, forward } = cameraBasis(from);
		// All of the model lies between near and far, however close or distant the eye is and whatever its unit.
		const reach = Math.max(
			...models.map(
				({ center, radius }) => Math.hypot(...center.map((v, i) => v - (eye[i] as number))) + radius * 1.05,
			),
		);
		const [near, far] = [from.distance * 0.01, Math.max(from.distance * 2, reach)];
		const half = from.distance * Math.tan((from.fov * Math.PI) / 360);
		const aspect = width / height;
		const next = from.parallel
			? new OrthographicCamera(-half * aspect, half * aspect, half, -half, -far, far)
			: new PerspectiveCamera(from.fov, aspect, near, far);
		next.matrixAutoUpdate = false;
		next.matrix.copy(
			new Matrix4().set(
				right[0],
				up[0],
				-forward[0],
				eye[0],
				right[1],
				up[1],
				-forward[1],
				eye[1],
				right[2],
				up[2],
				-forward[2],
				eye[2],
				0,
				0,
				0,
				1,
			),
		);
		next.updateMatrixWorld(true);
		camera = next;
		size = { width, height };
		renderer.setSize(width, height, false);
	};

	return {
		...marks,
		shade(shading) {
			checkered = Boolean(shading?.checker) && models.some(({ id }) => id === shading?.model);
			showSheets();
			shade.shade(shading);
		},
		look(from, width, height) {
			lookFrom(from, width, height);
			later();
		},
		parts(shown) {
			partShown = shown;
			showLines();
			later();
		},
		unfold(share, from) {
			if (share === 0 && unfolded === 0) return;
			unfolded = share;
			for (const { model, position } of bodies) {
				const flat = flatPlaces(model, (sheet) => pictures.get(sheet), from, size.width / size.height);
				between(model.positions, flat, share, position.array as Float32Array);
				position.needsUpdate = true;
			}
			// What lies mirrored is seen from behind once it is flat.
			for (const material of materials) material.side = share ? DoubleSide : FrontSide;
			showLines();
			later();
		},
		before(shown) {
			earlier = shown;
			showSheets();
			later();
		},
		pose(id, places) {
			const body = bodies.find(({ model }) => model.id === id);
			if (!body) return;
			const { model, position, normal } = body;
			const [to, ways] = [position.array, normal.array] as [Float32Array, Float32Array];
			to.set(model.positions);
			if (model.normals) ways.set(model.normals);
			model.parts.forEach(({ firstFace, faces }, part) => {
				const place = places?.[part];
				if (!place) return;
				const vertices = new Set(model.indices.subarray(firstFace * 3, (firstFace + faces) * 3));
				posed(model.positions, vertices, place, to);
				if (model.normals) posed(model.normals, vertices, place, ways, true);
			});
			position.needsUpdate = true;
			normal.needsUpdate = true;
			if (places) inPose.add(id);
			else inPose.delete(id);
			showLines();
			later();
		},
		show(next, viewGrey) {
			what = next;
			setLight();
			stand.visible = what.ground;
			showLines();
			backdrop.set(viewGrey).convertLinearToSRGB(); // Color reads css as sRGB; what is drawn goes out untouched
			renderer.setClearColor(backdrop);
			later();
		},
		draw,
		carry(toward) {
			carried = toward;
			setLight();
			later();
		},
		async picture(from, side) {
			const before = { camera, size };
			lookFrom(from, side, side);
			setRatio(1);
			renderer.render(scene, camera);
			const blob = new Promise<Blob | null>((resolve) => canvas.toBlob(resolve, 'image/png'));
			camera = before.camera;
			size = before.size;
			setRatio(ratio);
			renderer.setSize(size.width, size.height, false);
			renderer.render(scene, camera);
			return blob;
		},
		dispose() {
			disposed = true;
			stopWaiting?.();
			clearTimeout(resting);
			canvas.removeEventListener('webglcontextrestored', restored);
			sheets.drop();
			marks.drop();
			shade.dropShade();
			for (const each of disposables) each.dispose();
		},
	};
}
