import type { Hex } from '@eppu/core/color';
import type { Project } from '@eppu/core/document';
import type { Bundle } from '@eppu/core/format';
import { type ColorPair, hexOfPacked, packedOf, pathHas, type Recolor } from '@eppu/core/pixel';
import { useEffect, useMemo, useState } from 'react';
import { type BundleColors, countColors, openTexture } from '../actions/bundle.ts';
import { tell } from '../studio/line.ts';
import { useStudio } from '../studio/store.ts';
import { Button } from '../ui/Button.tsx';
import { Mapping } from './Mapping.tsx';
import { Swatch } from './Swatch.tsx';

/** Colours that are shown, and that go onto the palette at once; and textures that are named. */
const [MOST_SHOWN, MOST_NAMED] = [160, 6];

/** The colours of the textures that were looked for, counted anew as they change. */
function useColors(bundle: Bundle, files: readonly number[], project: Project, known: ReadonlySet<number>) {
	const [found, setFound] = useState<{ readonly colors: BundleColors; readonly done: boolean } | null>(null);
	const { sheets, recolors } = project;
	useEffect(() => {
		let gone = false;
		void countColors(bundle, files, project, known, (colors, done) => {
			if (!gone) setFound({ colors, done });
			return !gone;
		});
		return () => {
			gone = true;
		};
	}, [bundle, files, recolors, sheets, known]);
	return found;
}

/** What all textures that were looked for are painted with; replaced, or brought onto the palette, in all of them at once. */
export function BundleColorsSection({
	bundle,
	files,
	asked,
	project,
	pend,
}: {
	readonly bundle: Bundle;
	/** Textures that were looked for, by these words. */
	readonly files: readonly number[];
	readonly asked: string;
	readonly project: Project;
	/** Shows in the list what would be. */
	readonly pend: (recolor: Recolor | null) => void;
}) {
	const front = useStudio((state) => state.desk.front);
	const { palette } = project;
	const known = useMemo(
		() => new Set([...palette.colors, ...(palette.ramps ?? []).flatMap((ramp) => ramp.colors)].map(packedOf)),
		[palette],
	);
	const found = useColors(bundle, files, project, known);
	const [chosen, setChosen] = useState<Hex | null>(null);
	const colors = found?.colors.colors ?? [];
	const used = useMemo(() => colors.slice(0, MOST_SHOWN).map(([color]) => hexOfPacked(color)), [colors]);
	const from = chosen && used.includes(chosen) ? chosen : null;
	useEffect(() => {
		pend(from && from !== front ? { pairs: [[from, front]], only: asked } : null);
	}, [from, front, asked]);
	useEffect(() => () => pend(null), []);
	const change = (pairs: readonly ColorPair[]): void => {
		const sheets = project.sheets.filter(({ path }) => path && pathHas(path, asked)).map(({ id }) => id);
		tell({ say: 'recolor', sheets, pairs, palette: null, only: asked });
		setChosen(null);
	};
	if (!found) return <p className="px-4 py-2 text-ash">Counting colours…</p>;
	const { strange, seen } = found.colors;
	const off = colors.filter(([color]) => !known.has(color)).length;
	const inAll = `in ${files.length} ${files.length === 1 ? 'texture' : 'textures'}`;
	return (
		<section aria-label="Colours of the textures" className="max-h-[46%] shrink-0 overflow-y-auto px-4 py-2">
			<p className="mb-1.5 text-ash" role="status">
				{found.done
					? `${colors.length} ${colors.length === 1 ? 'colour' : 'colours'} ${inAll}, ${off} not in the palette.`
					: `Counting colours: ${seen} of ${files.length}…`}
			</p>
			<div
				className="grid grid-cols-[repeat(auto-fill,minmax(24px,1fr))] gap-[3px]"
				role="group"
				aria-label="Colours of all textures"
			>
				{colors.slice(0, MOST_SHOWN).map(([color, texels, textures]) => {
					const hex = hexOfPacked(color);
					return (
						<Swatch
							key={hex}
							color={hex}
							words={`${hex}, ${texels} texels in ${textures} ${textures === 1 ? 'texture' : 'textures'}${known.has(color) ? '' : ', not in the palette'}`}
							chosen={hex === from}
							onClick={() => setChosen(hex === from ? null : hex)}
						/>
					);
				})}
			</div>
			{colors.length > MOST_SHOWN && (
				<p className="mt-1 text-[12px] text-ash">
					The {MOST_SHOWN} that are used most of {colors.length}.
				</p>
			)}
			<Button
				className="mt-1.5 !px-2 !py-0 !text-[12px]"
				disabled={!from || from === front}
				onClick={() => from && change([[from, front]])}
			>
				Replace it with the front pot {inAll}
			</Button>
			{strange.length > 0 && (
				<>
					<h3 className="bay-title mt-3 mb-1">Furthest from the palette</h3>
					<ul className="grid text-[12px]">
						{strange.slice(0, MOST_NAMED).map(([file, count, of]) => (
							<li key={file}>
								<button
									type="button"
									className="w-full truncate text-left hover:underline"
									onClick={() => void openTexture(bundle, file)}
								>
									{bundle.files[file]?.path}: {count} of {of}
								</button>
							</li>
						))}
					</ul>
				</>
			)}
			<Mapping
				used={used}
				palette={palette}
				change={change}
				seen={(pairs) => !from && pend(pairs.length ? { pairs, only: asked } : null)}
				words={(count) => `Change ${count} ${count === 1 ? 'colour' : 'colours'} ${inAll}`}
			/>
		</section>
	);
}
