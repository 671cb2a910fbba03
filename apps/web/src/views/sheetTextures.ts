import { TILE } from '@eppu/core/surface';
import { ExternalTexture, type Texture, type WebGLRenderer } from 'three';
import { beforeOf } from '../studio/before.ts';
import type { Patch, SheetPicture } from '../studio/pictures.ts';

/** How long paint must rest, on all sheets, before the sheets' smaller versions are made anew, and how long between two. */
const [SETTLE_MS, NEXT_MS] = [220, 60];

/** The sheets' pictures as textures, by sheet, kept in step with what is painted. */
export interface SheetTextures {
	readonly textures: ReadonlyMap<string, Texture>;
	/** A pixel sheet's picture as it was when this visit began; null where that is not remembered. */
	before(sheet: string): Texture | null;
	/** Sends all of them again, to a context that has none. */
	again(): void;
	drop(): void;
}

/**
 * Does something with each of what was touched, one after the other, once nothing at all was touched for a while: a large
 * sheet stops the view for a moment, and so waits for the hand on any of them.
 */
export function afterRest<T>(settle: (each: T) => void): { touched(each: T | null): void; stop(): void } {
	const due = new Set<T>();
	let timer: ReturnType<typeof setTimeout> | undefined;
	const settleIn = (ms: number): void => {
		clearTimeout(timer);
		timer = setTimeout(() => {
			const next = due.values().next();
			if (next.done) return;
			due.delete(next.value);
			settle(next.value);
			if (due.size) settleIn(NEXT_MS);
		}, ms);
	};
	return {
		touched(each) {
			if (each !== null) due.add(each);
			settleIn(SETTLE_MS);
		},
		stop: () => clearTimeout(timer),
	};
}

/** A picture in the memory of what draws: three would send all of it, and make its smaller versions, also while it is empty. */
interface HeldTexture {
	readonly texture: ExternalTexture;
	/** Sends a patch's tiles. Its smaller versions are out of date from then on, and not drawn from. */
	upload(patch: Patch): void;
	/** Makes the smaller versions anew. */
	settle(): void;
	/** Takes up room, and sends all of the picture. */
	again(): void;
	drop(): void;
}

/** `smooth` where texels are mixed as they are drawn. */
function heldTexture(renderer: WebGLRenderer, picture: SheetPicture, smooth: boolean): HeldTexture {
	const gl = renderer.getContext() as WebGL2RenderingContext;
	const { width, height } = picture;
	const texture = new ExternalTexture();
	const bind = (): void => renderer.state.bindTexture(gl.TEXTURE_2D, texture.sourceTexture as WebGLTexture);
	const send = (x: number, y: number, across: number, down: number, row: number, texels: Uint8Array): void => {
		gl.pixelStorei(gl.UNPACK_FLIP_Y_WEBGL, false);
		gl.pixelStorei(gl.UNPACK_PREMULTIPLY_ALPHA_WEBGL, false);
		gl.pixelStorei(gl.UNPACK_ALIGNMENT, 4);
		gl.pixelStorei(gl.UNPACK_ROW_LENGTH, row);
		gl.texSubImage2D(gl.TEXTURE_2D, 0, x, y, across, down, gl.RGBA, gl.UNSIGNED_BYTE, texels);
		gl.pixelStorei(gl.UNPACK_ROW_LENGTH, 0);
	};
	const mixing = (how: number): void => gl.texParameteri(gl.TEXTURE_2D, gl.TEXTURE_MIN_FILTER, how);
	const settle = (): void => {
		if (!smooth) return;
		bind();
		gl.generateMipmap(gl.TEXTURE_2D);
		mixing(gl.LINEAR_MIPMAP_LINEAR);
	};
	const again = (): void => {
		texture.sourceTexture = gl.createTexture();
		bind();
		const levels = smooth ? Math.floor(Math.log2(Math.max(width, height))) + 1 : 1;
		gl.texStorage2D(gl.TEXTURE_2D, levels, gl.RGBA8, width, height);
		gl.texParameteri(gl.TEXTURE_2D, gl.TEXTURE_WRAP_S, gl.CLAMP_TO_EDGE);
		gl.texParameteri(gl.TEXTURE_2D, gl.TEXTURE_WRAP_T, gl.CLAMP_TO_EDGE);
		gl.texParameteri(gl.TEXTURE_2D, gl.TEXTURE_MAG_FILTER, smooth ? gl.LINEAR : gl.NEAREST);
		mixing(smooth ? gl.LINEAR : gl.NEAREST);
		if (picture.empty) return;
		send(0, 0, width, height, 0, picture.data);
		settle();
	};
	again();
	return {
		texture,
		upload(patch) {
			bind();
			const cols = Math.ceil(width / TILE);
			patch.tiles.forEach((tile, i) => {
				const x = (tile % cols) * TILE;
				const y = Math.floor(tile / cols) * TILE;
				const texels = patch.data.subarray(i * TILE * TILE * 4, (i + 1) * TILE * TILE * 4);
				send(x, y, Math.min(TILE, width - x), Math.min(TILE, height - y), TILE, texels);
			});
			if (smooth) mixing(gl.LINEAR);
		},
		settle,
		again,
		drop() {
			gl.deleteTexture(texture.sourceTexture as WebGLTexture);
			texture.dispose();
		},
	};
}

/** `later` has the scene drawn. */
export function createSheetTextures(
	renderer: WebGLRenderer,
	pictures: ReadonlyMap<string, SheetPicture>,
	/** Whether each texel of a sheet is shown as a square. */
	whole: (sheet: string) => boolean,
	later: () => void,
): SheetTextures {
	const held = new Map<string, HeldTexture>();
	const earlier = new Map<string, HeldTexture>();
	const stops: (() => void)[] = [];
	let disposed = false;
	const settling = afterRest((each: HeldTexture) => {
		if (disposed) return;
		each.settle();
		later();
	});
	for (const picture of pictures.values()) {
		const smooth = !whole(picture.id);
		const own = heldTexture(renderer, picture, smooth);
		held.set(picture.id, own);
		stops.push(
			picture.watch((patch) => {
				own.upload(patch);
				later();
				settling.touched(smooth ? own : null);
			}),
		);
	}
	return {
		textures: new Map([...held].map(([id, { texture }]) => [id, texture])),
		before(sheet) {
			const picture = beforeOf(sheet);
			if (picture && !earlier.has(sheet)) earlier.set(sheet, heldTexture(renderer, picture, !whole(sheet)));
			return earlier.get(sheet)?.texture ?? null;
		},
		again() {
			for (const each of [...held.values(), ...earlier.values()]) each.again();
		},
		drop() {
			disposed = true;
			settling.stop();
			for (const stop of stops) stop();
			for (const each of [...held.values(), ...earlier.values()]) each.drop();
		},
	};
}
