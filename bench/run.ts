/** Measures what docs name as figures, as ratios to a copy of a 2048² RGBA8 buffer in the same run. */
import { mkdirSync, writeFileSync } from 'node:fs';
import { cpus } from 'node:os';
import { fileURLToPath } from 'node:url';
import { loadKernels } from '@eppu/kernels/node';
import type { Row } from './measure.ts';
import { compositeRows, floor, strokeRows } from './rows.ts';

const rows: Row[] = [];
let floorMs = await floor();
const only = process.argv.slice(2);
/** The floor is timed again beside each row: other work on the machine comes and goes. */
const report = async (name: string, ms: number, bar: number | null, note?: string): Promise<void> => {
	floorMs = (floorMs + (await floor())) / 2;
	const ratio = ms / floorMs;
	const row: Row = {
		name,
		ms: round(ms),
		floorMs: round(floorMs),
		ratio: round(ratio),
		bar,
		holds: bar === null ? null : ratio <= bar,
		...(note ? { note } : {}),
	};
	rows.push(row);
	const kept = row.holds === null ? '' : row.holds ? 'holds' : 'MISSED';
	console.log(
		`${name.padEnd(34)} ${row.ms.toFixed(3).padStart(10)} ms ${row.ratio.toFixed(3).padStart(9)} ×  bar ${String(bar ?? '–').padStart(5)}  ${kept.padEnd(6)} ${note ?? ''}`,
	);
};
const round = (v: number): number => Math.round(v * 10000) / 10000;

const kernels = await loadKernels();
console.log(`floor ${floorMs.toFixed(3)} ms · ${cpus()[0]?.model} × ${cpus().length} · node ${process.version}`);
const bytes = await strokeRows(kernels, report);
const megabytes = bytes / 1e6;
rows.push({
	name: 'undo.bytes',
	ms: 0,
	floorMs: round(floorMs),
	ratio: round(megabytes),
	bar: 0.7,
	holds: megabytes <= 0.7,
	note: 'ratio is MB kept for the stroke of stroke.flat.64, before compression',
});
console.log(
	`${'undo.bytes'.padEnd(34)} ${megabytes.toFixed(3).padStart(10)} MB`.padEnd(60),
	`bar   0.7  ${megabytes <= 0.7 ? 'holds' : 'MISSED'}`,
);
if (!only.includes('strokes')) await compositeRows(kernels, report);

mkdirSync(fileURLToPath(new URL('./results', import.meta.url)), { recursive: true });
if (only.length === 0)
	writeFileSync(new URL('./results/latest.json', import.meta.url), `${JSON.stringify(rows, null, '\t')}\n`);
