import type { Id, Sheet } from '@eppu/core/document';
import { createSheetPicture, type SheetPicture } from './pictures.ts';

/** Pixel sheets as they were when all of them was first on this page: what is shown while its key is held. */
const whole = new Map<Id, SheetPicture>();

/** A pixel sheet as it was when this visit began; undefined where it came later. */
export const beforeOf = (sheet: Id): SheetPicture | undefined => whole.get(sheet);

/** Remembers the pixel sheets that are not remembered yet; larger ones are painted, and are not. */
export function keepBefore(sheets: readonly Sheet[], pictures: ReadonlyMap<Id, SheetPicture>): void {
	for (const { id, pixel } of sheets) {
		const now = pictures.get(id);
		if (!pixel || !now || whole.has(id)) continue;
		whole.set(id, createSheetPicture(id, now.width, now.height, now));
	}
}

export const forgetBefore = (): void => whole.clear();
