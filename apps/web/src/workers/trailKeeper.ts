import type { KeptStep, StoredTile } from '@eppu/core/engine';
import { journal, type Leading, type StepEntry } from '../studio/journal.ts';
import type { KeptSteps } from '../studio/keeping.ts';
import { deflated } from './pressing.ts';

/** Bytes of the steps of a project that stay in the browser. */
const MOST_BYTES = 64 * 1024 * 1024;
/** Projects whose steps stay. */
const MOST_TRAILS = 12;

const sizeOf = ({ tiles, surfaces }: KeptStep<StoredTile>): number =>
	[...tiles, ...surfaces.flatMap((each) => each.tiles)].reduce((sum, { blob }) => sum + 64 + (blob?.length ?? 0), 256);

const pressedStep = async ({ tiles, surfaces, ...step }: KeptStep): Promise<KeptStep<StoredTile>> => ({
	...step,
	tiles: await deflated(tiles),
	surfaces: await Promise.all(surfaces.map(async (each) => ({ ...each, tiles: await deflated(each.tiles) }))),
});

/** Makes what the browser's store takes in of the steps that lead to each save of a project. */
export interface TrailKeeper {
	(project: string, save: string, steps: KeptSteps): Promise<Leading | null>;
	/** Its steps found no room: those that come later stand alone. */
	forget(project: string): void;
}

export function createTrailKeeper(): TrailKeeper {
	/** The steps that lie in the store, by their number: bytes. */
	let sizes = new Map<number, number>();
	let of: string | null = null;
	const make = async (project: string, save: string, { here, added }: KeptSteps): Promise<Leading | null> => {
		try {
			if (of !== project) {
				sizes = new Map((await journal.trail(project))?.steps ?? []);
				of = project;
				await journal.keepTrails(MOST_TRAILS);
			}
			const entries = await Promise.all(
				added.map(async ([id, step]): Promise<StepEntry> => ({ project, id, step: await pressedStep(step) })),
			);
			// A number that is not in the store cuts off those before it: they were of another address, or found no room.
			const whole = here.slice(here.findLastIndex((id) => !sizes.has(id)) + 1);
			const list = [
				...whole.map((id) => [id, sizes.get(id) ?? 0] as const),
				...entries.map(({ id, step }) => [id, sizeOf(step)] as const),
			];
			let room = MOST_BYTES;
			const fits = (bytes: number): boolean => {
				room -= bytes;
				return room >= 0;
			};
			const steps = list.slice(list.findLastIndex(([, bytes]) => !fits(bytes)) + 1);
			sizes = new Map(steps);
			return { trail: { save, steps, at: Date.now() }, added: entries.filter(({ id }) => sizes.has(id)) };
		} catch (error) {
			console.warn('The steps could not be made ready for the browser’s store:', error);
			return null;
		}
	};
	return Object.assign(make, {
		forget(project: string) {
			sizes = new Map();
			void journal.forgetTrail(project).catch(() => undefined);
		},
	});
}
