import { isAreaTone, rgbOfHex } from '../color/index.ts';
import { areaBlock, areaReach, type Compositor } from '../composite/index.ts';
import { type Finish, outlineBlock, outlineReach, stitchBlock, stitchThreads, type Thread } from '../finish/index.ts';
import {
	around,
	type Block,
	fieldAt,
	grownRect,
	isEmptyRect,
	meet,
	pathCoverage,
	pathRect,
	type Rect,
	tileRect,
	tilesOfRect,
} from '../raster/index.ts';
import { isDear, type Recipe, recipeField, recipeReach, tapsOf, toneOfField } from '../recipe/index.ts';
import { Kind, type SurfaceId, type TexelFormat, TILE } from '../surface/index.ts';
import { textPath } from '../text/index.ts';
import { fillBlock, type WashFill } from '../wash/index.ts';
import { belowOf } from './circle.ts';
import { modelGround, sceneOfSheet } from './ground.ts';
import { type IslandView, tilesOver } from './islandView.ts';
import { alone, alphaOf, bare, layersBlock, type Means, sheetRect, stackBlock } from './layerPicture.ts';
import { prefixField } from './prefix.ts';
import { eachLayer, type Layer, layerOf, type Sheet } from './project.ts';
import { groundOf, viewsOf } from './recipeGround.ts';
import type { Scene } from './scene.ts';
import { fillIdOf, finishIdOf, isComputed, maskIdOf, ownMaskIdOf, stackOf } from './stack.ts';

/** A surface that is computed from the document and other surfaces, any rectangle of it at any time. */
export interface Derived {
	readonly id: SurfaceId;
	readonly format: TexelFormat;
	/** Says all that it depends on beside its inputs' texels. */
	readonly key: string;
	readonly inputs: readonly SurfaceId[];
	/** Texels of the inputs beside a place that count for it; Infinity where all do. */
	readonly reach: number;
	/** Tiles of the inputs beyond reach that a rectangle reads: over seams. */
	far?(rect: Rect): Iterable<number>;
	/** The texels of a rectangle within the sheet, or null where it is empty. */
	make(rect: Rect): Uint8Array | null;
	/** About the same in a small part of the time, where computing is dear: shown until `make` has been asked. */
	draft?(rect: Rect): Uint8Array;
	/** Forgets what it remembered of its inputs. */
	reset?(): void;
	/** The surface that stands for it until it is computed: else there is nothing. */
	readonly meanwhile?: SurfaceId;
	/** Of a mask: its steps, and what else its tones depend on. */
	readonly recipe?: { readonly steps: Recipe; readonly says: string };
}

/** Every surface whose texels a layer's picture depends on directly: its own, its mask's, its finishes', and those within it. */
export function imageInputs(layer: Layer): SurfaceId[] {
	return [...eachLayer([layer])].flatMap((each) => [
		...(each.kind === 'paint' ? [each.surface] : isComputed(each) ? [fillIdOf(each)] : []),
		...(maskIdOf(each) ? [maskIdOf(each)] : []),
		...(each.finishes ?? []).filter((finish) => finish.on && finish.finish !== 'tint').map((f) => finishIdOf(each, f)),
	]);
}

/** What of a layer's look is in the document and not in surfaces. */
const outlineOf = (layer: Layer): string =>
	JSON.stringify(
		[...eachLayer([layer])].map(({ id, shown, opacity, mode, clip, mask, ...rest }) => [
			id,
			shown,
			opacity,
			mode,
			clip,
			mask?.on,
			'color' in rest && rest.color,
			'tone' in rest && rest.tone,
			'isolated' in rest && rest.isolated,
			rest.finishes,
		]),
	);

/** Texels along a cell of a draft. */
const DRAFT = 4;

