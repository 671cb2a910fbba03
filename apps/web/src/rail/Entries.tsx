import type { Hex, Palette } from '@eppu/core/color';
import { eachLayer, type Layer, layerOf, type Project, type Sheet } from '@eppu/core/document';
import { useEffect, useRef, useState } from 'react';
import { holdColors, pointAtEntries } from '../actions/layers.ts';
import { setFront } from '../studio/desk.ts';
import { question, tell } from '../studio/line.ts';
import { activeLayerId, useStudio } from '../studio/store.ts';
import { Button } from '../ui/Button.tsx';
import { EntryDials } from './EntryDials.tsx';
import { Swatch } from './Swatch.tsx';

const texels = (count = 0): string => `${count} ${count === 1 ? 'texel' : 'texels'}`;
const points = (layer: Layer): boolean => 'entries' in layer && Boolean(layer.entries);

/** How many texels of a sheet point at each entry; told anew when the project or what it is told `when` changes. */
function useEntryUses(project: Project, sheet: Sheet, any: boolean, when: unknown): readonly number[] {
	const [uses, setUses] = useState<readonly number[]>([]);
	useEffect(() => {
		if (!any) return;
		let current = true;
		void question<'entry-uses'>({ say: 'entry-uses', sheet: sheet.id }).then((found) => current && setUses(found));
		return () => {
			current = false;
		};
	}, [project, sheet.id, any, when]);
	return uses;
}

/** The palette with another colour at one place, and in its ramps where no other entry has the colour that goes. */
function turnedAt(
	palette: Palette,
	place: number,
	own: Hex,
	to: Hex,
): { readonly next: Palette; readonly alone: boolean } {
	const alone = palette.colors.every((hex, i) => i === place || hex !== own);
	const swap = (list: readonly Hex[]): Hex[] => list.map((hex) => (hex === own ? to : hex));
	const ramps =
		alone && palette.ramps ? { ramps: palette.ramps.map((ramp) => ({ ...ramp, colors: swap(ramp.colors) })) } : {};
	return { next: { ...palette, colors: palette.colors.map((hex, i) => (i === place ? to : hex)), ...ramps }, alone };
}

/** The palette's entries as what texels point at: each is turned by itself, and all that points at it goes along. */
export function Entries({
	project,
	sheet,
	when,
}: {
	readonly project: Project;
	readonly sheet: Sheet;
	/** Another where the picture changed. */
	readonly when: unknown;
}) {
	const layer = layerOf(
		sheet,
		useStudio((state) => activeLayerId(state, sheet)),
	);
	const [place, setPlace] = useState<number | null>(null);
	const basis = useRef<{ gesture: string; palette: Palette }>({ gesture: '', palette: project.palette });
	const any = [...eachLayer(sheet.layers)].some(points);
	const uses = useEntryUses(project, sheet, any, when);
	const { colors } = project.palette;
	const color = place === null ? undefined : colors[place];
	const turn = (own: Hex, to: Hex, gesture: string): void => {
		if (place === null) return;
		if (basis.current.gesture !== gesture) basis.current = { gesture, palette: project.palette };
		const { next, alone } = turnedAt(basis.current.palette, place, own, to);
		// What is no layer that points goes along by its colour, where that is this entry's alone.
		const pairs = alone ? [[own, to] as const] : [];
		const sheets = project.sheets.filter(({ pixel }) => pixel).map(({ id }) => id);
		const bundle = alone && project.bundle ? { only: '' } : {};
		tell({ say: 'recolor', sheets, pairs, palette: next, ...bundle, gesture, turned: true });
	};
	const can = layer?.kind === 'paint' && !layer.locked && !layer.loose;
	return (
		<section className="mt-4">
			<h3 className="bay-title mb-1">Entries</h3>
			{layer && points(layer) ? (
				<p className="mb-1.5 text-ash">
					The texels of "{layer.name}" point at entries: they hold their colours alone.{' '}
					<Button className="!px-2 !py-0 !text-[12px]" onClick={() => holdColors(sheet, layer)}>
						Let it hold any colour
					</Button>
				</p>
			) : (
				<Button
					className="!px-2 !py-0 !text-[12px]"
					disabled={!can || !colors.length}
					title="Each texel takes the nearest entry’s colour, and follows it from then on"
					onClick={() => layer && pointAtEntries(sheet, layer)}
				>
					{layer ? `Point "${layer.name}" at entries` : 'Choose a paint layer to point at entries'}
				</Button>
			)}
			{any && (
				<div
					className="mt-1 grid grid-cols-[repeat(auto-fill,minmax(24px,1fr))] gap-[3px]"
					role="group"
					aria-label="Entries of the palette"
				>
					{colors.map((hex, i) => (
						<Swatch
							// Two entries may have one colour: the place tells them apart.
							key={`${i} ${hex}`}
							color={hex}
							words={`Entry ${i + 1}, ${hex}, ${texels(uses[i])}`}
							chosen={i === place}
							onClick={() => {
								setPlace(i);
								setFront(hex);
							}}
						/>
					))}
				</div>
			)}
			{any && color && place !== null && (
				<>
					<p className="mt-1.5 text-ash">
						Entry {place + 1}, {color}: {texels(uses[place])} of this sheet
					</p>
					<EntryDials key={place} color={color} change={turn} />
				</>
			)}
		</section>
	);
}
