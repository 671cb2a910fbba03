/** Work that can wait leaves the processor to a hand that strokes. */
import type { Kernels } from '@eppu/kernels';
import { afterEach, describe, expect, jest, test } from '@jest/globals';
import { createHand, patientKernels } from '../src/workers/hand.ts';

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
