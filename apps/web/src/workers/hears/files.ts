/** Files, and what is kept. */
import { sheetOf } from '@eppu/core/document';
import {
	bakeNumbers,
	buildUpPicture,
	type PictureWork,
	type TemplateDrawing,
	templateOf,
	templatePicture,
	templateSvg,
} from '@eppu/core/format';
import { wholeFile } from '../projectFile.ts';
import { writerBeside } from '../writing.ts';
import type { Ears, Studio } from './ear.ts';

/** Tells a file that is made of the project as it stands; or why there is none. */
async function written(at: Studio, ask: number, make: () => Promise<Uint8Array<ArrayBuffer>>): Promise<void> {
	try {
		const bytes = await make();
		// All of the sheet was computed for it.
		at.settling.wake();
		at.tell({ say: 'written', ask, bytes, text: null }, [bytes.buffer]);
	} catch (error) {
		at.tell({ say: 'written', ask, bytes: null, text: (error as Error).message });
	}
}
/** The same of a picture, which others write as PNG. */
const asPng = (at: Studio, ask: number, make: () => PictureWork['picture']): Promise<void> =>
	written(at, ask, async () => writerBeside(at.pool)({ job: 'picture', picture: make() }));

export const files: Ears<'build-up' | 'bake-file' | 'relief-file' | 'template' | 'file' | 'keep-now'> = {
	'build-up': {
		hear(at, { ask, sheet }) {
			void asPng(at, ask, () => buildUpPicture(at.engine, sheet));
		},
	},
	'bake-file': {
		hear(at, { ask, sheet, bake, depth }) {
			void asPng(at, ask, () => bakeNumbers(at.engine.bakePicture(sheet, bake), depth));
		},
	},
	'relief-file': {
		hear(at, { ask, sheet, look, depth }) {
			void asPng(at, ask, () => bakeNumbers(at.engine.reliefPicture(sheet, look), depth));
		},
	},
	template: {
		hear(at, { ask, sheet: id, width, look, as }) {
			const drawn = (): TemplateDrawing => {
				const { project } = at.engine;
				const sheet = sheetOf(project, id);
				if (!sheet) throw new Error('There is no such sheet any more.');
				const scenes = project.models.flatMap((model) => at.engine.scene(model.id) ?? []);
				return templateOf(scenes, sheet, width);
			};
			if (as === 'png') void asPng(at, ask, () => templatePicture(drawn(), look));
			else void written(at, ask, async () => new TextEncoder().encode(templateSvg(drawn(), look)));
		},
	},
	file: {
		hear(at, message) {
			void written(at, message.ask, () => wholeFile(at.engine, at.files));
		},
	},
	'keep-now': {
		hear(at) {
			return at.keepNow();
		},
	},
};