function maskNode(means: Means, sheet: Sheet, layer: Layer): Derived {
	const recipe = layer.mask?.recipe ?? [];
	const reach = recipeReach(recipe);
	const taps = tapsOf(recipe).flatMap(({ layer: id, of }) => {
		const other = layerOf(sheet, id);
		if (!other) return [];
		return of === 'mask'
			? [{ other, ids: other.mask ? [ownMaskIdOf(other)] : [] }]
			: [{ other, ids: imageInputs(alone(other)) }];
	});
	const id = ownMaskIdOf(layer);
	const pictured = recipe.map((step) => step.step === 'picture' && Boolean(means.pictures.stencil(step.picture)));
	const says = JSON.stringify([taps.map(({ other }) => outlineOf(alone(other))), pictured, reach]);
	/** On cells of several texels, with no look over seams. */
	const draft = (rect: Rect): Uint8Array => {
		const wide = grownRect(rect, Math.ceil(reach / DRAFT + 1) * DRAFT);
		const ground = groundOf(means, sheet, layer, wide, DRAFT);
		const field = recipeField(recipe, ground);
		const out = new Uint8Array(rect.width * rect.height);
		for (let i = 0; i < out.length; i++) {
			const x = ((i % rect.width) + 0.5 + rect.x - wide.x) / DRAFT;
			const y = (Math.floor(i / rect.width) + 0.5 + rect.y - wide.y) / DRAFT;
			out[i] = Math.round(255 * Math.min(1, Math.max(0, fieldAt(field, ground.width, ground.height, x, y))));
		}
		return out;
	};
	return {
		id,
		format: 'mask',
		key: JSON.stringify([recipe, says]),
		recipe: { steps: recipe, says },
		...(layer.mask ? { meanwhile: layer.mask.surface } : {}),
		inputs: [
			...(layer.mask && recipe.some((step) => step.on && step.step === 'painted') ? [layer.mask.surface] : []),
			...taps.flatMap(({ ids }) => ids),
		],
		reach,
		far: (rect) => viewsOf(means, sheet, rect, reach)?.views.flatMap(({ over }) => [...tilesOver(over, sheet)]) ?? [],
		...(isDear(recipe) ? { draft } : {}),
		reset() {
			if (means.prefixes.current?.mask === id) means.prefixes.current = null;
		},
		make(rect) {
			/** Tones of a rectangle around what is wanted, whose border they still depend on. */
			const seen = (wide: Rect, view: IslandView | null): Uint8Array => {
				const ground = groundOf(means, sheet, layer, wide, 1, view);
				const prefix = means.prefixes.current;
				const place = `${rect.x} ${rect.y} ${view?.island}`;
				const start =
					prefix?.mask === id
						? {
								from: prefix.count,
								field: prefixField(prefix, place, () => recipeField(recipe, ground, prefix.count)),
							}
						: undefined;
				return toneOfField(recipeField(recipe, ground, undefined, start));
			};
			const views = viewsOf(means, sheet, rect, reach);
			const wide = grownRect(rect, reach);
			if (!views?.views.length) return cut(seen(wide, null), wide, rect);
			const out = new Uint8Array(rect.width * rect.height);
			for (const view of views.views) {
				const tone = seen(view.rect, view);
				for (let i = 0; i < out.length; i++) {
					if (views.owner[i] !== view.island) continue;
					const row = rect.y + Math.floor(i / rect.width) - view.rect.y;
					out[i] = tone[row * view.rect.width + rect.x + (i % rect.width) - view.rect.x] as number;
				}
			}
			return out;
		},
	};
}

/** The part of A8 texels of a rectangle that lies in a smaller one. */
function cut(tone: Uint8Array, wide: Rect, rect: Rect): Uint8Array {
	const out = new Uint8Array(rect.width * rect.height);
	for (let row = 0; row < rect.height; row++) {
		const from = (rect.y - wide.y + row) * wide.width + rect.x - wide.x;
		out.set(tone.subarray(from, from + rect.width), row * rect.width);
	}
	return out;
}

