import type { Id, Project, Sheet } from '../document/index.ts';
import { giveTexels, meet, type Rect, replaceTiles, tileRect } from '../raster/index.ts';
import { isDear } from '../recipe/index.ts';
import {
	clearSurface,
	copySurface,
	createSurface,
	dropTile,
	emptyTile,
	type Surface,
	type SurfaceId,
	setTileState,
	TILE,
	texelBytes,
	tileState,
	tilesFrom,
} from '../surface/index.ts';
import { derivedOf } from './derived.ts';
import { draftTiles, inBlocks } from './draft.ts';
import type { Loan, ReturnedLoan } from './loan.ts';
import type { Means } from './means.ts';
import { fieldsOf, notePrefix, type Prefix, rememberField } from './recipePrefix.ts';
import type { Derived } from './spec.ts';

/** So few tiles are computed well at once; and of what takes long, so few. */
const FEWEST_DRAFTED = 128;
const FEWEST_LATE = 12;

/** Nothing stops, and nothing is left to others. */
const none = (): boolean => false;

/** Drafts are so much sooner made that so many more are lent at once. */
const DRAFTS_AT_ONCE = 2;
/** Tiles of what takes long that somebody else has at once: while they are made nothing else is made there. */
const LATE_AT_ONCE = 2;

interface Kept {
	node: Derived;
	readonly sheet: Id;
	readonly surface: Surface;
	readonly stale: Set<number>;
	/** Those of its stale tiles that are to be shown in a draft first. */
	readonly drafts: Set<number>;
	/** Which of its tiles read each tile of the inputs over seams. */
	readonly far: Map<number, Set<number>>;
	/** Tiles that are being computed elsewhere, by the loan that they belong to: no more once they are stale again. */
	readonly lent: Map<number, number>;
	/** Elsewhere it could not be computed: it is lent no more. */
	onlyHere: boolean;
}

/** Keeps all computed surfaces in step with the document, a few tiles at a time. */
export interface Derivation {
	/** After the document changed: what computes differently now is due. */
	follow(project: Project): void;
	/** Tiles of a surface have new texels: what reads them is due. */
	touched(surface: SurfaceId, tiles: Iterable<number>): void;
	/**
	 * Computes what is due until told to stop; returns the tiles of sheets that may look different since the last call. Where
	 * there are `others` to lend to, bakes are left to them.
	 */
	refresh(stop: () => boolean, others?: boolean): Map<Id, Set<number>>;
	/** Computes all that is due of a sheet, or of all; true where there was anything. The next refresh tells its tiles. */
	settle(sheet?: Id): boolean;
	/**
	 * A computed surface was put in its place, with the tiles over seams that its tiles read: nothing of it is due. False
	 * where there is no such surface.
	 */
	taken(surface: SurfaceId, far: Iterable<readonly [number, readonly number[]]>): boolean;
	/** Tiles over seams that a surface's tiles read; null where it is not there, or not all of it is computed. */
	farOf(surface: SurfaceId): (readonly [number, readonly number[]])[] | null;
	/** Up to so many tiles (drafts: four times as many) for somebody else to compute, of one surface whose inputs are computed; null where there are none. */
	lend(most: number): Loan | null;
	/** What was made of a loan, or null where it could not be: what changed meanwhile is not taken. */
	returned(loan: Loan, made: ReturnedLoan | null): void;
	/** What becomes due of a sheet is computed from this texel outwards. */
	near(sheet: Id, x: number, y: number): void;
	/** Something is to be computed, or to be told. */
	readonly due: boolean;
	/** Tiles still to be computed. */
	readonly left: number;
	/** The same of one surface; 0 where there is none. */
	leftOf(surface: SurfaceId): number;
	drop(): void;
}

