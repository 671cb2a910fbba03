import { createCompositor, pictureOfStack, type StackLayer } from '../composite/index.ts';
import type { Id } from '../document/index.ts';
import type { Engine } from '../engine/index.ts';
import type { JobKind, Work } from '../jobs/index.ts';
import { type LaidMesh, meshBounds } from '../mesh/index.ts';
import { type Camera, framing, renderModel } from '../projection/index.ts';
import type { Picture } from '../surface/index.ts';
import { encodePng } from './png.ts';
import { shrink } from './resize.ts';

interface CoverSheet {
	readonly id: Id;
	readonly width: number;
	readonly height: number;
	readonly pixel: boolean;
}

/** What a cover shows: a project's first model with its sheets on it, or else its first sheets. */
export interface CoverOf {
	readonly sheets: readonly CoverSheet[];
	readonly model: { readonly mesh: LaidMesh; readonly partSheets: readonly Id[] } | null;
	composite(sheet: Id): Picture;
}

/** Pixel sheets in a cover at the most. */
const MOST_ITEMS = 6;

/** The first pixel sheets side by side, each texel a square of whole px. */
function itemsPicture({ sheets, composite }: CoverOf, width: number, height: number): Picture {
	const shown = sheets.filter(({ pixel }) => pixel).slice(0, MOST_ITEMS);
	const cols = Math.ceil(Math.sqrt((shown.length * width) / height));
	const rows = Math.ceil(shown.length / cols);
	const [w, h] = [Math.floor(width / cols), Math.floor(height / rows)];
	const out = { width, height, data: new Uint8Array(width * height * 4) };
	const words = new Uint32Array(out.data.buffer);
	shown.forEach((sheet, n) => {
		const whole = composite(sheet.id);
		const times = Math.max(1, Math.floor(Math.min((w * 0.9) / sheet.width, (h * 0.9) / sheet.height)));
		const texels = new Uint32Array(whole.data.buffer, whole.data.byteOffset);
		const left = (n % cols) * w + Math.floor((w - sheet.width * times) / 2);
		const top = Math.floor(n / cols) * h + Math.floor((h - sheet.height * times) / 2);
		for (let y = 0; y < sheet.height * times; y++)
			for (let x = 0; x < sheet.width * times; x++) {
				const [u, v] = [left + x, top + y];
				if (u < 0 || v < 0 || u >= width || v >= height) continue;
				words[v * width + u] = texels[Math.floor(y / times) * sheet.width + Math.floor(x / times)] as number;
			}
	});
	return out;
}

/** A small picture of a project: its model from a camera's side, whole in view, or its first sheets. */
export function coverPicture(of: CoverOf, from: Camera, width: number, height: number): Picture {
	const { sheets, model, composite } = of;
	if (model) {
		const made = new Map<Id, Picture>();
		const small = (id: Id): Picture | null => {
			const sheet = sheets.find((each) => each.id === id);
			if (!sheet) return null;
			let picture = made.get(id);
			if (!picture) {
				const by = Math.max(1, Math.ceil(Math.max(sheet.width, sheet.height) / 1024));
				const whole = composite(id);
				made.set(
					id,
					(picture = by === 1 ? whole : shrink(whole, Math.ceil(sheet.width / by), Math.ceil(sheet.height / by))),
				);
			}
			return picture;
		};
		const { center, radius } = meshBounds(model.mesh);
		return renderModel(
			model.mesh,
			model.partSheets.map(small),
			framing(from, center, radius, width, height),
			width,
			height,
		);
	}
	const sheet = sheets[0] as CoverSheet;
	if (sheet.pixel) return itemsPicture(of, width, height);
	const scale = Math.min(width / sheet.width, height / sheet.height, 1);
	return shrink(
		composite(sheet.id),
		Math.max(1, Math.round(sheet.width * scale)),
		Math.max(1, Math.round(sheet.height * scale)),
	);
}

/** The cover of what an engine has open. */
export const coverOf = (engine: Engine, from: Camera, width: number, height: number): Picture =>
	coverPicture({ ...seenOf(engine), composite: engine.composite }, from, width, height);

function seenOf({ project, scene }: Engine): Omit<CoverOf, 'composite'> {
	const [model] = project.models;
	const mesh = model && scene(model.id)?.mesh;
	return {
		sheets: project.sheets.map(({ id, width, height, pixel }) => ({ id, width, height, pixel: Boolean(pixel) })),
		model: model && mesh ? { mesh, partSheets: model.parts.map(({ sheet }) => sheet) } : null,
	};
}

/** Makes a cover as PNG. */
export interface CoverWork extends Work<Uint8Array<ArrayBuffer>> {
	readonly job: 'cover';
	readonly of: Omit<CoverOf, 'composite'>;
	/** What is laid on each sheet that it shows; its surfaces say where their tiles lie in the memory. */
	readonly layers: ReadonlyMap<Id, readonly StackLayer[]>;
	readonly from: Camera;
	readonly width: number;
	readonly height: number;
}

/** What a cover is made from, for a pool; null where the engine has something to compute yet. */
export function coverWork(engine: Engine, from: Camera, width: number, height: number): CoverWork | null {
	const of = seenOf(engine);
	const shown = of.model ? new Set(of.model.partSheets) : new Set(of.sheets.slice(0, MOST_ITEMS).map(({ id }) => id));
	const layers = new Map<Id, readonly StackLayer[]>();
	for (const id of shown) {
		const work = engine.compositeWork(id, []);
		if (!work) return null;
		layers.set(id, work.layers);
	}
	return { job: 'cover', of, layers, from, width, height };
}

export const coverJob: JobKind<CoverWork, Uint8Array<ArrayBuffer>> = {
	job: 'cover',
	begin({ kernels, codecs }) {
		const compositor = createCompositor(kernels);
		return async ({ of, layers, from, width, height }) => {
			const write = await codecs.png();
			const composite = (id: Id): Picture => {
				const sheet = of.sheets.find((each) => each.id === id) as CoverSheet;
				return pictureOfStack(kernels, compositor, layers.get(id) ?? [], sheet.width, sheet.height);
			};
			return encodePng(write, coverPicture({ ...of, composite }, from, width, height));
		};
	},
	handsOver: ({ buffer }) => [buffer],
};
