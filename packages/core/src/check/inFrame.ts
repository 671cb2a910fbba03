import type { Check, Finding } from './kind.ts';
import { boxOf, heldIn } from './look.ts';

export const inFrame: Check = {
	name: 'in-frame',
	label: 'Small in its frame, or off its middle',
	threshold: { label: 'Fills', least: 0, most: 1, usual: 0.6, percent: true },
	find({ picture: { width, height, data } }, threshold) {
		const box = boxOf(heldIn({ width, height, data }));
		if (!box) return [];
		const out: Finding[] = [];
		const [dx, dy] = [Math.round((width - box.width) / 2) - box.x, Math.round((height - box.height) / 2) - box.y];
		const share = Math.max(box.width / width, box.height / height);
		if (share < threshold) {
			// By whole numbers, so that every texel stays one.
			const times = Math.floor(Math.min(width / box.width, height / box.height));
			const [left, top] = [Math.floor((width - box.width * times) / 2), Math.floor((height - box.height * times) / 2)];
			out.push({
				text: `It fills ${Math.round(share * 100)} of 100 of its frame.`,
				place: box,
				mend:
					times > 1
						? {
								label: `Make it ${times} times as large`,
								edit: {
									do: 'transform',
									map: [times, 0, left - box.x * times, 0, times, top - box.y * times],
									smooth: false,
								},
							}
						: null,
			});
		}
		if (Math.abs(dx) > 1 || Math.abs(dy) > 1)
			out.push({
				text: `It stands ${Math.max(Math.abs(dx), Math.abs(dy))} texels off its middle.`,
				place: box,
				mend: { label: 'Move it there', edit: { do: 'transform', map: [1, 0, dx, 0, 1, dy], smooth: false } },
			});
		return out;
	},
};
