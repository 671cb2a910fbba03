import type { Content, Sheet } from '../document/index.ts';
import { isEmptyRect, type Rect } from '../raster/index.ts';
import { modelGround, type Scene } from '../scene/index.ts';

/** Texels of the largest thing that is carried over seams. */
const MOST_TEXELS = 1 << 24;

/** What lies between four texels of RGBA8, by alpha; the colour is that of the nearest that has any. */
function between(data: Uint8Array, { x: rx, y: ry, width, height }: Rect, x: number, y: number): number {
	const [u, v] = [x - rx - 0.5, y - ry - 0.5];
	const [x0, y0] = [Math.floor(u), Math.floor(v)];
	let [alpha, most, color] = [0, 0, 0];
	for (let k = 0; k < 4; k++) {
		const [cx, cy] = [x0 + (k & 1), y0 + (k >> 1)];
		if (cx < 0 || cy < 0 || cx >= width || cy >= height) continue;
		const share = (k & 1 ? u - x0 : 1 - u + x0) * (k >> 1 ? v - y0 : 1 - v + y0);
		const at = (cy * width + cx) * 4;
		const weight = share * (data[at + 3] as number);
		alpha += weight;
		if (weight > most) {
			most = weight;
			color = (data[at] as number) | ((data[at + 1] as number) << 8) | ((data[at + 2] as number) << 16);
		}
	}
	return (color | (Math.round(alpha) << 24)) >>> 0;
}

/**
 * What stands on an island, in a rectangle of its sheet: on the island itself as it is made, and on those that meet it
 * where they see it unfolded over the seam. Beside the model it is as it is made.
 */
export function standing(
	scene: Scene,
	sheet: Sheet,
	island: number,
	stands: NonNullable<Content['stands']>,
	make: (rect: Rect) => Uint8Array | null,
): (rect: Rect) => Uint8Array | null {
	let whole: { readonly rect: Rect; readonly data: Uint8Array | null } | null = null;
	const allOfIt = () => {
		const rect = stands.bounds();
		const fits = !isEmptyRect(rect) && rect.width * rect.height <= MOST_TEXELS;
		whole ??= { rect, data: fits ? make(rect) : null };
		return whole;
	};
	return (rect) => {
		const faces = modelGround(scene, sheet).facesIn(rect, 1);
		const seams = scene.seamsOf(sheet);
		const { islandOfFace } = scene.topology;
		const own = make(rect);
		const out = new Uint32Array(rect.width * rect.height);
		const texels = own && new Uint32Array(own.buffer, own.byteOffset, out.length);
		let any = false;
		for (let i = 0; i < out.length; i++) {
			const face = faces[i] as number;
			const here = face < 0 ? island : (islandOfFace[face] as number);
			let texel = here === island && texels ? (texels[i] as number) : 0;
			if (face >= 0) {
				const x = rect.x + (i % rect.width) + 0.5;
				const y = rect.y + Math.floor(i / rect.width) + 0.5;
				const place = seams.seenFrom(island, here, x, y);
				const { rect: box, data } = place ? allOfIt() : { rect, data: null };
				if (place && data) {
					const carried = between(data, box, place[0], place[1]);
					if (carried >>> 24 > texel >>> 24) texel = carried;
				}
			}
			out[i] = texel;
			if (texel >>> 24) any = true;
		}
		return any ? new Uint8Array(out.buffer) : null;
	};
}
