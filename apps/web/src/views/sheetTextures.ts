import { TILE } from '@eppu/core/surface';
import {
	DataTexture,
	LinearFilter,
	LinearMipmapLinearFilter,
	NearestFilter,
	NoColorSpace,
	UnsignedByteType,
	type WebGLRenderer,
} from 'three';
import { beforeOf } from '../studio/before.ts';
import type { Patch, SheetPicture } from '../studio/pictures.ts';

/** How long paint must rest, on all sheets, before the sheets' smaller versions are made anew, and how long between two. */
const [SETTLE_MS, NEXT_MS] = [220, 60];

/** The sheets' pictures as textures, by sheet, kept in step with what is painted. */
export interface SheetTextures {
	readonly textures: ReadonlyMap<string, DataTexture>;
	/** A pixel sheet's picture as it was when this visit began; null where that is not remembered. */
	before(sheet: string): DataTexture | null;
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

/** `later` has the scene drawn. */
export function createSheetTextures(
	renderer: WebGLRenderer,
	pictures: ReadonlyMap<string, SheetPicture>,
	/** Whether each texel of a sheet is shown as a square. */
	whole: (sheet: string) => boolean,
	later: () => void,
): SheetTextures {
	const gl = renderer.getContext() as WebGL2RenderingContext;
	const textures = new Map<string, DataTexture>();
	const stops: (() => void)[] = [];
	let disposed = false;
	/** Puts a patch's tiles into the texture directly: three would send the whole sheet. */
	const smooth = (texture: DataTexture): boolean => texture.magFilter === LinearFilter;
	const upload = (texture: DataTexture, picture: SheetPicture, patch: Patch): void => {
		renderer.initTexture(texture);
		const handle = (renderer.properties.get(texture) as { __webglTexture?: WebGLTexture }).__webglTexture;
		if (!handle) return;
		renderer.state.bindTexture(gl.TEXTURE_2D, handle);
		gl.pixelStorei(gl.UNPACK_FLIP_Y_WEBGL, false);
		gl.pixelStorei(gl.UNPACK_PREMULTIPLY_ALPHA_WEBGL, false);
		gl.pixelStorei(gl.UNPACK_ALIGNMENT, 4);
		gl.pixelStorei(gl.UNPACK_ROW_LENGTH, TILE);
		const cols = Math.ceil(picture.width / TILE);
		patch.tiles.forEach((tile, i) => {
			const x = (tile % cols) * TILE;
			const y = Math.floor(tile / cols) * TILE;
			const texels = patch.data.subarray(i * TILE * TILE * 4, (i + 1) * TILE * TILE * 4);
			gl.texSubImage2D(
				gl.TEXTURE_2D,
				0,
				x,
				y,
				Math.min(TILE, picture.width - x),
				Math.min(TILE, picture.height - y),
				gl.RGBA,
				gl.UNSIGNED_BYTE,
				texels,
			);
		});
		gl.pixelStorei(gl.UNPACK_ROW_LENGTH, 0);
		if (smooth(texture)) gl.texParameteri(gl.TEXTURE_2D, gl.TEXTURE_MIN_FILTER, gl.LINEAR);
	};
	const settle = (texture: DataTexture): void => {
		const handle = (renderer.properties.get(texture) as { __webglTexture?: WebGLTexture }).__webglTexture;
		if (!handle || disposed) return;
		renderer.state.bindTexture(gl.TEXTURE_2D, handle);
		gl.generateMipmap(gl.TEXTURE_2D);
		gl.texParameteri(gl.TEXTURE_2D, gl.TEXTURE_MIN_FILTER, gl.LINEAR_MIPMAP_LINEAR);
		later();
	};

	const settling = afterRest(settle);
	const textureOf = (picture: SheetPicture): DataTexture => {
		const texture = new DataTexture(picture.data, picture.width, picture.height);
		texture.type = UnsignedByteType;
		texture.colorSpace = NoColorSpace;
		texture.magFilter = whole(picture.id) ? NearestFilter : LinearFilter;
		texture.minFilter = whole(picture.id) ? NearestFilter : LinearMipmapLinearFilter;
		texture.generateMipmaps = smooth(texture);
		texture.needsUpdate = true;
		return texture;
	};
	const earlier = new Map<string, DataTexture>();
	for (const picture of pictures.values()) {
		const texture = textureOf(picture);
		textures.set(picture.id, texture);
		stops.push(
			picture.watch((patch) => {
				upload(texture, picture, patch);
				later();
				settling.touched(smooth(texture) ? texture : null);
			}),
		);
	}
	return {
		textures,
		before(sheet) {
			const picture = beforeOf(sheet);
			let texture = earlier.get(sheet);
			if (picture && !texture) earlier.set(sheet, (texture = textureOf(picture)));
			return texture ?? null;
		},
		drop() {
			disposed = true;
			settling.stop();
			for (const stop of stops) stop();
			for (const texture of [...textures.values(), ...earlier.values()]) texture.dispose();
		},
	};
}
