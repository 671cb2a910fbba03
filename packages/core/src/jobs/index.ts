export type { CompositeWork } from './composite.ts';
export type { DeriveWork } from './derive.ts';
export type { JobHost, JobKind, Known, Word, Work } from './kind.ts';
export { type AnyMade, type AnyWork, createWorker, type JobWorker, jobKinds, type MadeOf } from './list.ts';
export { createPool, type FromMember, type Member, type Pool, type ToMember } from './pool.ts';
export type { Unwrapped, UnwrapWork } from './unwrap.ts';
