import { coverJob, pictureJob, readMap } from '../format/index.ts';
import { textureJob } from '../handoff/index.ts';
import { type AnyJobKind, composite, derive, inflate, readMesh, readPng, thumbnails, unwrap } from '../jobs/index.ts';

/** All that a member of the pool can do: a new kind of job is a line here. */
export const crafts: readonly AnyJobKind[] = [
	composite,
	derive,
	unwrap,
	inflate,
	readMesh,
	readPng,
	readMap,
	thumbnails,
	pictureJob,
	coverJob,
	textureJob,
];
