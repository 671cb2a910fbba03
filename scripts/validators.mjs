// Compiles the shapes of what is kept to plain modules: a strict content policy allows no code made at run time.
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';

export const shapesSource = 'packages/core/src/document/shapes.ts';
export const validators = 'packages/core/src/document/gen/validators.js';

/** The shapes as plain data: they stand beside what they describe, all over core. */
async function readShapes(root, build) {
	const folder = await mkdtemp(join(tmpdir(), 'eppu-shapes-'));
	try {
		const outfile = join(folder, 'shapes.mjs');
		await build({
			entryPoints: [join(root, shapesSource)],
			bundle: true,
			platform: 'node',
			format: 'esm',
			outfile,
			logLevel: 'error',
		});
		return await import(pathToFileURL(outfile).href);
	} finally {
		await rm(folder, { recursive: true, force: true });
	}
}

export async function makeValidators(root) {
	const { default: Ajv } = await import('ajv');
	const { default: standalone } = await import('ajv/dist/standalone/index.js');
	const { build } = await import('esbuild');
	const { shapes, validated } = await readShapes(root, build);
	const ajv = new (Ajv.default ?? Ajv)({
		code: { source: true, esm: true },
		schemas: shapes,
		discriminator: true,
		inlineRefs: false,
	});
	// Of an error only its place and its words are told: the rest would be most of the module.
	const source = (standalone.default ?? standalone)(ajv, validated).replace(
		/schemaPath:"(?:[^"\\]|\\.)*",keyword:"[^"]*",params:\{[^{}]*\},/g,
		'',
	);
	await build({
		stdin: { contents: source, resolveDir: root },
		bundle: true,
		format: 'esm',
		minify: false,
		outfile: join(root, validators),
		logLevel: 'error',
	});
}
