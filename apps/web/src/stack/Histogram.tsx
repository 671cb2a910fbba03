import {
	BarController,
	BarElement,
	CategoryScale,
	Chart,
	Filler,
	LinearScale,
	LineController,
	LineElement,
	PointElement,
} from 'chart.js';
import { useEffect, useRef } from 'react';
import { question } from '../studio/line.ts';
import { useStudio } from '../studio/store.ts';

Chart.register(
	LineController,
	LineElement,
	PointElement,
	LinearScale,
	CategoryScale,
	Filler,
	BarController,
	BarElement,
);

/** Neighbouring counts are taken together: a line of 64 places is calm and tells as much. */
const PLACES = 64;

/** How often each tone and each channel's value occurs in a layer, or in what lies below an adjust layer. */
export function Histogram({ sheet, layer }: { readonly sheet: string; readonly layer: string }) {
	const canvas = useRef<HTMLCanvasElement>(null);
	const chart = useRef<Chart<'line', number[], number> | null>(null);
	const done = useStudio((state) => state.outline?.done);
	useEffect(() => {
		if (!canvas.current) return;
		const line = (color: string, fill: boolean) => ({
			data: [] as number[],
			borderColor: color,
			backgroundColor: fill ? `${color}55` : undefined,
			fill,
			borderWidth: fill ? 0 : 1.2,
			pointRadius: 0,
			tension: 0.3,
		});
		const made = new Chart(canvas.current, {
			type: 'line',
			data: {
				labels: Array.from({ length: PLACES }, (_, i) => i),
				datasets: [line('#8a8378', true), line('#b5403c', false), line('#3f8a4d', false), line('#3f66b0', false)],
			},
			options: {
				animation: false,
				responsive: true,
				maintainAspectRatio: false,
				events: [],
				plugins: { legend: { display: false }, tooltip: { enabled: false } },
				scales: { x: { display: false }, y: { display: false, beginAtZero: true } },
			},
		});
		chart.current = made;
		return () => {
			chart.current = null;
			made.destroy();
		};
	}, []);
	useEffect(() => {
		let gone = false;
		const timer = setTimeout(() => {
			void question<'histogram'>({ say: 'histogram', sheet, layer }).then((counts) => {
				const now = chart.current;
				if (gone || !now) return;
				const step = 256 / PLACES;
				now.data.datasets.forEach((set, k) => {
					set.data = Array.from({ length: PLACES }, (_, i) => {
						let sum = 0;
						for (let n = 0; n < step; n++) sum += counts[k * 256 + i * step + n] as number;
						// Rare values are seen beside frequent ones.
						return Math.sqrt(sum);
					});
				});
				now.update('none');
			});
		}, 120);
		return () => {
			gone = true;
			clearTimeout(timer);
		};
	}, [sheet, layer, done]);
	return (
		<div
			className="cut-small mb-2 h-[72px] bg-bark px-1 pt-1"
			role="img"
			aria-label="Histogram: tone, red, green and blue from dark to light"
		>
			<canvas ref={canvas} />
		</div>
	);
}
