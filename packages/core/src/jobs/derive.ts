import { createCompositor } from '../composite/index.ts';
import {
	createPrefix,
	type Derived,
	derivedOf,
	draftTiles,
	fieldsOf,
	type Loan,
	type Means,
	type PrefixStore,
	picturesOf,
	type Returned,
	type ReturnedLoan,
	rememberField,
} from '../derive/index.ts';
import { type Project, sheetRect } from '../document/index.ts';
import { meet, tileRect } from '../raster/index.ts';
import { createScenes, type Scenes } from '../scene/index.ts';
import { type Surface, type SurfaceId, TILE } from '../surface/index.ts';
import type { JobHost, JobKind, Work } from './kind.ts';

/** Computes tiles of a surface that follows from the document. */
export interface DeriveWork extends Loan, Work<ReturnedLoan> {
	readonly job: 'derive';
}

/** What a host makes of what it was told of the project; renewed where it is told anew. */
interface Ground {
	readonly project: Project;
	readonly nodes: Map<SurfaceId, Derived>;
}

export const derive: JobKind<DeriveWork, ReturnedLoan> = {
	job: 'derive',
	begin(host) {
		const { kernels } = host;
		const surfaces = new Map<SurfaceId, Surface>();
		let scenes: Scenes | null = null;
		let meshes: JobHost['known']['meshes'] | null = null;
		let ground: Ground | null = null;
		const prefixes: PrefixStore = { current: null };
		const means = (): Means => ({
			kernels,
			compositor,
			surfaces,
			scenes: scenes?.map ?? new Map(),
			meshes: host.known.meshes,
			pictures: picturesOf(kernels),
			prefixes,
		});
		const compositor = createCompositor(kernels);
		const groundNow = (): Ground => {
			const { project, meshes: given } = host.known;
			if (!project) throw new Error('Nothing is known of the project.');
			if (meshes !== given) {
				scenes?.drop();
				scenes = createScenes(kernels, ({ id }) => given.get(id));
				meshes = given;
				ground = null;
			}
			if (ground?.project !== project) {
				scenes?.follow(project);
				ground = { project, nodes: new Map() };
			}
			return ground as Ground;
		};
		return ({ sheet: id, surface, tiles, draft, inputs, prefix }) => {
			const { project, nodes } = groundNow();
			const sheet = project.sheets.find((each) => each.id === id);
			if (!sheet) throw new Error('There is no such sheet.');
			if (!nodes.has(surface)) for (const node of derivedOf(means(), project, sheet)) nodes.set(node.id, node);
			const node = nodes.get(surface);
			if (!node) throw new Error('There is no such picture.');
			surfaces.clear();
			for (const input of inputs) surfaces.set(input.id, input);
			const grid = { cols: Math.ceil(sheet.width / TILE), width: sheet.width, height: sheet.height };
			node.reset?.();
			const known = prefix && createPrefix(surface, prefix.count, prefix.key);
			for (const [tile, place, field] of prefix?.fields ?? []) if (known) rememberField(known, tile, place, field);
			prefixes.current = known;
			const well = (tile: number): Returned => {
				const rect = meet(tileRect(grid, tile), sheetRect(sheet));
				return { texels: node.make(rect), far: node.inputs.length ? [...(node.far?.(rect) ?? [])] : [] };
			};
			const drafts = draft && draftTiles(node, grid, tiles);
			const made = tiles.map((tile) => (drafts ? { texels: drafts.get(tile) ?? null, far: [] } : well(tile)));
			const lent = new Set(prefix?.fields.map(([, place]) => place));
			const fields = known ? fieldsOf(known, tiles).filter(([, place]) => !lent.has(place)) : [];
			prefixes.current = null;
			return { tiles: made, fields };
		};
	},
	handsOver: ({ tiles, fields }) => [
		...new Set([
			...tiles.flatMap(({ texels }) => (texels ? [texels.buffer as ArrayBuffer] : [])),
			...fields.map(([, , field]) => field.buffer as ArrayBuffer),
		]),
	],
};
