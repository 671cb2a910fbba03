// Makes what is built before anything else runs: the kernels' WebAssembly and the compiled document schema.
// Each is made only where its sources are newer than what was made.
import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

const root = fileURLToPath(new URL('..', import.meta.url));
const newest = (folder) =>
	Math.max(...readdirSync(join(root, folder)).map((name) => statSync(join(root, folder, name)).mtimeMs));
const stale = (made, ...sources) =>
	!existsSync(join(root, made)) || statSync(join(root, made)).mtimeMs < Math.max(...sources);

const wasm = 'packages/kernels/build/kernels.wasm';
if (stale(wasm, newest('packages/kernels/assembly'))) {
	mkdirSync(join(root, 'packages/kernels/build'), { recursive: true });
	const options =
		'-O3 --noAssert --runtime stub --enable simd --enable threads --enable bulk-memory --importMemory --sharedMemory --initialMemory 64 --maximumMemory 65536 --memoryBase 1024 --disableWarning 112';
	execFileSync(
		process.execPath,
		[
			join(root, 'node_modules/assemblyscript/bin/asc.js'),
			'packages/kernels/assembly/index.ts',
			'-o',
			wasm,
			...options.split(' '),
		],
		{ cwd: root, stdio: 'inherit' },
	);
	console.log(`made ${wasm}, ${statSync(join(root, wasm)).size} bytes`);
}

const { makeFonts, fonts } = await import('./fonts.mjs');
if (stale(fonts, statSync(join(root, 'scripts/fonts.mjs')).mtimeMs)) {
	await makeFonts(root);
	console.log(`made ${fonts}`);
}

// Shapes stand beside what they describe, all over core.
const sources = (folder) =>
	readdirSync(join(root, folder), { withFileTypes: true }).flatMap((entry) =>
		entry.isDirectory()
			? entry.name === 'gen'
				? []
				: sources(`${folder}/${entry.name}`)
			: [statSync(join(root, folder, entry.name)).mtimeMs],
	);
const { makeValidators, validators } = await import('./validators.mjs');
if (stale(validators, ...sources('packages/core/src'))) {
	await makeValidators(root);
	console.log(`made ${validators}`);
}

// Results that are kept are of use only to the very code that made them: a name for it, by what it says.
const filesOf = (folder) =>
	readdirSync(join(root, folder), { withFileTypes: true })
		.sort((a, b) => (a.name < b.name ? -1 : 1))
		.flatMap((entry) =>
			entry.isDirectory()
				? entry.name === 'gen'
					? []
					: filesOf(`${folder}/${entry.name}`)
				: [`${folder}/${entry.name}`],
		);
const code = createHash('sha256');
for (const file of [...filesOf('packages/core/src'), ...filesOf('packages/kernels/assembly'), fonts])
	code.update(file).update(readFileSync(join(root, file)));
const version = 'packages/core/src/derive/gen/version.js';
const says = `export const madeWith = '${code.digest('hex').slice(0, 24)}';\n`;
if (!existsSync(join(root, version)) || readFileSync(join(root, version), 'utf8') !== says) {
	mkdirSync(join(root, 'packages/core/src/derive/gen'), { recursive: true });
	writeFileSync(join(root, version), says);
	console.log(`made ${version}`);
}
