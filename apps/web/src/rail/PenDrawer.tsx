import { useState } from 'react';
import { useStudio } from '../studio/store.ts';
import { Button } from '../ui/Button.tsx';
import { Choice } from '../ui/Choice.tsx';
import type { DrawerKind } from './drawer.ts';
import { penStrokes, playPen } from './penStrokes.ts';

/** A pen for tables without one: recorded strokes with pressure and lean, played through real pointer events. */
export function PenDrawer() {
	const hasModel = useStudio((state) => state.models.length > 0);
	const layout = useStudio((state) => state.layout);
	const [view, setView] = useState<'model' | 'sheet'>(hasModel ? 'model' : 'sheet');
	const [playing, setPlaying] = useState<string | null>(null);
	const [size, setSize] = useState<'small' | 'wide'>('wide');
	const shown = layout === 'both' || layout === view;
	return (
		<>
			<h2 className="px-4 pt-3 pb-1 text-[15px] font-bold">Pen stand-in</h2>
			<p className="px-4 pb-2 text-[12px] text-ash">
				Plays a recorded pen over the middle of a view, pressure and lean and all, to try tips with no tablet at hand.
			</p>
			<div className="flex flex-col gap-2 px-4 pb-3">
				<Choice
					label="Plays on"
					value={view}
					options={[
						['model', 'Model'],
						['sheet', 'Sheet'],
					]}
					onChange={setView}
				/>
				<Choice
					label="How wide"
					value={size}
					options={[
						['small', 'Small'],
						['wide', 'Wide'],
					]}
					onChange={setSize}
				/>
			</div>
			<ul className="min-h-0 flex-1 overflow-y-auto px-3 pb-3">
				{penStrokes.map((stroke) => (
					<li key={stroke.name} className="mb-2 flex items-center gap-3 rounded bg-sheet p-2">
						<svg viewBox="-0.6 -0.6 1.2 1.2" className="size-11 shrink-0" aria-hidden="true">
							{stroke.points.slice(1).map(([x, y, pressure], i) => (
								<line
									key={i}
									x1={(stroke.points[i] as readonly number[])[0]}
									y1={(stroke.points[i] as readonly number[])[1]}
									x2={x}
									y2={y}
									stroke="var(--soot)"
									strokeLinecap="round"
									strokeWidth={0.02 + 0.1 * pressure}
								/>
							))}
						</svg>
						<div className="min-w-0 flex-1">
							<p className="truncate font-semibold">{stroke.name}</p>
							<p className="text-[12px] text-ash">{stroke.words}</p>
						</div>
						<Button
							look="main"
							disabled={playing !== null || !shown}
							aria-label={`Play ${stroke.name}`}
							onClick={async () => {
								setPlaying(stroke.name);
								await playPen(stroke, view, size === 'wide' ? 0.6 : 0.25);
								setPlaying(null);
							}}
						>
							{playing === stroke.name ? '…' : 'Play'}
						</Button>
					</li>
				))}
			</ul>
		</>
	);
}

export const penDrawer: DrawerKind = {
	name: 'pen',
	label: 'Pen',
	asks: 'Pen stand-in drawer',
	Drawer: PenDrawer,
};