function contentNode(means: Means, sheet: Sheet, layer: Layer): Derived | null {
	const plain = { id: fillIdOf(layer), format: 'color' as const, inputs: [] as SurfaceId[], reach: 0 };
	if (layer.kind === 'wash' && layer.fill) {
		const fill: WashFill = layer.fill;
		const picture = fill.fill === 'gradient' ? true : Boolean(means.pictures.stencil(fill.picture));
		return {
			...plain,
			key: JSON.stringify([fill, picture]),
			make: (rect) => fillBlock(fill, rect, means.pictures.stencil),
		};
	}
	if (layer.kind === 'text') {
		const { text } = layer;
		const path = textPath(text);
		const box = pathRect(path);
		const [r, g, b] = rgbOfHex(text.color);
		const word = (r | (g << 8) | (b << 16)) >>> 0;
		return {
			...plain,
			key: JSON.stringify(text),
			make(rect) {
				if (isEmptyRect(meet(box, rect))) return null;
				const cover = pathCoverage(path, rect);
				const out = new Uint32Array(cover.length);
				for (let i = 0; i < out.length; i++) if (cover[i]) out[i] = (word | ((cover[i] as number) << 24)) >>> 0;
				return new Uint8Array(out.buffer);
			},
		};
	}
	if (layer.kind === 'adjust' && isAreaTone(layer.tone)) {
		const { tone } = layer;
		const below = belowOf(sheet, layer.id);
		const lowest = layer.clip ? below.map((each, i) => (i === 0 ? alone(each) : each)) : below;
		const stack = (): Parameters<Compositor['tile']>[0] =>
			stackOf({ ...sheet, base: layer.clip ? null : sheet.base, layers: lowest }, means.surfaces).layers;
		return {
			...plain,
			inputs: below.flatMap(imageInputs),
			key: JSON.stringify([tone, sheet.base, layer.clip, below.map(outlineOf)]),
			reach: areaReach(tone),
			make(rect) {
				const wide = grownRect(rect, areaReach(tone));
				return areaBlock(tone, stackBlock(means.kernels, means.compositor, sheet, stack(), wide), rect);
			},
		};
	}
	return null;
}

function finishNode(means: Means, sheet: Sheet, layer: Layer, finish: Finish): Derived | null {
	const own = bare(layer);
	const plain = { id: finishIdOf(layer, finish), format: 'color' as const };
	const shape = (rect: Rect): Block => {
		const block = layersBlock(means, sheet, [own], rect);
		return { rect, bytes: 1, data: alphaOf(block) };
	};
	if (finish.finish === 'tint') return null;
	const { opacity: _o, mode: _m, ...says } = finish;
	if (finish.finish === 'pattern') {
		const { fill } = finish;
		const here = Boolean(means.pictures.stencil(fill.picture));
		return {
			...plain,
			key: JSON.stringify([says, here]),
			inputs: maskIdOf(layer) ? [maskIdOf(layer)] : [],
			reach: 0,
			make(rect) {
				// Where the layer's mask hides all there is nothing to lie on.
				const mask = means.surfaces.get(maskIdOf(layer));
				const hidden = mask && tilesOfRect(mask, rect).every((tile) => mask.kinds[tile] === Kind.empty);
				return hidden ? null : fillBlock(fill, rect, means.pictures.stencil);
			},
		};
	}
	const key = JSON.stringify([says, outlineOf(own)]);
	if (finish.finish === 'outline') {
		const reach = outlineReach(finish);
		return {
			...plain,
			key,
			inputs: imageInputs(own),
			reach,
			make(rect) {
				return outlineBlock(finish, shape(grownRect(rect, reach)), rect);
			},
		};
	}
	let threads: Thread[] | null = null;
	const follow = (): Thread[] => {
		const { along } = finish;
		if (along === 'shape') {
			const tiles = { cols: Math.ceil(sheet.width / TILE), rows: Math.ceil(sheet.height / TILE) };
			let box: Rect = { x: 0, y: 0, width: 0, height: 0 };
			const tone = shape(sheetRect(sheet)).data;
			for (let tile = 0; tile < tiles.cols * tiles.rows; tile++) {
				const rect = meet(tileRect(tiles, tile), sheetRect(sheet));
				if (cut(tone, sheetRect(sheet), rect).some((v) => v >= 128)) box = around(box, rect);
			}
			return isEmptyRect(box) ? [] : stitchThreads(finish, cut(tone, sheetRect(sheet), box), box);
		}
		if ('lines' in along) {
			const path = along.lines.map((line) => Float64Array.from(line));
			const box = meet(pathRect(path), sheetRect(sheet));
			return isEmptyRect(box) ? [] : stitchThreads(finish, pathCoverage(path, box), box);
		}
		const scene = sceneOfSheet(means.scenes, sheet.id);
		if (!scene) return [];
		const chosen = new Set(along);
		return along.flatMap((island) => {
			if (!chosen.delete(island)) return [];
			const box = islandRect(scene, sheet, island);
			const faces = modelGround(scene, sheet).facesIn(box, 1);
			const inside = scene.mapOf(sheet).faceOfTexel;
			const tone = Uint8Array.from(faces, (face, i) => {
				const texel = (box.y + Math.floor(i / box.width)) * sheet.width + box.x + (i % box.width);
				return face >= 0 && inside[texel] && scene.topology.islandOfFace[face] === island ? 255 : 0;
			});
			return stitchThreads(finish, tone, box);
		});
	};
	return {
		...plain,
		key,
		inputs: finish.along === 'shape' ? imageInputs(own) : [],
		reach: Infinity,
		reset() {
			threads = null;
		},
		make(rect) {
			threads ??= follow();
			return stitchBlock(finish, threads, rect);
		},
	};
}

