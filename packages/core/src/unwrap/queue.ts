/** A smallest-first queue of numbers. */
export function createQueue(): { push(value: number, cost: number): void; pop(): number | undefined } {
	const heap: { value: number; cost: number }[] = [];
	return {
		push(value, cost) {
			let i = heap.length;
			heap.push({ value, cost });
			while (i > 0) {
				const up = (i - 1) >> 1;
				if ((heap[up] as { cost: number }).cost <= cost) break;
				heap[i] = heap[up] as { value: number; cost: number };
				i = up;
			}
			heap[i] = { value, cost };
		},
		pop() {
			const first = heap[0];
			const last = heap.pop();
			if (!first || !last || heap.length === 0) return first?.value;
			let i = 0;
			for (;;) {
				let down = i * 2 + 1;
				if (down >= heap.length) break;
				const [l, r] = [heap[down] as { cost: number }, heap[down + 1]];
				if (r && r.cost < l.cost) down++;
				if ((heap[down] as { cost: number }).cost >= last.cost) break;
				heap[i] = heap[down] as { value: number; cost: number };
				i = down;
			}
			heap[i] = last;
			return first.value;
		},
	};
}
