import { useMemo } from 'react';
import type { Draft } from '../input/useDrawn.ts';
import { useStudio } from '../studio/store.ts';

const pathOf = (line: ArrayLike<number>, closed: boolean): string => {
	let out = '';
	for (let i = 0; i < line.length; i += 2) out += `${i ? 'L' : 'M'}${line[i]} ${line[i + 1]}`;
	return closed && out ? `${out}Z` : out;
};

/** What is selected of a sheet, as a moving outline, and what is being drawn. `frame` maps its places to px of the view. */
export function DrawnOverlay({
	sheet,
	frame,
	draft,
}: {
	readonly sheet: string | null;
	readonly frame: { readonly scale: number; readonly x: number; readonly y: number };
	readonly draft: Draft | null;
}) {
	const selection = useStudio((state) => (sheet === null ? undefined : state.selections.get(sheet)));
	const selected = useMemo(() => selection?.lines.map((line) => pathOf(line, true)).join('') ?? '', [selection]);
	const drawn = draft ? draft.lines.map((line) => pathOf(line, draft.closed)).join('') : '';
	if (!selected && !drawn) return null;
	return (
		<svg className="pointer-events-none absolute inset-0 size-full" aria-hidden="true">
			<g transform={`translate(${frame.x} ${frame.y}) scale(${frame.scale})`} fill="none" strokeWidth="1.4">
				{[selected, drawn].map(
					(path, i) =>
						path && (
							<g key={i}>
								<path d={path} stroke="#16181a" vectorEffect="non-scaling-stroke" />
								<path
									d={path}
									stroke={i ? '#e9a23b' : '#f6f3ec'}
									strokeDasharray="5 5"
									vectorEffect="non-scaling-stroke"
									className={i ? undefined : 'ants'}
									data-selection={i ? undefined : 'outline'}
								/>
							</g>
						),
				)}
			</g>
			{draft &&
				draft.anchors.length > 0 &&
				Array.from({ length: draft.anchors.length / 2 }, (_, i) => (
					<circle
						key={i}
						cx={(draft.anchors[i * 2] as number) * frame.scale + frame.x}
						cy={(draft.anchors[i * 2 + 1] as number) * frame.scale + frame.y}
						r="4"
						fill={i ? '#fbf9f4' : '#e9a23b'}
						stroke="#16181a"
					/>
				))}
		</svg>
	);
}
