/**
 * What it costs the server to give a large project: 30 full layers of 4096². Prints the time to the first byte and to
 * the last, the most memory that the server held, and how long others waited meanwhile.
 * Usage: tsx bench/largeProject.ts [LAYERS]
 */
import { spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { deflateRawSync } from 'node:zlib';
import { apiaryPalette } from '@eppu/core/color';
import { paintLayer } from '@eppu/core/document';
import type { PackedTile } from '@eppu/core/format';
import { openSourceStore } from '@eppu/server/store';

const LAYERS = Number(process.argv[2] ?? 30);
const SIDE = 4096;
const TILES = (SIDE / 64) ** 2;
const folder = mkdtempSync(join(tmpdir(), 'eppu-large-'));
const file = join(folder, 'large.db');
const store = openSourceStore(file);
const layers = Array.from({ length: LAYERS }, (_, i) => paintLayer(`l${i}`, `Layer ${i}`));
store.create(
	{
		schema: 1,
		id: 'large',
		name: 'Large',
		palette: apiaryPalette,
		models: [],
		sheets: [{ id: 's', name: 'S', width: SIDE, height: SIDE, bleed: 8, base: null, guide: null, layers }],
	},
	[],
);
/** A painted tile, each another: soft tones with grain, some 5 KB deflated. */
const raw = new Uint8Array(16384);
const tile = (surface: string, index: number): PackedTile => {
	let state = (index * 2654435761 + surface.charCodeAt(1) * 97 + surface.length) >>> 0 || 1;
	for (let i = 0; i < 16384; i += 4) {
		state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
		const v = 90 + (i >> 9) + (state >>> 29);
		raw[i] = v;
		raw[i + 1] = v - 20;
		raw[i + 2] = v - 50;
		raw[i + 3] = 255;
	}
	const hash = createHash('sha256').update(raw).digest('hex');
	return { surface, index, count: 1, value: null, hash, blob: deflateRawSync(raw, { level: 1 }) };
};
let revision = 1;
const { project } = store.load('large');
let bytes = 0;
for (const { id } of layers) {
	const tiles = Array.from({ length: TILES }, (_, i) => tile(id, i));
	bytes += tiles.reduce((sum, each) => sum + (each.blob?.length ?? 0), 0);
	store.save('large', { base: revision++, save: `fill-${id}-000`, content: id, project, tiles });
}
store.close();

const port = 4390;
const url = `http://127.0.0.1:${port}`;
const server = spawn(process.execPath, ['apps/server/dist/main.js'], {
	env: { ...process.env, EPPU_DATA: file, EPPU_PORT: String(port) },
	stdio: 'ignore',
});
const up = async (): Promise<boolean> =>
	fetch(`${url}/api/health`).then(
		(answer) => answer.ok,
		() => false,
	);
while (!(await up())) await new Promise((done) => setTimeout(done, 200));
const memory = (): number =>
	Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${server.pid}/status`, 'utf8'))?.[1]) / 1024;
const before = memory();
let longest = 0;
let going = true;
const others = (async () => {
	while (going) {
		const from = performance.now();
		await (await fetch(`${url}/api/projects`)).arrayBuffer();
		longest = Math.max(longest, performance.now() - from);
		await new Promise((done) => setTimeout(done, 50));
	}
})();
const from = performance.now();
const reader = ((await fetch(`${url}/api/projects/large`)).body as ReadableStream<Uint8Array>).getReader();
await reader.read();
const first = performance.now() - from;
let got = 0;
for (let part = await reader.read(); !part.done; part = await reader.read()) got += part.value.length;
const all = performance.now() - from;
going = false;
await others;
console.log(
	`${LAYERS} layers of ${SIDE}²: ${Math.round(bytes / 1048576)} MB of texels; first byte ${Math.round(first)} ms, all ${(all / 1000).toFixed(1)} s (${Math.round(got / 1048576)} MB); others waited ${Math.round(longest)} ms at the most; the server held ${Math.round(memory())} MB at the most (${Math.round(before)} MB before)`,
);
server.kill();
rmSync(folder, { recursive: true, force: true });
