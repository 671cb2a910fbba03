import { useEffect, useRef, useState } from 'react';
import { question } from '../studio/line.ts';
import { useStudio } from '../studio/store.ts';
import type { HistogramChart } from './histogramChart.ts';

/** How often each tone and each channel's value occurs in a layer, or in what lies below an adjust layer. */
export function Histogram({ sheet, layer }: { readonly sheet: string; readonly layer: string }) {
	const canvas = useRef<HTMLCanvasElement>(null);
	const [chart, setChart] = useState<HistogramChart | null>(null);
	const done = useStudio((state) => state.outline?.done);
	useEffect(() => {
		let made: HistogramChart | null = null;
		let gone = false;
		// What draws charts is large, and not wanted before there is one.
		void import('./histogramChart.ts').then(({ histogramChart }) => {
			if (gone || !canvas.current) return;
			made = histogramChart(canvas.current);
			setChart(made);
		});
		return () => {
			gone = true;
			made?.destroy();
		};
	}, []);
	useEffect(() => {
		if (!chart) return;
		let gone = false;
		const timer = setTimeout(() => {
			void question<'histogram'>({ say: 'histogram', sheet, layer }).then((counts) => !gone && chart.show(counts));
		}, 120);
		return () => {
			gone = true;
			clearTimeout(timer);
		};
	}, [chart, sheet, layer, done]);
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
