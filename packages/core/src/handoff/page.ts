import { type Id, type Model, type Project, sheetOf } from '../document/index.ts';
import type { Engine } from '../engine/index.ts';
import {
	type PictureWork,
	type PictureWriter,
	shrink,
	templateOf,
	templatePicture,
	usualTemplate,
} from '../format/index.ts';
import { meshBounds } from '../mesh/index.ts';
import { type Camera, framing, homeCamera, renderModel } from '../projection/index.ts';
import type { Picture } from '../surface/index.ts';
import { OrderError } from './file/index.ts';
import { type PageParts, type PageSheet, pageText } from './pageText.ts';
import { sizeBy } from './ready.ts';

/** What a page shows beside what it always does. */
export interface PageOrder {
	/** Pictures of one turn of each model. */
	readonly turns: number;
	/** From where models are seen first; null as they are first seen in Eppu. */
	readonly camera: Camera | null;
	readonly title: string;
	/** A line under the title. */
	readonly words: string;
}

export const usualPage: PageOrder = { turns: 24, camera: null, title: '', words: '' };

const FRAME = { width: 560, height: 460 } as const;
/** Sheets are shown at this many px a side at the most. */
const SHOWN = 1024;
const STEP = 384;
/** Sizes that are shown for comparison, px. */
const SMALL = [256, 128, 64, 32] as const;
const QUALITY = 86;
/** So many pictures may wait to be written. */
const MOST_OUT = 12;

const base64 = (bytes: Uint8Array): string => {
	let text = '';
	for (let at = 0; at < bytes.length; at += 0x8000) text += String.fromCharCode(...bytes.subarray(at, at + 0x8000));
	return btoa(text);
};

/** What is wrong with a page that is asked for, or null. */
export const pageProblem = ({ turns }: PageOrder): string | null =>
	Number.isInteger(turns) && turns >= 4 && turns <= 72 ? null : `A turn is 4 to 72 pictures; not ${turns}.`;

/**
 * One HTML file that shows the work: turntables that are dragged round, sheets with their templates, palette, build-up,
 * before and after, sizes. Nothing in it comes from elsewhere. `step` is told how much is done, 0..1, and may stop it by
 * returning false: then null is returned.
 */
export async function writePage(
	engine: Engine,
	order: PageOrder,
	write: PictureWriter,
	step: (done: number) => boolean | Promise<boolean> = () => true,
): Promise<Uint8Array<ArrayBuffer> | null> {
	const problem = pageProblem(order);
	if (problem) throw new OrderError(problem);
	const { project } = engine;
	const models = project.models.filter(({ id }) => engine.scene(id));
	const all = models.length * order.turns + project.sheets.length * 3;
	let done = 0;
	/** Pictures that are being written. */
	const out: Promise<string>[] = [];
	const said = (work: PictureWork): Promise<string> => {
		const kind = work.webp === undefined ? 'png' : 'webp';
		const text = write(work).then((bytes) => `data:image/${kind};base64,${base64(bytes)}`);
		out.push(text);
		return text;
	};
	const next = async (): Promise<boolean> => {
		await out[out.length - MOST_OUT];
		return step(++done / all);
	};
	const webp = (picture: Picture): Promise<string> => said({ job: 'picture', picture, webp: QUALITY });
	const png = (picture: Picture): Promise<string> => said({ job: 'picture', picture });
	const fitting = (picture: Picture, most: number): Picture => {
		if (Math.max(picture.width, picture.height) <= most) return picture;
		const { width, height } = sizeBy(picture, most);
		return shrink(picture, width, height);
	};
	const composites = new Map<Id, Picture>();
	const sheets: Promise<PageSheet>[] = [];
	for (const sheet of project.sheets) {
		const whole = engine.composite(sheet.id);
		composites.set(sheet.id, whole);
		if (!(await next())) return null;
		const steps: Promise<PageSheet['steps'][number]>[] = [];
		engine.buildUp(sheet.id, (picture, name) =>
			steps.push(webp(fitting(picture, STEP)).then((text) => ({ name, picture: text }))),
		);
		if (!(await next())) return null;
		const scenes = project.models.flatMap((model) => engine.scene(model.id) ?? []);
		const shown = fitting(whole, SHOWN);
		const laid = scenes.some(({ model }) => model.parts.some((part) => part.sheet === sheet.id));
		const template = laid
			? png(templatePicture(templateOf(scenes, sheet, shown.width), { ...usualTemplate, fill: 'none', inner: false }))
			: null;
		const picture = sheet.pixel ? png(shown) : webp(shown);
		const small = SMALL.filter((side) => side < Math.max(sheet.width, sheet.height)).map((side) =>
			png(fitting(whole, side)).then((text) => ({ side, picture: text })),
		);
		const { name, width, height } = sheet;
		sheets.push(
			(async () => ({
				name,
				width,
				height,
				pixel: Boolean(sheet.pixel),
				picture: await picture,
				template: await template,
				steps: await Promise.all(steps),
				small: await Promise.all(small),
			}))(),
		);
		if (!(await next())) return null;
	}
	const turntables: { name: string; frames: Promise<string>[] }[] = [];
	for (const model of models) {
		const frames: Promise<string>[] = [];
		for (let i = 0; i < order.turns; i++) {
			frames.push(webp(frameOf(engine, model, composites, order.camera ?? homeCamera, (i * 360) / order.turns)));
			if (!(await next())) return null;
		}
		turntables.push({ name: model.name, frames });
	}
	const shown = turntables.map(async ({ name, frames }) => ({ name, frames: await Promise.all(frames), ...FRAME }));
	const parts = partsOf(project, order, await Promise.all(shown), await Promise.all(sheets));
	return new TextEncoder().encode(pageText(parts));
}

const partsOf = (
	project: Project,
	order: PageOrder,
	models: PageParts['models'],
	sheets: readonly PageSheet[],
): PageParts => ({
	title: order.title.trim() || project.name,
	words: order.words.trim(),
	models,
	sheets,
	palette: project.palette.ramps?.length
		? project.palette.ramps.map(({ name, colors }) => ({ name, colors }))
		: [{ name: project.palette.name, colors: project.palette.colors }],
});

/** One picture of a turn: the whole model, unlit, from `degrees` further round. */
function frameOf(
	engine: Engine,
	model: Model,
	composites: ReadonlyMap<Id, Picture>,
	from: Camera,
	degrees: number,
): Picture {
	const scene = engine.scene(model.id);
	if (!scene) throw new OrderError(`"${model.name}" is not in this project any more.`);
	const { center, radius } = meshBounds(scene.mesh);
	const { width, height } = FRAME;
	const pictures = model.parts.map(({ sheet }) => {
		const picture = sheetOf(engine.project, sheet) && composites.get(sheet);
		return picture ?? null;
	});
	return renderModel(
		scene.mesh,
		pictures,
		framing({ ...from, yaw: from.yaw + degrees }, center, radius, width, height),
		width,
		height,
	);
}
