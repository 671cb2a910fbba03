// Checks the types of every part of the project.
import { spawnSync } from 'node:child_process';

const parts = [
	'packages/kernels',
	'packages/core',
	'apps/server',
	'apps/cli',
	'apps/web',
	'apps/web/tsconfig.worker.json',
	'demo',
	'e2e',
	'tsconfig.test.json',
];
const failed = parts.filter(
	(part) => spawnSync(process.execPath, ['node_modules/ts7/bin/tsc', '-p', part], { stdio: 'inherit' }).status !== 0,
);
if (failed.length) {
	console.error(`types do not hold in: ${failed.join(', ')}`);
	process.exit(1);
}
