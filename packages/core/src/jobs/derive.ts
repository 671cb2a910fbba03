import { createCompositor } from '../composite/index.ts';
import { type Derived, derivedOf, type Loan, type Means, picturesOf, type Returned } from '../derive/index.ts';
import type { Project } from '../document/index.ts';
import { meet, tileRect } from '../raster/index.ts';
import { createScenes, type Scenes } from '../scene/index.ts';
import { type Surface, type SurfaceId, TILE } from '../surface/index.ts';
import type { JobHost, JobKind, Work } from './kind.ts';

/** Computes tiles of a surface that follows from the document. */
export interface DeriveWork extends Loan, Work<Returned[]> {
	readonly job: 'derive';
}

/** What a host makes of what it was told of the project; renewed where it is told anew. */
interface Ground {
	readonly project: Project;
	readonly nodes: Map<SurfaceId, Derived>;
}

export const derive: JobKind<DeriveWork, Returned[]> = {
	job: 'derive',
	begin(host) {
		const { kernels } = host;
		const surfaces = new Map<SurfaceId, Surface>();
		let scenes: Scenes | null = null;
		let meshes: JobHost['known']['meshes'] | null = null;
		let ground: Ground | null = null;
		const means = (): Means => ({
			kernels,
			compositor,
			surfaces,
			scenes: scenes?.map ?? new Map(),
			meshes: host.known.meshes,
			pictures: picturesOf(kernels),
			prefixes: { current: null },
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
		return ({ sheet: id, surface, tiles, draft, inputs }) => {
			const { project, nodes } = groundNow();
			const sheet = project.sheets.find((each) => each.id === id);
			if (!sheet) throw new Error('There is no such sheet.');
			if (!nodes.has(surface)) for (const node of derivedOf(means(), project, sheet)) nodes.set(node.id, node);
			const node = nodes.get(surface);
			if (!node) throw new Error('There is no such picture.');
			surfaces.clear();
			for (const input of inputs) surfaces.set(input.id, input);
			const cols = Math.ceil(sheet.width / TILE);
			node.reset?.();
			return tiles.map((tile) => {
				const rect = meet(tileRect({ cols }, tile), { x: 0, y: 0, width: sheet.width, height: sheet.height });
				const texels = draft && node.draft ? node.draft(rect) : node.make(rect);
				return { texels, far: !draft && node.inputs.length ? [...(node.far?.(rect) ?? [])] : [] };
			});
		};
	},
	handsOver: (made) => [...new Set(made.flatMap(({ texels }) => (texels ? [texels.buffer as ArrayBuffer] : [])))],
};
