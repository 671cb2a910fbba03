import { fileURLToPath } from 'node:url';

export const root = fileURLToPath(new URL('..', import.meta.url));
export const seedFile = fileURLToPath(new URL('./test-results/seed.db', import.meta.url));
export const runFile = (name: string): string => fileURLToPath(new URL(`./test-results/${name}`, import.meta.url));
