/** Files, and what is kept. */
import { sheetOf } from '@eppu/core/document';
import { pictureWith } from '@eppu/core/engine';
import { bakePng, buildUpPng, encodePng, sheetPng, templateOf, templatePicture, templateSvg } from '@eppu/core/format';
import type { PngWriter } from '@eppu/kernels';
import { codecs } from '../../server/codecs.ts';
import { wholeFile } from '../projectFile.ts';
import type { Ears, Studio } from './ear.ts';

/** Tells a PNG that is made of the project as it stands when the writer is here; or why there is none. */
async function written(at: Studio, ask: number, make: (write: PngWriter) => Uint8Array<ArrayBuffer>): Promise<void> {
	try {
		const write = await codecs.png();
		if (!at.current()) return;
		const bytes = make(write);
		// All of the sheet was computed for it.
		at.settling.wake();
		at.tell({ say: 'png', ask, bytes, text: null }, [bytes.buffer]);
	} catch (error) {
		at.tell({ say: 'png', ask, bytes: null, text: (error as Error).message });
	}
}

export const files: Ears<'png' | 'build-up' | 'bake-file' | 'template' | 'file' | 'keep-now'> = {
	png: {
		hear(at, message) {
			// The pool makes the picture where it can; of what changed meanwhile the engine makes it.
			at.settling.whole(async () => {
				const { engine, pool } = at;
				const picture = pool && (await pictureWith(engine, pool, message.sheet));
				await written(at, message.ask, (write) => sheetPng(write, picture ?? engine.composite(message.sheet), message));
			});
		},
	},
	'build-up': {
		hear(at, message) {
			void written(at, message.ask, (write) => buildUpPng(write, at.engine, message.sheet));
		},
	},
	'bake-file': {
		hear(at, { ask, sheet, bake, depth }) {
			void written(at, ask, (write) => bakePng(write, at.engine.bakePicture(sheet, bake), depth));
		},
	},
	template: {
		hear(at, { ask, sheet: id, width, look, as }) {
			void written(at, ask, (write) => {
				const { project } = at.engine;
				const sheet = sheetOf(project, id);
				if (!sheet) throw new Error('There is no such sheet any more.');
				const scenes = project.models.flatMap((model) => at.engine.scene(model.id) ?? []);
				const drawing = templateOf(scenes, sheet, width);
				return as === 'svg'
					? new TextEncoder().encode(templateSvg(drawing, look))
					: encodePng(write, templatePicture(drawing, look));
			});
		},
	},
	file: {
		hear(at, message) {
			void wholeFile(at.engine, at.files).then(
				(bytes) => at.tell({ say: 'png', ask: message.ask, bytes, text: null }, [bytes.buffer]),
				(error) => at.tell({ say: 'png', ask: message.ask, bytes: null, text: (error as Error).message }),
			);
			return;
		},
	},
	'keep-now': {
		hear(at) {
			return at.keepNow();
		},
	},
};
