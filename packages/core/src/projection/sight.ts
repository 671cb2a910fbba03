import type { Camera } from './camera.ts';
import type { Reach } from './view.ts';

/** A camera over a viewport of whole px. */
export interface Sight {
	readonly camera: Camera;
	readonly width: number;
	readonly height: number;
	/** What the brush reaches; what is seen, where it is left out. */
	readonly reach?: Reach;
	/** How much paint fades where the surface turns away, 0..1; not at all where it is left out. */
	readonly fade?: number;
}
