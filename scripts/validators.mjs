// Compiles the document's schemas to plain modules: a strict content policy allows no code made at run time.
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';

export const schemaSource = 'packages/core/src/document/schema.js';
export const validators = 'packages/core/src/document/gen/validators.js';

export async function makeValidators(root) {
	const { default: Ajv } = await import('ajv');
	const { default: standalone } = await import('ajv/dist/standalone/index.js');
	const { build } = await import('esbuild');
	const { common, project, desk, preset, palette, recipe } = await import(pathToFileURL(join(root, schemaSource)).href);
	const ajv = new (Ajv.default ?? Ajv)({
		code: { source: true, esm: true },
		schemas: [common, project, desk, preset, palette, recipe],
		discriminator: true,
		inlineRefs: false,
	});
	const source = (standalone.default ?? standalone)(ajv, {
		project: 'project',
		desk: 'desk',
		preset: 'preset',
		palette: 'palette',
		recipe: 'recipe',
	});
	await build({
		stdin: { contents: source, resolveDir: root },
		bundle: true,
		format: 'esm',
		minify: false,
		outfile: join(root, validators),
		logLevel: 'error',
	});
}
