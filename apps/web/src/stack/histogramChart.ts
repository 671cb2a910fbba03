import { CategoryScale, Chart, Filler, LinearScale, LineController, LineElement, PointElement } from 'chart.js';

Chart.register(LineController, LineElement, PointElement, LinearScale, CategoryScale, Filler);

/** Neighbouring counts are taken together: a line of 64 places is calm and tells as much. */
const PLACES = 64;

export interface HistogramChart {
	/** Draws counts of 256 values each of tone, red, green and blue, one after the other. */
	show(counts: ArrayLike<number>): void;
	destroy(): void;
}

const line = (color: string, fill: boolean) => ({
	data: [] as number[],
	borderColor: color,
	backgroundColor: fill ? `${color}55` : undefined,
	fill,
	borderWidth: fill ? 0 : 1.2,
	pointRadius: 0,
	tension: 0.3,
});

/** An empty chart in a canvas, of its parent's size. */
export function histogramChart(canvas: HTMLCanvasElement): HistogramChart {
	const chart = new Chart(canvas, {
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
	const step = 256 / PLACES;
	return {
		show(counts) {
			chart.data.datasets.forEach((set, k) => {
				set.data = Array.from({ length: PLACES }, (_, i) => {
					let sum = 0;
					for (let n = 0; n < step; n++) sum += counts[k * 256 + i * step + n] as number;
					// Rare values are seen beside frequent ones.
					return Math.sqrt(sum);
				});
			});
			chart.update('none');
		},
		destroy: () => chart.destroy(),
	};
}
