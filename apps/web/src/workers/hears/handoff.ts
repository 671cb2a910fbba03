/** What leaves for elsewhere, and what comes back from there. */
import { assetsOf, CommandError } from '@eppu/core/document';
import { type Engine, pictureWith } from '@eppu/core/engine';
import {
	OrderError,
	planExchange,
	planProjectZip,
	type TextureFile,
	type TextureOrder,
	type TextureWriter,
	takeExchange,
	textureWork,
	writeModel,
	writePage,
	writtenTexture,
} from '@eppu/core/handoff';
import {
	bringOpenRaster,
	OpenRasterError,
	planOpenRaster,
	readOpenRaster,
	takeOpenRaster,
} from '@eppu/core/openraster';
import { ApiError } from '../../server/api.ts';
import { codecs, writers } from '../../server/codecs.ts';
import { exchangeApi } from '../../server/exchange.ts';
import { namesFrom } from '../../studio/relaying.ts';
import type { OutAnswer, SentAnswer, TakenAnswer } from '../../studio/told.ts';
import { readSent, sidesOf } from '../exchange.ts';
import { assetBytes } from '../projectFile.ts';
import { picturesBeside } from '../reading.ts';
import { AFTER, writerBeside, writtenBeside } from '../writing.ts';
import type { Ears, Studio } from './ear.ts';

/** Questions whose answers are not wanted any more. */
const stopped = new Set<number>();

/** Errors that say in words what is wrong with what was asked for. */
const worded = [OrderError, OpenRasterError, CommandError, ApiError];

/** Answers with what is made, or as `failed` and in words with why it is not. */
async function answered<A extends { readonly text: string | null }>(
	at: Studio,
	ask: number,
	failed: Omit<A, 'text'>,
	make: () => Promise<A>,
	handsOver: (made: A) => Transferable[] = () => [],
): Promise<void> {
	try {
		const made = await make();
		at.settling.wake();
		at.tell({ say: 'told', ask, answer: made }, handsOver(made));
	} catch (error) {
		const known = worded.some((kind) => error instanceof kind);
		const text = known ? (error as Error).message : `It could not be done: ${(error as Error).message}`;
		at.tell({ say: 'told', ask, answer: { ...failed, text } });
	} finally {
		stopped.delete(ask);
	}
}

/** The same with files, which are handed over. */
const answer = (at: Studio, ask: number, make: () => Promise<OutAnswer>): Promise<void> =>
	answered(at, ask, { files: [], notes: [] }, make, ({ files }) => files.map(([, bytes]) => bytes.buffer));

/** Waits until no stroke is being made: none is cut short by what comes from elsewhere, or changed below the hand. */
async function handFree(at: Studio): Promise<void> {
	while (at.current() && at.engine.stroking) await new Promise((resolve) => setTimeout(resolve, 30));
	if (!at.current()) throw new CommandError('The project is not open any more. Nothing was changed.');
}

/** A texture of an order, composited and written by the pool; of what changed meanwhile the engine makes the picture. */
async function textureBeside(at: Studio, file: TextureFile, order: TextureOrder): Promise<Uint8Array<ArrayBuffer>> {
	const { engine, pool } = at;
	const whole = order.of === 'sheet' && pool ? await pictureWith(engine, pool, file.sheet) : null;
	const work = textureWork(engine, file, order, whole);
	const made = await pool?.do(work, AFTER);
	if (made && 'problem' in made) throw new OrderError(made.problem);
	return made?.bytes ?? writtenTexture(work, await writers());
}

const none = { notes: [], text: null } as const;

/** All of the open project as one ZIP, with the files that it names. */
async function projectZip(
	at: Studio,
	engine: Engine,
	desk: Parameters<typeof planProjectZip>[0]['desk'],
): Promise<OutAnswer> {
	const { project, tiles } = engine.whole();
	const bytes = await assetBytes(project, at.files);
	const files = new Map(assetsOf(project).map(({ hash }, i) => [hash, bytes[i] as Uint8Array]));
	const pictures = new Map(engine.pictures.own);
	const plan = planProjectZip({ project, desk, tiles, files, pictures });
	return { files: [['project.zip', await writtenBeside(at.pool, plan)]], ...none };
}

