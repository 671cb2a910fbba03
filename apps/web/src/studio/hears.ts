import { type Desk, eachLayer, emptyDesk, type Id } from '@eppu/core/document';
import type { BakeState, CarriedSheet, Refusal } from '@eppu/core/engine';
import { framing, homeCamera } from '@eppu/core/projection';
import { toast } from 'sonner';
import { type Head, headAsked } from './ahead.ts';
import { forgetBefore, keepBefore } from './before.ts';
import { carriedWords } from './carried.ts';
import { setDesk, setFront, toggleGuard } from './desk.ts';
import { addressed, answered, wrote } from './line.ts';
import { createSheetPicture, type SheetPicture } from './pictures.ts';
import type { FromStudio } from './protocol.ts';
import { paintsMask, useStudio } from './store.ts';
import type { Outline, ShownModel } from './told.ts';

const set = useStudio.setState;
const get = useStudio.getState;

/** Pictures of the open project's sheets. */
export const pictures = new Map<Id, SheetPicture>();

/** Where the last press landed on the screen, so that a refusal is said there. */
let pressedAt = { x: 0, y: 0 };
export const rememberPress = (x: number, y: number): void => {
	pressedAt = { x, y };
};

/** Says at the place of the last press why something is not done. */
export const refused = (refusal: Refusal): void => set({ refusal: { refusal, ...pressedAt } });

/** What was asked for and is there now is not waited for any more; nor is what was refused. */
function arrived({ project }: Outline): { coming: ReadonlySet<Id> } | Record<string, never> {
	const { coming } = get();
	if (coming.size === 0) return {};
	const here = new Set(project.sheets.flatMap((sheet) => [...eachLayer(sheet.layers)].map((layer) => layer.id)));
	return { coming: new Set([...coming].filter((id) => !here.has(id))) };
}

/** The desk of a project that is opened for the first time: its model fills the view. */
function deskOf([model]: readonly ShownModel[]): Desk {
	if (!model) return emptyDesk;
	return { ...emptyDesk, camera: framing(homeCamera, model.center, model.radius, 1, 1) };
}

/** When each bake became ready: those that were due before and are not any more are as of now. */
function bakedNow(bakes: readonly BakeState[]): ReadonlyMap<string, number> {
	const { bakedAt, computing } = get();
	const due = (list: readonly BakeState[], bake: string): boolean =>
		list.some((each) => each.bake === bake && each.left > 0);
	const ready = [...new Set(bakes.map(({ bake }) => bake))].filter(
		(bake) => !due(bakes, bake) && due(computing?.bakes ?? [], bake),
	);
	return ready.length ? new Map([...bakedAt, ...ready.map((bake) => [bake, Date.now()] as const)]) : bakedAt;
}

let aloneSaid = false;
/** Where memory cannot be shared between threads, the work is slower: said once a visit. */
function sayAlone(): void {
	if (aloneSaid || crossOriginIsolated) return;
	aloneSaid = true;
	toast(
		'This browser, or the page around Eppu, keeps its threads apart: all work is done on one thread, and large sheets are slower. Nothing else changes.',
		{ duration: 12000 },
	);
}

/** Says what is not as the artist left it. */
function sayOpened({ restored, leftOut }: Extract<FromStudio, { say: 'opened' }>): void {
	sayAlone();
	if (restored)
		toast(
			restored === 1 ? 'The stroke that was cut off is back.' : `${restored} strokes that were not kept yet are back.`,
		);
	if (leftOut.length)
		toast(
			`Parts of ${leftOut.map((name) => `"${name}"`).join(', ')} could not be read and were left out. The rest is here; an earlier copy may hold them.`,
			{ duration: 20000 },
		);
}

/** Sheets come, go, and change their size: so do their pictures, and what draws them is made anew. */
function followSheets({ project }: Outline): void {
	let changed = false;
	for (const { id, width, height } of project.sheets) {
		const known = pictures.get(id);
		if (known?.width === width && known.height === height) continue;
		pictures.set(id, createSheetPicture(id, width, height));
		changed = true;
	}
	for (const id of pictures.keys()) if (!project.sheets.some((sheet) => sheet.id === id)) pictures.delete(id);
	if (changed) set({ models: get().models.map((model) => ({ ...model })) });
}

/** Models lie otherwise: what was guarded by its number is another island now. */
function laidAnew(models: readonly ShownModel[]): void {
	if (get().desk.guard) setDesk({ guard: null });
	set({ models });
}

/** Says what of the paint could not stay as it was. */
function sayCarried(report: readonly CarriedSheet[]): void {
	set({ relaying: null });
	const { went, lost } = carriedWords(report, get().outline?.project.sheets ?? []);
	if (went) toast(went, { duration: 8000 });
	if (lost) toast(lost, { duration: 15000 });
}

