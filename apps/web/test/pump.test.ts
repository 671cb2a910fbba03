/** What is shown goes to the page as fast as that takes it, and no faster. */
import type { Engine } from '@eppu/core/engine';
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import type { FromStudio } from '../src/studio/protocol.ts';
import { createPump } from '../src/workers/pump.ts';

/** A channel that holds no process open. */
class Channel {
	readonly port1: { onmessage: (() => void) | null } = { onmessage: null };
	readonly port2 = { postMessage: () => void setTimeout(() => this.port1.onmessage?.()) };
}
const real = globalThis.MessageChannel;
beforeAll(() => {
	globalThis.MessageChannel = Channel as unknown as typeof MessageChannel;
});
afterAll(() => {
	globalThis.MessageChannel = real;
});
const rest = (ms: number): Promise<void> => new Promise((next) => setTimeout(next, ms));

test('a page that takes nothing is sent some patches and then none; all tiles come once it takes them, and then it is told', async () => {
	const heap = { alloc: () => 0, free: () => {}, u8: new Uint8Array(64 * 64 * 4) };
	const sheet = { id: 's', width: 4096, height: 2048 };
	let times = 0;
	const engine = {
		kernels: { heap },
		project: { sheets: [sheet] },
		due: false,
		compositeTile: () => void times++,
		compositeWork: () => null,
	} as unknown as Engine;
	const heard: FromStudio[] = [];
	const pump = createPump(
		(message) => void heard.push(message),
		() => engine,
		() => null,
	);
	const patches = (): Extract<FromStudio, { say: 'patch' }>[] =>
		heard.flatMap((each) => (each.say === 'patch' ? [each] : []));
	pump.addAll(sheet as never, 100, 100);
	await rest(150);
	const first = patches().length;
	expect(first).toBeGreaterThan(2);
	await rest(150);
	expect(patches()).toHaveLength(first);
	expect(heard.some(({ say }) => say === 'settled')).toBe(false);
	expect(pump.busy).toBe(true);
	// What is due again while it waits is made once, as it is then.
	pump.addAll(sheet as never, 100, 100);
	await rest(50);
	expect(patches()).toHaveLength(first);
	// A stroke waits for nobody.
	pump.addNow(new Map([['s', [5]]]));
	expect(patches().at(-1)?.tiles).toEqual(Uint32Array.of(5));
	let taken = 0;
	for (let n = 0; n < 200 && !heard.some(({ say }) => say === 'settled'); n++) {
		while (taken < patches().length) {
			taken++;
			pump.taken();
		}
		await rest(5);
	}
	expect(heard.at(-1)?.say).toBe('settled');
	expect(new Set(patches().flatMap(({ tiles }) => [...tiles])).size).toBe(64 * 32);
	// Those that were out before it was due again, all tiles once, and the stroke's.
	expect(times).toBe(first * 48 + 64 * 32);
	// Until the page has them all, what waits for the hand to rest waits too.
	expect(pump.busy).toBe(taken < patches().length);
	for (; taken < patches().length; taken++) pump.taken();
	expect(pump.busy).toBe(false);
});

test('while the hand strokes less is on its way before what it lays; then it goes on', async () => {
	const heap = { alloc: () => 0, free: () => {}, u8: new Uint8Array(64 * 64 * 4) };
	const sheet = { id: 's', width: 4096, height: 2048 };
	const engine = {
		kernels: { heap },
		project: { sheets: [sheet] },
		due: false,
		stroking: true,
		compositeTile: () => undefined,
		compositeWork: () => null,
	};
	const heard: FromStudio[] = [];
	const pump = createPump(
		(message) => void heard.push(message),
		() => engine as unknown as Engine,
		() => null,
	);
	const count = (): number => heard.filter(({ say }) => say === 'patch').length;
	pump.addAll(sheet as never, 100, 100);
	await rest(100);
	expect(count()).toBe(2);
	pump.taken();
	await rest(50);
	expect(count()).toBe(3);
	engine.stroking = false;
	pump.taken();
	await rest(100);
	expect(count()).toBeGreaterThan(6);
	pump.clear();
});
