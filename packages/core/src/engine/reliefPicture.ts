import { groundOf, heightsOver, slopeStep, slopeWords } from '../derive/index.ts';
import { CommandError, raisedOn, type Sheet, spanOf } from '../document/index.ts';
import { reliefLooks, reliefValues } from '../light/index.ts';
import { type DeepPicture, deepPictureOf } from './deepPicture.ts';
import type { Workspace } from './workspace.ts';

/**
 * All that stands out on a sheet as a picture of 16 bits: heights (grey; 0.5 is level, 0 and 1 as far as its layers can
 * reach together), or the normals of a surface that stands out so. Clear where no model lies.
 */
export function reliefPicture(workspace: Workspace, sheet: Sheet, look: string): DeepPicture {
	const { means } = workspace;
	const found = reliefLooks.find((each) => each.look === look);
	const raised = raisedOn(sheet);
	const span = spanOf(raised);
	if (!found) throw new CommandError(`Relief has no look "${look}". Nothing was written.`);
	if (span === 0) throw new CommandError(`Nothing stands out on "${sheet.name}". Nothing was written.`);
	return deepPictureOf(workspace, sheet, (planes, rect) => {
		const ground = groundOf(means, planes, sheet, null, rect, 1);
		if (!found.normals)
			return { ground, values: [heightsOver(means, sheet, raised, rect).map((v) => 0.5 + v / (2 * span))] };
		const words = slopeWords(means, sheet, raised, rect);
		const at = words && planes.take(words.length);
		if (words && at) planes.bytes(at, words.length * 4).set(new Uint8Array(words.buffer));
		const slopes = at ? { words: at, step: slopeStep(raised) } : null;
		return { ground, values: reliefValues(ground, found.normals, slopes) };
	});
}