export const handoff: Ears<
	| 'texture-out'
	| 'model-out'
	| 'layers-out'
	| 'layers-in'
	| 'exchange-out'
	| 'exchange-in'
	| 'page-out'
	| 'project-out'
	| 'stop-out'
> = {
	'texture-out': {
		hear(at, { ask, file, order }) {
			at.settling.whole(() =>
				answer(at, ask, async () => ({ files: [[file.path, await textureBeside(at, file, order)]], ...none })),
			);
		},
	},
	'model-out': {
		hear(at, { ask, model, order }) {
			const { engine } = at;
			const texture: TextureWriter = (file, of) => textureBeside(at, file, of);
			void answer(at, ask, async () => ({ files: await writeModel(engine, model, order, texture), ...none }));
		},
	},
	'layers-out': {
		hear(at, { ask, sheet }) {
			const { engine } = at;
			void answer(at, ask, async () => {
				const { bytes, notes } = await writtenBeside(at.pool, planOpenRaster(engine, sheet));
				return { files: [['layers.ora', bytes]], notes, text: null };
			});
		},
	},
	'layers-in': {
		hear(at, { ask, sheet, name, bytes, seed }) {
			const { engine } = at;
			void answer(at, ask, async () => {
				const known = await picturesBeside(at.pool, [bytes], name, sheet === null);
				const image = readOpenRaster(bytes, name, await codecs.readPng(), known);
				await handFree(at);
				const newId = namesFrom(seed);
				if (sheet === null) {
					const { dirty, notes } = bringOpenRaster(engine, image, name.replace(/\.[^.]+$/, '').slice(0, 120), newId);
					at.changed(dirty, 0);
					at.keepNow();
					return { files: [], notes, text: null };
				}
				const { dirty, notes, changed } = takeOpenRaster(engine, sheet, image, `Take "${name}" in`, newId);
				if (changed) {
					at.changed(dirty, 0);
					at.keepNow();
				}
				return {
					files: [],
					notes: changed ? notes : [...notes, 'Nothing in it differs from what is here.'],
					text: null,
				};
			});
		},
	},
	'exchange-out': {
		hear(at, { ask, project, what }) {
			const { engine } = at;
			void answered<SentAnswer>(at, ask, { out: null, notes: [] }, async () => {
				const { name, bytes, notes } = await writtenBeside(at.pool, planExchange(engine, what));
				const out = await exchangeApi.send(project, what, name, bytes);
				void readSent(at.pool, out, bytes).catch(() => undefined);
				return { out, notes, text: null };
			});
		},
	},
	'exchange-in': {
		hear(at, { ask, out, n }) {
			const { engine } = at;
			const none = { changed: false, notes: [], again: false };
			void answered<TakenAnswer>(at, ask, none, async () => {
				const sides = await sidesOf(at.pool, out, n).catch((error: Error) => {
					if (error instanceof ApiError) return null;
					throw error;
				});
				if (!sides) return { ...none, text: null, again: true };
				await handFree(at);
				const newId = (): string => crypto.randomUUID();
				const { dirty, changed, notes } = takeExchange(engine, out.what, sides.agreed, sides.saved, out.file, newId);
				// It is given to the keeper before it is told: whoever waits until all is kept waits for it.
				if (changed) {
					at.changed(dirty, 0);
					at.keepNow();
				}
				return { changed, notes, text: null, again: false };
			});
		},
	},
	'page-out': {
		hear(at, { ask, order }) {
			const { engine } = at;
			void answer(at, ask, async () => {
				let told = 0;
				const bytes = await writePage(engine, order, writerBeside(at.pool), async (done) => {
					if (performance.now() - told > 100) {
						told = performance.now();
						at.tell({ say: 'writing', ask, done });
						// What the page says meanwhile is heard: strokes, and that it is not wanted any more.
						await new Promise((resolve) => setTimeout(resolve, 0));
					}
					return !stopped.has(ask) && at.current();
				});
				return { files: bytes ? [['page.html', bytes]] : [], notes: [], text: bytes ? null : 'It was stopped.' };
			});
		},
	},
	'project-out': {
		hear(at, { ask, desk }) {
			const { engine } = at;
			void answer(at, ask, () => projectZip(at, engine, desk));
		},
	},
	'stop-out': {
		hear(_at, { of }) {
			stopped.add(of);
		},
	},
};
