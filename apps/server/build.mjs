// Bundles the server with our own packages inside and the packages of others left outside.
import { fileURLToPath } from 'node:url';
import { build } from 'esbuild';

const place = (path) => fileURLToPath(new URL(path, import.meta.url));
const othersOutside = {
	name: 'others-outside',
	setup(build) {
		build.onResolve({ filter: /^[^./#]/ }, (given) =>
			given.path.startsWith('@eppu/') ? undefined : { path: given.path, external: true },
		);
	},
};
await build({
	entryPoints: { main: place('./src/main.ts') },
	bundle: true,
	platform: 'node',
	target: 'node20',
	format: 'esm',
	outdir: place('./dist'),
	sourcemap: true,
	plugins: [othersOutside],
});
