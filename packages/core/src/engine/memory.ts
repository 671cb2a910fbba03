import { MemoryFullError } from '@eppu/kernels';
import { eachLayer, type Project, type Sheet, surfacesOfLayer } from '../document/index.ts';
import { hasTexels, type Kind, type Surface, type SurfaceId, tileBytes } from '../surface/index.ts';

/** Room that is left free whatever is begun: what is small always goes on. */
const SPARE = 16 * 1024 * 1024;

/** Bytes that a change of all of a sheet may need: its tiles anew, while those before are kept for undo. */
export const roomForSheet = (sheet: Sheet | undefined): number =>
	SPARE + (sheet ? Math.ceil(sheet.width / 64) * Math.ceil(sheet.height / 64) * tileBytes('color') : 0);

/** Bytes that the next steps of a stroke may need. */
export const ROOM_FOR_SAMPLES = 2 * SPARE;

/** What to say where the memory is full: which layer on which sheet holds most. */
export function memoryWords(project: Project, surfaces: ReadonlyMap<SurfaceId, Surface>): string {
	const bytesOf = (id: SurfaceId): number => {
		const surface = surfaces.get(id);
		return surface
			? surface.kinds.reduce((sum, kind) => sum + (hasTexels(kind as Kind) ? tileBytes(surface.format) : 0), 0)
			: 0;
	};
	let most = { bytes: 0, layer: '', sheet: project.sheets[0] };
	for (const sheet of project.sheets)
		for (const layer of eachLayer(sheet.layers)) {
			if ('layers' in layer) continue;
			const bytes = surfacesOfLayer(layer).reduce((sum, { id }) => sum + bytesOf(id), 0);
			if (bytes > most.bytes) most = { bytes, layer: layer.name, sheet };
		}
	const way =
		most.bytes > 0
			? `"${most.layer}" on "${most.sheet?.name}" holds most, ${Math.round(most.bytes / 1048576)} MB: merge or delete it, or make that sheet smaller.`
			: 'Close other tabs, or make a sheet smaller.';
	return `The memory of this tab is full, so that was not begun; all that is shown is kept. ${way}`;
}

export const isMemoryFull = (error: unknown): boolean => error instanceof MemoryFullError;
