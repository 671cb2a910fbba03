import type { Kernels } from '@eppu/kernels';
import type { Project } from '../document/index.ts';
import { withPlanes } from '../recipe/index.ts';
import { hasTexels, type Kind, type Surface, type SurfaceId, tileBytes } from '../surface/index.ts';
import { derivedOf } from './derived.ts';
import { madeWith } from './gen/version.js';
import type { Means } from './means.ts';

/** The kernel takes so many bytes at a time. */
const STRIPE = 32;

/** A name for bytes by what they are: 32 hex digits. */
function named(kernels: Kernels, bytes: Uint8Array): string {
	return withPlanes(kernels, (planes) => {
		const size = Math.ceil((bytes.length + 4) / STRIPE) * STRIPE;
		const at = planes.take(size / 4);
		planes.bytes(at, size).fill(0).set(bytes);
		planes.ints(at, size / 4)[size / 4 - 1] = bytes.length;
		const out = planes.take(4);
		planes.run.hashBytes(at, size, 0, out);
		planes.run.hashBytes(at, size, 1, out + 8);
		return Array.from(planes.bytes(out, 16), (byte) => byte.toString(16).padStart(2, '0')).join('');
	});
}

const namedText = (kernels: Kernels, text: string): string => named(kernels, new TextEncoder().encode(text));

/** A name for a surface by its texels. */
function nameOfSurface(kernels: Kernels, { format, width, height, kinds, data }: Surface): string {
	return withPlanes(kernels, (planes) => {
		const [words, out] = [new Uint32Array(kinds.length * 3), planes.take(2)];
		for (let i = 0; i < kinds.length; i++) {
			const [kind, at] = [kinds[i] as Kind, data[i] as number];
			if (!hasTexels(kind)) {
				words.set([kind, at], i * 3);
				continue;
			}
			planes.run.hashBytes(at, tileBytes(format), 0, out);
			const [low, high] = planes.ints(out, 2) as unknown as [number, number];
			words.set([0xff, low, high], i * 3);
		}
		return namedText(kernels, `${format} ${width} ${height} ${named(kernels, new Uint8Array(words.buffer))}`);
	});
}

/**
 * Names for what is computed of a project, by all that it depends on and the code that makes it: alike in every host.
 * Pauses after each picture that is looked at; what changes meanwhile makes the names worthless.
 */
export function* nameDerived(means: Means, project: Project): Generator<void, Map<SurfaceId, string>> {
	const { kernels, surfaces, pictures } = means;
	const names = new Map<SurfaceId, string>();
	const looked = new Map<SurfaceId, string>();
	for (const sheet of project.sheets)
		for (const { id, key, format, inputs } of derivedOf(means, project, sheet)) {
			const reads: string[] = [];
			for (const input of inputs) {
				let name = names.get(input) ?? looked.get(input);
				const surface = name === undefined ? surfaces.get(input) : undefined;
				if (surface) {
					looked.set(input, (name = nameOfSurface(kernels, surface)));
					yield;
				}
				reads.push(name ?? '');
			}
			// A picture may be put in another's place.
			for (const [own, picture] of pictures.own)
				if (key.includes(JSON.stringify(own))) reads.push(named(kernels, picture.data));
			const says = [madeWith, key, format, sheet.width, sheet.height, reads];
			names.set(id, namedText(kernels, JSON.stringify(says)));
		}
	return names;
}