/** `surfaces` takes the computed surfaces in; `means` reads them there. */
// biome-ignore lint/complexity/noExcessiveLinesPerFunction: what is stale and in which order is one state, and short functions over it.
export function createDerivation(means: Means, surfaces: Map<SurfaceId, Surface>): Derivation {
	const { kernels } = means;
	let kept = new Map<SurfaceId, Kept>();
	/** In the order in which they are computed, where what they read is there. */
	let order: Kept[] = [];
	let readers = new Map<SurfaceId, Kept[]>();

	const centers = new Map<Id, readonly [number, number]>();
	const allOf = ({ sheet, surface, stale, lent }: Kept): void => {
		const [x, y] = centers.get(sheet) ?? [surface.width / 2, surface.height / 2];
		stale.clear();
		for (const tile of tilesFrom(surface, x, y)) stale.add(tile);
		lent.clear();
	};
	const forget = ({ surface }: Kept): void => {
		clearSurface(kernels.heap, surface);
		surfaces.delete(surface.id);
	};
	const spread = (each: Kept, tiles: Iterable<number>): void => {
		const { node, surface, lent } = each;
		const stale = {
			add(tile: number): void {
				each.stale.add(tile);
				lent.delete(tile);
			},
		};
		node.reset?.();
		if (!Number.isFinite(node.reach)) {
			allOf(each);
		} else {
			const by = Math.ceil(node.reach / TILE);
			for (const tile of tiles) {
				for (const reader of each.far.get(tile) ?? []) stale.add(reader);
				const [x, y] = [tile % surface.cols, Math.floor(tile / surface.cols)];
				for (let dy = -by; dy <= by; dy++)
					for (let dx = -by; dx <= by; dx++)
						if (x + dx >= 0 && y + dy >= 0 && x + dx < surface.cols && y + dy < surface.rows)
							stale.add((y + dy) * surface.cols + x + dx);
			}
		}
		for (const next of readers.get(surface.id) ?? []) spread(next, each.stale);
	};
	/** Puts what `make` gives for a tile in its place; returns the tile's rectangle. */
	const put = ({ node, surface }: Kept, tile: number, sheet: Sheet, make: (rect: Rect) => Uint8Array | null): Rect => {
		const rect = meet(tileRect(surface, tile), { x: 0, y: 0, width: sheet.width, height: sheet.height });
		const data = make(rect);
		if (data) {
			replaceTiles(kernels, surface, { rect, bytes: texelBytes(node.format), data });
			giveTexels(data);
			return rect;
		}
		dropTile(kernels.heap, surface.format, tileState(surface, tile));
		setTileState(surface, tile, emptyTile);
		return rect;
	};
	const noteFar = ({ far }: Kept, tile: number, reads: Iterable<number>): void => {
		for (const from of reads) {
			const list = far.get(from);
			if (list) list.add(tile);
			else far.set(from, new Set([tile]));
		}
	};
	const compute = (each: Kept, tile: number, sheet: Sheet): void => {
		const { node } = each;
		each.drafts.delete(tile);
		// A draft of it that somebody still makes comes too late.
		each.lent.delete(tile);
		const rect = put(each, tile, sheet, node.make);
		if (node.inputs.length) noteFar(each, tile, node.far?.(rect) ?? []);
	};
	let sheets = new Map<Id, Sheet>();
	let opened = false;
	let loans = 0;
	/** What was remembered when each loan that is out was given. */
	const prefixOf = new Map<number, Prefix>();
	/** Tiles computed and not yet told, of each sheet. */
	let untold = new Map<Id, Set<number>>();
	const note = (sheet: Id, tile: number): void => {
		const set = untold.get(sheet) ?? new Set();
		untold.set(sheet, set.add(tile));
	};
	/** Tiles whose first steps are remembered as they are made well. */
	const wellKnown = ({ places }: Prefix): number =>
		[...places.values()].filter((each) => [...each].some((place) => !place.endsWith('draft'))).length;
	/** Whether all that it reads is computed, drafts at least. */
	const ready = ({ node }: Kept, draft: boolean): boolean =>
		node.inputs.every((id) => {
			const input = kept.get(id);
			return !input || (input.lent.size === 0 && (draft ? input.drafts : input.stale).size === 0);
		});
	/** Drafts of all come before any is made well: what a dial does is seen at once. */
	const draftDue = (stop: () => boolean, leaves: (each: Kept) => boolean): boolean => {
		let again = true;
		while (again) {
			again = false;
			for (const each of order) {
				const sheet = sheets.get(each.sheet);
				if (each.drafts.size === 0 || leaves(each) || !ready(each, true)) continue;
				again = true;
				for (const block of inBlocks(each.drafts, each.surface, each.node.draft?.tiles ?? 1)) {
					if (stop()) return false;
					for (const tile of block) each.drafts.delete(tile);
					if (!sheet) continue;
					const tiles = block.filter((tile) => each.stale.has(tile));
					for (const [tile, texels] of draftTiles(each.node, each.surface, tiles)) {
						put(each, tile, sheet, () => texels);
						note(each.sheet, tile);
					}
				}
			}
		}
		return order.every((each) => each.drafts.size === 0 || leaves(each));
	};
	const computeDue = (stop: () => boolean, leaves: (each: Kept) => boolean, only?: Id): void => {
		let again = true;
		while (again) {
			again = false;
			for (const each of order) {
				if (only !== undefined && each.sheet !== only) continue;
				const sheet = sheets.get(each.sheet);
				if (!sheet || each.stale.size === 0 || leaves(each) || !ready(each, false)) continue;
				again = true;
				for (const tile of each.stale) {
					if (stop()) return;
					each.stale.delete(tile);
					compute(each, tile, sheet);
					note(each.sheet, tile);
				}
			}
		}
	};
	/** A layer that is seen stays seen while its new mask is computed; when a project opens, masks begin with nothing. */
	const begun = ({ id, format, meanwhile }: Derived, { width, height }: Sheet): Surface => {
		const from = opened && meanwhile !== undefined ? surfaces.get(meanwhile) : undefined;
		if (from && from.format === format && from.width === width && from.height === height)
			return copySurface(kernels.heap, from, id);
		return createSurface(id, format, width, height);
	};

	return {
		get due() {
			return untold.size > 0 || order.some((each) => each.stale.size > 0 || each.lent.size > 0);
		},
		get left() {
			return order.reduce((sum, each) => sum + each.stale.size + each.lent.size, 0);
		},
		leftOf(id) {
			const each = kept.get(id);
			return each ? each.stale.size + each.lent.size : 0;
		},
		follow(project) {
			const next = new Map<SurfaceId, Kept>();
			const list: Kept[] = [];
			const anew = new Set<SurfaceId>();
			sheets = new Map(project.sheets.map((sheet) => [sheet.id, sheet]));
			for (const sheet of project.sheets)
				for (const node of derivedOf(means, project, sheet)) {
					const before = kept.get(node.id);
					const fits =
						before &&
						before.surface.width === sheet.width &&
						before.surface.height === sheet.height &&
						before.surface.format === node.format;
					if (before && !fits) forget(before);
					const each: Kept = fits
						? before
						: {
								node,
								sheet: sheet.id,
								surface: begun(node, sheet),
								stale: new Set(),
								drafts: new Set(),
								far: new Map(),
								lent: new Map(),
								onlyHere: false,
							};
					surfaces.set(node.id, each.surface);
					if (
						!fits ||
						before.node.key !== node.key ||
						node.inputs.some((id) => anew.has(id)) ||
						node.inputs.join() !== before.node.inputs.join()
					) {
						if (fits && node.recipe && before.node.recipe)
							notePrefix(means.prefixes, node.id, before.node.recipe.steps, node.recipe.steps, node.recipe.says);
						// Where more than the steps is new, what they made before is of no use.
						if (fits && node.inputs.some((id) => anew.has(id))) node.reset?.();
						allOf(each);
						const { current } = means.prefixes;
						// With its dear steps remembered it is quick as it is.
						const quick =
							current?.mask === node.id &&
							wellKnown(current) * 2 > each.stale.size &&
							!isDear((node.recipe?.steps ?? []).slice(current.count));
						const followed = node.inputs.some((id) => (next.get(id)?.drafts.size ?? 0) > 0);
						const fewest = node.late || followed ? FEWEST_LATE : FEWEST_DRAFTED;
						if (node.draft && !quick && each.stale.size >= fewest && (followed || !node.follows))
							for (const tile of inBlocks(each.stale, each.surface, node.draft.tiles).flat()) each.drafts.add(tile);
						anew.add(node.id);
					}
					each.node = node;
					next.set(node.id, each);
					list.push(each);
				}
			for (const [id, each] of kept) if (!next.has(id)) forget(each);
			opened = true;
			kept = next;
			order = [...list.filter(({ node }) => !node.late), ...list.filter(({ node }) => node.late)];
			readers = new Map();
			for (const each of order) for (const id of each.node.inputs) readers.set(id, [...(readers.get(id) ?? []), each]);
		},
		near: (sheet, x, y) => void centers.set(sheet, [x, y]),
		touched(surface, tiles) {
			for (const each of readers.get(surface) ?? []) spread(each, tiles);
		},
		refresh(stop, others = false) {
			// A tile of it may take longer than a hand can wait.
			const leaves = ({ node, onlyHere }: Kept): boolean => others && node.late === true && !onlyHere;
			if (draftDue(stop, leaves)) computeDue(stop, leaves);
			const out = untold;
			untold = new Map();
			return out;
		},
		lend(most) {
			const draft = order.some((each) => each.drafts.size > 0);
			const each = order.find((one) => !one.onlyHere && (draft ? one.drafts : one.stale).size > 0 && ready(one, draft));
			if (!each || (draft && !each.node.draft)) return null;
			const tiles: number[] = [];
			const many = draft ? most * DRAFTS_AT_ONCE : each.node.late ? LATE_AT_ONCE : most;
			for (const tile of draft ? each.drafts : each.stale) {
				if (tiles.length >= many) break;
				// One whose draft is being made is shown by that first.
				if (draft ? each.stale.has(tile) : !each.lent.has(tile)) tiles.push(tile);
				each.drafts.delete(tile);
			}
			if (!tiles.length && !draft) return null;
			const n = ++loans;
			for (const tile of tiles) {
				// A draft leaves what is to be made well.
				if (!draft) each.stale.delete(tile);
				each.lent.set(tile, n);
			}
			const inputs = each.node.inputs.flatMap((id) => surfaces.get(id) ?? []);
			const { current } = means.prefixes;
			const known = current?.mask === each.node.id ? current : null;
			if (known) prefixOf.set(n, known);
			const prefix = known && { count: known.count, key: known.key, fields: fieldsOf(known, tiles) };
			return { n, sheet: each.sheet, surface: each.node.id, tiles, draft, inputs, prefix };
		},
		returned({ n, surface, sheet: sheetId, tiles, draft }, made) {
			const prefix = prefixOf.get(n);
			prefixOf.delete(n);
			// Where its inputs or steps changed meanwhile, another is current.
			if (made && prefix && prefix === means.prefixes.current)
				for (const [tile, place, field] of made.fields) rememberField(prefix, tile, place, field);
			const each = kept.get(surface);
			const sheet = sheets.get(sheetId);
			if (!each || !sheet) return;
			tiles.forEach((tile, i) => {
				if (each.lent.get(tile) !== n) return;
				each.lent.delete(tile);
				const back = made?.tiles[i];
				if (!back) {
					if (!draft) each.stale.add(tile);
					return;
				}
				put(each, tile, sheet, () => back.texels);
				if (!draft) noteFar(each, tile, back.far);
				note(sheetId, tile);
			});
			if (!made) each.onlyHere = true;
		},
		settle(only) {
			// What others compute is not waited for.
			for (const each of order)
				if (only === undefined || each.sheet === only) {
					for (const tile of each.lent.keys()) each.stale.add(tile);
					each.lent.clear();
				}
			const due = order.some((each) => each.stale.size > 0 && (only === undefined || each.sheet === only));
			computeDue(none, none, only);
			return due;
		},
		taken(id, far) {
			const each = kept.get(id);
			if (!each) return false;
			each.stale.clear();
			each.drafts.clear();
			each.lent.clear();
			each.far.clear();
			for (const [from, list] of far) each.far.set(from, new Set(list));
			for (let tile = 0; tile < each.surface.kinds.length; tile++) note(each.sheet, tile);
			return true;
		},
		farOf(id) {
			const each = kept.get(id);
			return each && each.stale.size === 0 && each.lent.size === 0
				? [...each.far].map(([from, list]) => [from, [...list]])
				: null;
		},
		drop() {
			for (const each of kept.values()) forget(each);
			kept = new Map();
			order = [];
			readers = new Map();
		},
	};
}
