export { type CompositeWork, composite } from './composite.ts';
export { type DeriveWork, derive } from './derive.ts';
export { type Inflated, type InflateWork, inflate, joinedBytes, partsOfBytes } from './inflate.ts';
export type { AnyJobKind, Codecs, JobHost, JobKind, Known, Word, Work } from './kind.ts';
export { createPool, type FromMember, type Member, type Pool, type ToMember } from './pool.ts';
export { type ReadMeshWork, readMesh } from './readMesh.ts';
export { type ThumbnailsWork, thumbnails, thumbnailsIn } from './thumbnails.ts';
export { type Unwrapped, type UnwrapWork, unwrap } from './unwrap.ts';
export { createWorker, type Done, type JobWorker, once } from './worker.ts';
