import { bakeGround } from '../derive/index.ts';
import { allTiles, CommandError, type Id, type Sheet, sheetRect } from '../document/index.ts';
import { bakeKindOf } from '../light/index.ts';
import { meet, type Rect, tileRect } from '../raster/index.ts';
import { type Ground, type Planes, withPlanes } from '../recipe/index.ts';
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

/** Tones of a ground, 0..1 a cell: one for all channels, or one each; null where there are none. */
type Values = (
	planes: Planes,
	rect: Rect,
) => { readonly ground: Ground; readonly values: readonly Float32Array[] | null };

/** A picture of a sheet's size of what is computed tile by tile: clear where no model lies, where there is one. */
export function deepPictureOf({ kernels }: Workspace, sheet: Sheet, made: Values): DeepPicture {
	const { width, height } = sheet;
	const data = new Uint16Array(width * height * 4);
	for (const tile of allTiles(sheet)) {
		const rect = meet(tileRect({ cols: Math.ceil(width / TILE) }, tile), sheetRect(sheet));
		withPlanes(kernels, (planes) => {
			const { ground, values } = made(planes, rect);
			if (!values) return;
			for (let i = 0; i < rect.width * rect.height; i++) {
				if (ground.surface && (ground.surface.face[i] as number) < 0) continue;
				const at = ((rect.y + Math.floor(i / rect.width)) * width + rect.x + (i % rect.width)) * 4;
				for (let k = 0; k < 3; k++) {
					const value = values[Math.min(k, values.length - 1)]?.[i] as number;
					data[at + k] = Math.round(Math.min(1, Math.max(0, value)) * 65535);
				}
				data[at + 3] = 65535;
			}
		});
	}
	return { width, height, data };
}

/** A bake as it comes out of the computing, before it is kept: 16 bits also where colours are kept with 8. */
export function deepPicture(workspace: Workspace, sheet: Sheet, id: string): DeepPicture {
	const model = workspace.project.models.find(({ parts }) => parts.some((part) => part.sheet === sheet.id));
	const bake = model?.bakes?.find((each) => each.id === id);
	if (!bake) throw new CommandError(`"${sheet.name}" has no such bake. Nothing was written.`);
	return deepPictureOf(workspace, sheet, (planes, rect) => {
		const ground = bakeGround(workspace.means, planes, sheet, bake, rect, 1);
		const fields = ground.surface ? bakeKindOf(bake).fields(bake, ground) : null;
		const values = fields?.map((at) => planes.floats(at, rect.width * rect.height)) ?? null;
		return { ground, values };
	});
}
