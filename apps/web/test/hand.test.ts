/** Work that can wait leaves the processor to a hand that strokes. */
import type { Kernels } from '@eppu/kernels';
import { afterEach, describe, expect, jest, test } from '@jest/globals';
import { frameFor, setStrokesOn } from '../src/input/strokesOn.ts';
import { afterRest } from '../src/views/sheetTextures.ts';
import { createHand, patientKernels } from '../src/workers/hand.ts';
import { createProgress } from '../src/workers/settling.ts';

afterEach(() => {
	jest.useRealTimers();
	Object.assign(globalThis, { crossOriginIsolated: false });
});

describe('the hand', () => {
	test('it strokes for a while after each word of it, and no longer', () => {
		jest.useFakeTimers();
		Object.assign(globalThis, { crossOriginIsolated: true });
		const { word, strokes } = createHand();
		if (!word) throw new Error('no memory is shared');
		expect(word[0]).toBe(0);
		strokes();
		jest.advanceTimersByTime(500);
		strokes();
		jest.advanceTimersByTime(500);
		expect(word[0]).toBe(1);
		jest.advanceTimersByTime(500);
		expect(word[0]).toBe(0);
	});
	test('it is about to stroke while it moves over a view, not while it rests there', () => {
		jest.useFakeTimers();
		Object.assign(globalThis, { crossOriginIsolated: true });
		const { word, points } = createHand();
		points({ x: 3, y: 4 });
		expect(word?.[0]).toBe(1);
		for (let i = 0; i < 10; i++) {
			jest.advanceTimersByTime(100);
			points({ x: 3, y: 4 });
		}
		expect(word?.[0]).toBe(0);
		points(null);
		expect(word?.[0]).toBe(0);
		points({ x: 3, y: 5 });
		expect(word?.[0]).toBe(1);
	});
	test('where no memory can be shared nobody waits', () => {
		const { word, strokes } = createHand();
		expect(word).toBeNull();
		expect(strokes).not.toThrow();
	});
});

describe('patient kernels', () => {
	const made = (word: Int32Array, patient: () => boolean) => {
		const run = { add: (a: number, b: number) => a + b, memory: { buffer: 1 } };
		const kernels = { heap: { own: true }, run } as unknown as Kernels;
		return patientKernels(kernels, word, patient) as unknown as { heap: unknown; run: typeof run };
	};
	const word = (value: number): Int32Array => {
		const out = new Int32Array(new SharedArrayBuffer(4));
		out[0] = value;
		return out;
	};
	test('they do what the kernels do, at once, while the hand is still or the work is not to wait', () => {
		expect(made(word(0), () => true).run.add(2, 3)).toBe(5);
		expect(made(word(1), () => false).run.add(2, 3)).toBe(5);
		expect(made(word(0), () => true).run.memory).toEqual({ buffer: 1 });
	});
	test('a call waits as long as the hand strokes', () => {
		const flag = word(1);
		let asked = 0;
		const kernels = made(flag, () => {
			if (++asked === 3) flag[0] = 0;
			return true;
		});
		expect(kernels.run.add(2, 3)).toBe(5);
		expect(asked).toBe(3);
	});
});

describe('the view that the hand is not on', () => {
	/** Frames of a screen, 16 ms apart. */
	const frames = (): { next: () => void; now: () => number } => {
		let [now, n] = [1000, 0];
		const waiting = new Map<number, (at: number) => void>();
		Object.assign(globalThis, {
			requestAnimationFrame(call: (at: number) => void) {
				waiting.set(++n, call);
				return n;
			},
			cancelAnimationFrame: (id: number) => waiting.delete(id),
		});
		return {
			now: () => now,
			next() {
				now += 16;
				const calls = [...waiting.values()];
				waiting.clear();
				for (const call of calls) call(now);
			},
		};
	};
	afterEach(() => setStrokesOn(null));
	test('it is drawn less often where the processor draws, and never later than is said; its own view at once', () => {
		const screen = frames();
		const drawn: string[] = [];
		const ask = (name: 'model' | 'sheet', software: boolean, at = screen.now()) =>
			frameFor(name, software, at, () => void drawn.push(name));
		setStrokesOn('sheet');
		ask('sheet', true);
		ask('model', false);
		ask('model', true);
		screen.next();
		expect(drawn).toEqual(['sheet', 'model']);
		for (let i = 0; i < 9; i++) screen.next();
		expect(drawn).toEqual(['sheet', 'model']);
		for (let i = 0; i < 3; i++) screen.next();
		expect(drawn).toEqual(['sheet', 'model', 'model']);
	});
	test('while the hand strokes one view is drawn a frame', () => {
		const screen = frames();
		const drawn: string[] = [];
		const ask = (name: 'model' | 'sheet') => frameFor(name, true, 0, () => void drawn.push(name));
		setStrokesOn('sheet');
		ask('sheet');
		ask('model');
		screen.next();
		expect(drawn).toEqual(['sheet']);
		screen.next();
		expect(drawn).toEqual(['sheet', 'model']);
		setStrokesOn(null);
		ask('sheet');
		ask('model');
		screen.next();
		expect(drawn).toHaveLength(4);
	});
	test('a stroke that ends lets it be drawn at the next frame; what was stopped is not drawn', () => {
		const screen = frames();
		let drawn = 0;
		setStrokesOn('model');
		frameFor('sheet', true, screen.now(), () => void drawn++);
		const stop = frameFor('sheet', true, screen.now(), () => void drawn++);
		screen.next();
		stop();
		setStrokesOn(null);
		screen.next();
		expect(drawn).toBe(1);
	});
});

test('what was touched is settled one by one once all of it rests', () => {
	jest.useFakeTimers();
	const settled: string[] = [];
	const { touched, stop } = afterRest<string>((each) => void settled.push(each));
	touched('large');
	jest.advanceTimersByTime(200);
	touched('small');
	jest.advanceTimersByTime(200);
	touched(null);
	jest.advanceTimersByTime(200);
	expect(settled).toEqual([]);
	jest.advanceTimersByTime(30);
	expect(settled).toEqual(['large']);
	jest.advanceTimersByTime(100);
	expect(settled).toEqual(['large', 'small']);
	touched('large');
	stop();
	jest.advanceTimersByTime(1000);
	expect(settled).toHaveLength(2);
});

test('how far computing is is told now and then, and not while the hand strokes', () => {
	jest.useFakeTimers();
	const told: unknown[] = [];
	const progress = createProgress((message) => void told.push(message));
	expect(progress.due).toBe(true);
	progress.say({ left: 3, bakeStates: () => [] }, 8, false);
	expect(told).toEqual([{ say: 'computing', left: 3, all: 8, halted: false, bakes: [] }]);
	expect(progress.due).toBe(false);
	jest.advanceTimersByTime(250);
	expect(progress.due).toBe(true);
	progress.stroked();
	jest.advanceTimersByTime(650);
	expect(progress.due).toBe(false);
	jest.advanceTimersByTime(100);
	expect(progress.due).toBe(true);
});
