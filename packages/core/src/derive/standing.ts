import type { Content, Sheet } from '../document/index.ts';
import { grownRect, isEmptyRect, meet, type Rect } from '../raster/index.ts';
import { modelGround, type Scene } from '../scene/index.ts';

/** Texels of the largest thing that is carried over seams. */
const MOST_TEXELS = 1 << 24;

/** Texels along a part that is looked at closer. */
const BLOCK = 8;

/** Calls with each texel of a part: its number in the whole, and its place. */
function eachTexel(part: Rect, whole: Rect, visit: (i: number, x: number, y: number) => void): void {
	for (let y = part.y; y < part.y + part.height; y++)
		for (let x = part.x; x < part.x + part.width; x++) visit((y - whole.y) * whole.width + x - whole.x, x, y);
}

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
 * What stands on an island, in a rectangle of its sheet: on the island itself as it is made, and on those around it
 * as it is seen from there, unfolded over the seams between. Beside the model it is as it is made.
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
	/** Places beside a texel that count for what lies between texels. */
	const reached = grownRect(stands.bounds(), 1);
	return (rect) => {
		const faces = modelGround(scene, sheet).facesIn(rect, 1);
		const seams = scene.seamsOf(sheet);
		const { islandOfFace } = scene.topology;
		const islandAt = (i: number): number =>
			(faces[i] as number) < 0 ? -1 : (islandOfFace[faces[i] as number] as number);
		const own = make(rect);
		const out = new Uint32Array(rect.width * rect.height);
		const texels = own && new Uint32Array(own.buffer, own.byteOffset, out.length);
		if (texels)
			for (let i = 0; i < out.length; i++) {
				const here = islandAt(i);
				if (here < 0 || here === island) out[i] = texels[i] as number;
			}
		/** What the texels of a part show of it over seams; parts that can show nothing of it are not looked at closer. */
		const carry = (part: Rect): void => {
			const here = new Set<number>();
			eachTexel(part, rect, (i) => here.add(islandAt(i)));
			here.delete(-1);
			if (![...here].some((each) => seams.maySee(island, each, part, reached))) return;
			if (part.width > BLOCK || part.height > BLOCK) {
				for (let y = part.y; y < part.y + part.height; y += BLOCK)
					for (let x = part.x; x < part.x + part.width; x += BLOCK)
						carry(meet(part, { x, y, width: BLOCK, height: BLOCK }));
				return;
			}
			const { rect: box, data } = allOfIt();
			if (!data) return;
			eachTexel(part, rect, (i, x, y) => {
				const from = islandAt(i);
				if (from < 0) return;
				for (const place of seams.seenFrom(island, from, x + 0.5, y + 0.5)) {
					const carried = between(data, box, place[0], place[1]);
					if (carried >>> 24 > (out[i] as number) >>> 24) out[i] = carried;
				}
			});
		};
		carry(rect);
		return out.some((texel) => texel >>> 24) ? new Uint8Array(out.buffer) : null;
	};
}
