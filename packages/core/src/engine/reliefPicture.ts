import { groundOf, heightsOver, slopeStep, slopeWords } from '../derive/index.ts';
import { allTiles, CommandError, raisedOn, type Sheet, sheetRect, spanOf } from '../document/index.ts';
import { reliefLooks, reliefValues } from '../light/index.ts';
import { meet, tileRect } from '../raster/index.ts';
import { withPlanes } from '../recipe/index.ts';
import { TILE } from '../surface/index.ts';
import type { DeepPicture } from './deepPicture.ts';
import type { Workspace } from './workspace.ts';

/**
 * All that stands out on a sheet as a picture of 16 bits: heights (grey; 0.5 is level, 0 and 1 as far as its layers can
 * reach together), or the normals of a surface that stands out so. Clear where no model lies.
 */
export function reliefPicture({ kernels, means }: Workspace, sheet: Sheet, look: string): DeepPicture {
	const found = reliefLooks.find((each) => each.look === look);
	const raised = raisedOn(sheet);
	const span = spanOf(raised);
	if (!found) throw new CommandError(`Relief has no look "${look}". Nothing was written.`);
	if (span === 0) throw new CommandError(`Nothing stands out on "${sheet.name}". Nothing was written.`);
	const { width, height } = sheet;
	const data = new Uint16Array(width * height * 4);
	for (const tile of allTiles(sheet)) {
		const rect = meet(tileRect({ cols: Math.ceil(width / TILE) }, tile), sheetRect(sheet));
		withPlanes(kernels, (planes) => {
			const ground = groundOf(means, planes, sheet, null, rect, 1);
			const values = ((): readonly Float32Array[] | null => {
				if (!found.normals) return [heightsOver(means, sheet, raised, rect).map((v) => 0.5 + v / (2 * span))];
				const words = slopeWords(means, sheet, raised, rect);
				const at = words && planes.take(words.length);
				if (words && at) planes.bytes(at, words.length * 4).set(new Uint8Array(words.buffer));
				return reliefValues(ground, found.normals, at ? { words: at, step: slopeStep(raised) } : null);
			})();
			if (!values) return;
			for (let i = 0; i < rect.width * rect.height; i++) {
				if (ground.surface && (ground.surface.face[i] as number) < 0) continue;
				const to = ((rect.y + Math.floor(i / rect.width)) * width + rect.x + (i % rect.width)) * 4;
				for (let k = 0; k < 3; k++) {
					const value = values[Math.min(k, values.length - 1)]?.[i] as number;
					data[to + k] = Math.round(Math.min(1, Math.max(0, value)) * 65535);
				}
				data[to + 3] = 65535;
			}
		});
	}
	return { width, height, data };
}
