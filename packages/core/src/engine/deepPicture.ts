import { bakeGround } from '../derive/index.ts';
import { CommandError, type Id, type Sheet } from '../document/index.ts';
import { bakeKindOf } from '../light/index.ts';
import { meet, tileRect } from '../raster/index.ts';
import { withPlanes } from '../recipe/index.ts';
import { TILE } from '../surface/index.ts';
import type { Workspace } from './workspace.ts';

/** How far a bake is on a sheet. */
export interface BakeState {
	readonly bake: string;
	readonly sheet: Id;
	/** Tiles. */
	readonly left: number;
	readonly all: number;
}

/** A picture of 16 bits a channel: RGBA, straight alpha. */
export interface DeepPicture {
	readonly width: number;
	readonly height: number;
	readonly data: Uint16Array<ArrayBuffer>;
}

/** A bake as it comes out of the computing, before it is kept: 16 bits also where colours are kept with 8. */
export function deepPicture(workspace: Workspace, sheet: Sheet, id: string): DeepPicture {
	const model = workspace.project.models.find(({ parts }) => parts.some((part) => part.sheet === sheet.id));
	const bake = model?.bakes?.find((each) => each.id === id);
	if (!bake) throw new CommandError(`"${sheet.name}" has no such bake. Nothing was written.`);
	const { width, height } = sheet;
	const data = new Uint16Array(width * height * 4);
	const cols = Math.ceil(width / TILE);
	const whole = { x: 0, y: 0, width, height };
	for (let tile = 0; tile < cols * Math.ceil(height / TILE); tile++) {
		const rect = meet(tileRect({ cols }, tile), whole);
		withPlanes(workspace.kernels, (planes) => {
			const ground = bakeGround(workspace.means, planes, sheet, bake, rect, 1);
			const fields = bakeKindOf(bake).fields(bake, ground);
			if (!fields || !ground.surface) return;
			const { face } = ground.surface;
			const values = fields.map((at) => planes.floats(at, face.length));
			face.forEach((each, i) => {
				if (each < 0) return;
				const at = ((rect.y + Math.floor(i / rect.width)) * width + rect.x + (i % rect.width)) * 4;
				for (let k = 0; k < 3; k++) {
					const value = values[Math.min(k, values.length - 1)]?.[i] as number;
					data[at + k] = Math.round(Math.min(1, Math.max(0, value)) * 65535);
				}
				data[at + 3] = 65535;
			});
		});
	}
	return { width, height, data };
}
