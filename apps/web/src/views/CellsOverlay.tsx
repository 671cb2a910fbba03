import type { Sheet } from '@eppu/core/document';
import { cellAt } from '@eppu/core/wash';
import { cellsShown, useStudio } from '../studio/store.ts';

/** The cells of a colour grid over its sheet: their borders, spare places, and the one that is chosen. */
export function CellsOverlay({
	sheet,
	frame,
}: {
	readonly sheet: Sheet;
	readonly frame: { readonly scale: number; readonly x: number; readonly y: number };
}) {
	const cells = useStudio(cellsShown);
	const chosen = useStudio((state) => (state.tool === 'cells' ? state.cell : null));
	const over = useStudio((state) => state.cellOver);
	if (!cells) return null;
	const { cols, rows } = cells;
	const [w, h] = [(sheet.width * frame.scale) / cols, (sheet.height * frame.scale) / rows];
	const places = Array.from({ length: cols * rows }, (_, i) => ({ col: i % cols, row: Math.floor(i / cols) }));
	return (
		<svg className="pointer-events-none absolute inset-0 size-full" aria-hidden="true">
			<defs>
				<pattern id="spare-place" width="8" height="8" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
					<line x1="0" y1="0" x2="0" y2="8" stroke="rgb(20 18 15 / 0.28)" strokeWidth="3" />
				</pattern>
			</defs>
			<g transform={`translate(${frame.x} ${frame.y})`}>
				{places.map(({ col, row }) => (
					<rect
						key={`${col} ${row}`}
						x={col * w}
						y={row * h}
						width={w}
						height={h}
						fill={cellAt(cells, col, row) ? 'none' : 'url(#spare-place)'}
						stroke="rgb(20 18 15 / 0.35)"
					/>
				))}
				{chosen && chosen.col < cols && chosen.row < rows && (
					<g fill="none">
						<rect x={chosen.col * w} y={chosen.row * h} width={w} height={h} stroke="#26231e" strokeWidth="5" />
						<rect x={chosen.col * w} y={chosen.row * h} width={w} height={h} stroke="#e9a23b" strokeWidth="2.5" />
					</g>
				)}
				{over && (
					<g fill="none">
						<rect x={over.col * w} y={over.row * h} width={w} height={h} stroke="#f3efe6" strokeWidth="5" />
						<rect
							x={over.col * w}
							y={over.row * h}
							width={w}
							height={h}
							stroke="#26231e"
							strokeWidth="2.5"
							strokeDasharray="6 4"
						/>
					</g>
				)}
			</g>
		</svg>
	);
}
