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
import { codecs, writers } from '../../server/codecs.ts';
import { namesFrom } from '../../studio/relaying.ts';
import type { OutAnswer } from '../../studio/told.ts';
import { assetBytes } from '../projectFile.ts';
import { picturesBeside, readerBeside } from '../reading.ts';
import { AFTER, writerBeside, writtenBeside } from '../writing.ts';
import type { Ears, Studio } from './ear.ts';

/** Questions whose answers are not wanted any more. */
const stopped = new Set<number>();

/** Answers with files, or in words with why there are none. */
async function answer(at: Studio, ask: number, make: () => Promise<OutAnswer>): Promise<void> {
	try {
		const made = await make();
		at.settling.wake();
		at.tell(
			{ say: 'told', ask, answer: made },
			made.files.map(([, bytes]) => bytes.buffer),
		);
	} catch (error) {
		const known = error instanceof OrderError || error instanceof OpenRasterError || error instanceof CommandError;
		const text = known ? error.message : `It could not be written: ${(error as Error).message}`;
		at.tell({ say: 'told', ask, answer: { files: [], notes: [], text } satisfies OutAnswer });
	} finally {
		stopped.delete(ask);
	}
}

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
					return { files: [], notes, text: null };
				}
				const { dirty, notes, changed } = takeOpenRaster(engine, sheet, image, `Take "${name}" in`, newId);
				if (changed) at.changed(dirty, 0);
				return {
					files: [],
					notes: changed ? notes : [...notes, 'Nothing in it differs from what is here.'],
					text: null,
				};
			});
		},
	},
	'exchange-out': {
		hear(at, { ask, what }) {
			const { engine } = at;
			void answer(at, ask, async () => {
				const { name, bytes, notes } = await writtenBeside(at.pool, planExchange(engine, what));
				// What is in it now is most of what will come back: it is read before that does.
				if (what.of === 'sheet') void picturesBeside(at.pool, [bytes.slice()], name, false);
				return { files: [[name, bytes]], notes, text: null };
			});
		},
	},
	'exchange-in': {
		hear(at, { ask, what, bytes, seed }) {
			const { engine } = at;
			void answer(at, ask, async () => {
				const { sent, agreed, saved, name } = bytes;
				const layered = what.of === 'sheet';
				const known = layered ? await picturesBeside(at.pool, [sent, agreed, saved], name, false) : undefined;
				const read = await readerBeside(at.pool, layered ? [] : [agreed, saved]);
				await handFree(at);
				const { dirty, changed, notes } = takeExchange(engine, what, bytes, read, namesFrom(seed), known);
				// It is given to the keeper before it is told: whoever waits until all is kept waits for it.
				if (changed) {
					at.changed(dirty, 0);
					at.keepNow();
				}
				return { files: [], notes, text: null, changed };
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
