/** A pen's stroke: places in -0.5..0.5 of a square, pressure 0..1, lean 0 upright .. 1 flat, and its way in degrees. */
export interface PenStroke {
	readonly name: string;
	readonly words: string;
	/** Milliseconds from first to last place. */
	readonly time: number;
	readonly points: readonly (readonly [x: number, y: number, pressure: number, lean: number, way: number])[];
}

const line = (
	count: number,
	at: (t: number) => readonly [number, number, number, number, number],
): PenStroke['points'] => Array.from({ length: count + 1 }, (_, i) => at(i / count));
const { sin, cos, PI } = Math;

export const penStrokes: readonly PenStroke[] = [
	{
		name: 'Slow swell',
		words: 'From nothing to firm and back',
		time: 700,
		points: line(40, (t) => [t - 0.5, 0.18 * sin(2 * PI * t), sin(PI * t) ** 1.4, 0.25, 40]),
	},
	{
		name: 'Quick flick',
		words: 'Firm at once, gone in a flash',
		time: 160,
		points: line(14, (t) => [0.9 * t - 0.45, 0.25 - 0.5 * t * t, (1 - t) ** 0.7, 0.35, 60]),
	},
	{
		name: 'Leaned shading',
		words: 'To and fro with the side of the pen',
		time: 1100,
		points: line(72, (t) => [
			0.42 * cos(10 * PI * t) * (0.6 + 0.4 * t),
			0.8 * t - 0.4,
			0.35 + 0.25 * sin(20 * PI * t) ** 2,
			0.8,
			30,
		]),
	},
	{
		name: 'Turning wrist',
		words: 'A ring, the pen leaning outwards all round',
		time: 900,
		points: line(60, (t) => [
			0.38 * cos(2 * PI * t),
			0.38 * sin(2 * PI * t),
			0.6 + 0.3 * sin(6 * PI * t),
			0.55,
			360 * t,
		]),
	},
	{
		name: 'Trembling hand',
		words: 'Unsteady, to try the steadying dial',
		time: 900,
		points: line(64, (t) => [t - 0.5, 0.05 * sin(90 * t) + 0.03 * sin(170 * t + 1), 0.6, 0.3, 45]),
	},
];

const pause = (ms: number): Promise<void> => new Promise((done) => setTimeout(done, ms));

/** Plays a stroke over the middle of a view as pointer events of a pen; `share` of the view's shorter side wide. */
export async function playPen(stroke: PenStroke, view: 'model' | 'sheet', share: number): Promise<void> {
	const target = document.querySelector<HTMLElement>(`[data-view="${view}"]`);
	if (!target) return;
	const box = target.getBoundingClientRect();
	const side = Math.min(box.width, box.height) * share;
	const send = (type: string, [x, y, pressure, lean, way]: PenStroke['points'][number], buttons: number): void => {
		const turn = (way * PI) / 180;
		// Tilt of the pen's two sides from its lean and way (W3C Pointer Events 3, converting spherical angles).
		const flat = Math.tan((lean * PI) / 2.02);
		target.dispatchEvent(
			new PointerEvent(type, {
				bubbles: true,
				cancelable: true,
				pointerId: 1,
				pointerType: 'pen',
				isPrimary: true,
				button: type === 'pointermove' ? -1 : 0,
				buttons,
				clientX: box.left + box.width / 2 + x * side,
				clientY: box.top + box.height / 2 + y * side,
				pressure: buttons ? Math.max(0.001, pressure) : 0,
				tiltX: Math.round((Math.atan(flat * cos(turn)) * 180) / PI),
				tiltY: Math.round((Math.atan(flat * sin(turn)) * 180) / PI),
			}),
		);
	};
	const { points, time } = stroke;
	const start = performance.now();
	send('pointerdown', points[0] as PenStroke['points'][number], 1);
	for (const [i, point] of points.entries()) {
		const due = start + (time * i) / (points.length - 1);
		if (due > performance.now()) await pause(due - performance.now());
		send('pointermove', point, 1);
	}
	send('pointerup', points.at(-1) as PenStroke['points'][number], 0);
}
