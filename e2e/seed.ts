import { execFileSync } from 'node:child_process';
import { mkdirSync, rmSync } from 'node:fs';
import { root, seedFile } from './paths.ts';

/** Paints the demo projects once into a data file that each journey copies. */
export default function seed(): void {
	rmSync(new URL('./test-results', import.meta.url), { recursive: true, force: true });
	mkdirSync(new URL('./test-results', import.meta.url), { recursive: true });
	execFileSync('npx', ['--no-install', 'tsx', 'demo/seed.ts', seedFile], { cwd: root, stdio: 'inherit' });
}
