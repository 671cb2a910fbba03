/** Files, and what is kept. */
import { buildUpPng, sheetPng } from '@eppu/core/format';
import { wholeFile } from '../projectFile.ts';
import type { Ears } from './ear.ts';

export const files: Ears<'png' | 'build-up' | 'file' | 'keep-now'> = {
	png: {
		hear(at, message) {
			try {
				const bytes = sheetPng(at.engine, message.sheet, message);
				// All of the sheet was computed for it.
				at.settling.wake();
				return at.tell({ say: 'png', ask: message.ask, bytes, text: null }, [bytes.buffer]);
			} catch (error) {
				return at.tell({ say: 'png', ask: message.ask, bytes: null, text: (error as Error).message });
			}
		},
	},
	'build-up': {
		hear(at, message) {
			const bytes = buildUpPng(at.engine, message.sheet);
			at.settling.wake();
			return at.tell({ say: 'png', ask: message.ask, bytes, text: null }, [bytes.buffer]);
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
