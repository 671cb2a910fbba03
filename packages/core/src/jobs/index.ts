export type { CompositeWork } from './composite.ts';
export type { JobHost, JobKind, Work } from './kind.ts';
export { type AnyMade, type AnyWork, createWorker, jobKinds } from './list.ts';
export { createPool, type FromMember, type Member, type Pool, type ToMember } from './pool.ts';