/** A stroke landed: its sheet is the active one, its colour among those used last. */
function stroked(sheet: Id): void {
	const { desk } = get();
	if (desk.sheet !== sheet) setDesk({ sheet });
	if (paintsMask(get())) return;
	setDesk({ recent: [desk.front, ...desk.recent.filter((each) => each !== desk.front)].slice(0, 12) });
}

/** The outline that is shown where nothing in another is new: what is drawn from it need not be drawn anew. */
function keptOutline(outline: Outline): Outline {
	const { outline: before } = get();
	return before && JSON.stringify(before) === JSON.stringify(outline) ? before : outline;
}

/** Shows a project as its document says, while the studio still fetches it: the page is made meanwhile. */
function shownAhead(head: Head | null): void {
	if (!head || head.project.id !== addressed() || get().outline || get().status !== 'opening') return;
	coming({ project: head.project, done: [], undone: [], gesture: null }, head.desk, []);
}

/** A project is on its way: what draws it is made. Where it was shown ahead of the studio, only what is new is. */
function coming(outline: Outline, desk: Desk | null, models: readonly ShownModel[]): void {
	const { project } = outline;
	if (project.id !== addressed()) return;
	if (get().outline?.project.id === project.id) {
		followSheets(outline);
		return set({ outline: keptOutline(outline), ...(models.length ? { models } : {}) });
	}
	pictures.clear();
	forgetBefore();
	for (const { id, width, height } of project.sheets) pictures.set(id, createSheetPicture(id, width, height));
	const drawer = project.bundle ? ({ drawer: 'bundle' } as const) : {};
	set({ outline, models, desk: desk ?? deskOf(models), thumbnails: new Map(), ...drawer });
}

/** What the studio says, put where the screen looks. */
export function fromStudio(message: FromStudio): void {
	switch (message.say) {
		case 'fetching':
			// Only now: a page that is being made keeps what is said to the studio waiting.
			if (message.project === addressed()) void headAsked().then(shownAhead);
			return;
		case 'coming':
			return coming(message.outline, message.desk, message.models);
		case 'opened':
			if (message.outline.project.id !== addressed()) return;
			set({ status: 'open', outline: keptOutline(message.outline) });
			return sayOpened(message);
		case 'not-opened':
			return set({ outline: null, status: 'failed', failure: { text: message.text, why: message.why } });
		case 'outline':
			followSheets(message.outline);
			return set({ outline: message.outline, ...arrived(message.outline) });
		case 'models':
			return message.first ? set({ models: message.models }) : laidAnew(message.models);
		case 'marked':
			return set({ marks: message.marks });
		case 'carried':
			return sayCarried(message.report);
		case 'patch':
			return pictures.get(message.sheet)?.apply(message);
		case 'settled':
			keepBefore(get().outline?.project.sheets ?? [], pictures);
			document.documentElement.dataset.settled = String(Number(document.documentElement.dataset.settled ?? 0) + 1);
			return;
		case 'spot':
			return set({
				spot: message.spot && { spot: message.spot, from: message.from },
				...(message.mirrors.length || get().mirrors.length ? { mirrors: message.mirrors } : {}),
			});
		case 'touched':
			return toggleGuard(message.spot);
		case 'looked':
			return answered(message.ask, message.picture);
		case 'selected': {
			const selections = new Map(get().selections);
			if (message.lines.length) selections.set(message.sheet, { lines: message.lines, model: message.model });
			else selections.delete(message.sheet);
			return set({ selections });
		}
		case 'told':
			return answered(message.ask, message.answer);
		case 'writing':
			return wrote(message.ask, message.done);
		case 'steps':
			return set({ steps: { layer: message.layer, side: message.side, tones: message.tones } });
		case 'computing':
			return set({ computing: message.left ? message : null, bakedAt: bakedNow(message.bakes) });
		case 'pasted':
			return setDesk({
				sheet: message.sheet,
				layers: { ...get().desk.layers, [message.sheet]: message.layer },
				onMask: false,
			});
		case 'sampled':
			return setFront(message.color);
		case 'refused':
			return refused(message.refusal);
		case 'stroke':
			return stroked(message.sheet);
		case 'thumbnails': {
			const thumbnails = new Map(get().thumbnails);
			for (const each of message.list) {
				const canvas = Object.assign(document.createElement('canvas'), { width: each.size, height: each.size });
				canvas.getContext('2d')?.putImageData(new ImageData(each.data, each.size, each.size), 0, 0);
				thumbnails.set(`${each.layer}/${each.on}`, canvas.toDataURL());
			}
			return set({ thumbnails });
		}
		case 'carrying':
			return set({ relaying: message.share });
		case 'written':
			return answered(message.ask, message);
		case 'failed':
			set({ coming: new Set(), relaying: null });
			toast(message.text);
	}
}