/** The texels around an island on its sheet, without its bleed. */
export function islandRect(scene: Scene, sheet: Sheet, island: number): Rect {
	const { mesh, topology } = scene;
	let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
	topology.islandOfFace.forEach((each, face) => {
		if (each !== island) return;
		for (let k = 0; k < 3; k++) {
			const v = mesh.indices[face * 3 + k] as number;
			const [x, y] = [(mesh.uvs[v * 2] as number) * sheet.width, (mesh.uvs[v * 2 + 1] as number) * sheet.height];
			[x0, y0, x1, y1] = [Math.min(x0, x), Math.min(y0, y), Math.max(x1, x), Math.max(y1, y)];
		}
	});
	const [x, y] = [Math.floor(x0), Math.floor(y0)];
	return meet({ x, y, width: Math.ceil(x1) - x, height: Math.ceil(y1) - y }, sheetRect(sheet));
}

/** All computed surfaces of a sheet, each after those that it reads. */
export function derivedOf(means: Means, sheet: Sheet): Derived[] {
	const made = new Map<SurfaceId, Derived | null>();
	const add = (node: Derived | null, first: () => void): void => {
		if (!node || made.has(node.id)) return;
		made.set(node.id, null);
		first();
		made.delete(node.id);
		made.set(node.id, node);
	};
	const mask = (layer: Layer): void => {
		if (!layer.mask?.recipe?.length) return;
		const node = maskNode(means, sheet, layer);
		add(node, () => {
			for (const tap of tapsOf(layer.mask?.recipe ?? [])) {
				const other = layerOf(sheet, tap.layer);
				if (other) (tap.of === 'mask' ? mask : image)(other);
			}
		});
	};
	const image = (layer: Layer): void => {
		mask(layer);
		if (layer.kind === 'group') for (const inner of layer.layers) image(inner);
		if (isComputed(layer))
			add(contentNode(means, sheet, layer), () => {
				if (layer.kind === 'adjust') for (const lower of belowOf(sheet, layer.id)) image(lower);
			});
		for (const finish of layer.finishes ?? [])
			if (finish.on) add(finishNode(means, sheet, layer, finish), () => undefined);
	};
	for (const layer of sheet.layers) image(layer);
	return [...made.values()].filter((node): node is Derived => node !== null);
}
