import { useState } from 'react';
import { type PaletteKind, paletteFile, paletteKinds } from '../../actions/paletteFiles.ts';
import { useStudio } from '../../studio/store.ts';
import { Choice } from '../../ui/Choice.tsx';
import { Bay, Frame, WriteBay } from './Frame.tsx';
import type { Writing } from './useWriting.ts';

/** The project's palette and its ramps, for other programs. */
export function PaletteOutput({ writing }: { readonly writing: Writing }) {
	const palette = useStudio((state) => state.outline?.project.palette);
	const [as, setAs] = useState<PaletteKind>('json');
	if (!palette) return null;
	const rows = palette.ramps?.length ? palette.ramps : [palette];
	return (
		<Frame
			middle={
				<ul aria-label="Colours" className="grid flex-1 content-start gap-3 overflow-y-auto p-4 sm:grid-cols-2">
					{rows.map(({ name, colors }) => (
						<li key={name} className="min-w-0">
							<div className="cut flex overflow-hidden border border-rule">
								{colors.map((color, i) => (
									<span key={i} className="h-10 flex-1" style={{ background: color }} title={color} />
								))}
							</div>
							<p className="mt-0.5 truncate text-[12px] text-ash">{name}</p>
						</li>
					))}
				</ul>
			}
		>
			<Bay title="Palette file" wide="w-[300px]">
				<Choice label="Palette file" value={as} options={paletteKinds} onChange={setAs} />
				<p className="text-ash">
					{as === 'json'
						? 'Design tokens: the colours in their order, and the ramps. Eppu takes it in again as it is.'
						: as === 'txt'
							? 'One colour a line, as #rrggbb.'
							: 'A strip of squares, one a colour, to sample from in any program.'}
				</p>
			</Bay>
			<WriteBay
				writing={writing}
				words="Write the palette"
				write={() =>
					void writing.write(
						[
							{
								name: palette.name,
								make: async () => ({ files: [await paletteFile(palette, as)], notes: [], text: null }),
							},
						],
						{ name: palette.name, what: `Palette ${palette.name}` },
					)
				}
			/>
		</Frame>
	);
}
