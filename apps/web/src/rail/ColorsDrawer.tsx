import { colorsOfPicture, type Hex, type Palette, shiftedRamp } from '@eppu/core/color';
import type { Sheet } from '@eppu/core/document';
import { colorMapping, colorsOfTexels, hexOfPacked } from '@eppu/core/pixel';
import { useEffect, useRef, useState } from 'react';
import { setFront } from '../studio/desk.ts';
import { pictures } from '../studio/hears.ts';
import { tell } from '../studio/line.ts';
import { run } from '../studio/say.ts';
import { activeSheet, useStudio } from '../studio/store.ts';
import { Button } from '../ui/Button.tsx';
import { Choice } from '../ui/Choice.tsx';
import { Dials } from '../ui/Dials.tsx';
import type { DrawerKind } from './drawer.ts';
import { Entries } from './Entries.tsx';
import { EntryDials } from './EntryDials.tsx';
import { Mapping } from './Mapping.tsx';
import { RampRow } from './RampRow.tsx';
import { Swatch } from './Swatch.tsx';

const small = '!px-2 !py-0 !text-[12px]';

/** The colours of the active sheet's picture, the most used first; told anew when it rests. */
function useColorsUsed(): { readonly colors: readonly (readonly [Hex, number])[]; readonly half: number } {
	const sheet = useStudio(activeSheet);
	const picture = sheet ? pictures.get(sheet.id) : undefined;
	const [used, setUsed] = useState<ReturnType<typeof useColorsUsed>>({ colors: [], half: 0 });
	useEffect(() => {
		if (!picture) return;
		let timer = 0;
		const count = (): void => {
			const found = colorsOfTexels(picture.data);
			setUsed({
				colors: found.colors.slice(0, 256).map(([color, texels]) => [hexOfPacked(color), texels] as const),
				half: found.half,
			});
		};
		count();
		const stop = picture.watch(() => {
			clearTimeout(timer);
			timer = window.setTimeout(count, 200);
		});
		return () => {
			stop();
			clearTimeout(timer);
		};
	}, [picture]);
	return used;
}

type Reach = 'sheet' | 'all';

/** Ramps of the palette, and the one that is being made between the pots. */
function Ramps({ palette }: { readonly palette: Palette }) {
	const { front, back } = useStudio((state) => state.desk);
	const [spec, setSpec] = useState({ count: 6, shift: 12, lively: 0.15 });
	const made = shiftedRamp({ through: [back, front], ...spec });
	const ramps = palette.ramps ?? [];
	const set = (next: typeof ramps, more: readonly Hex[] = []): void =>
		run({
			do: 'palette.set',
			palette: {
				...palette,
				colors: [...palette.colors, ...more.filter((hex) => !palette.colors.includes(hex))].slice(0, 512),
				ramps: next,
			},
		});
	return (
		<section className="mt-4">
			<h3 className="bay-title mb-1">Ramps</h3>
			<ul className="grid gap-1">
				{ramps.map((each, i) => (
					<RampRow
						key={`${each.name}${i}`}
						ramp={each}
						change={(next) => set(ramps.map((ramp) => (ramp === each ? next : ramp)))}
						drop={() => set(ramps.filter((ramp) => ramp !== each))}
					/>
				))}
			</ul>
			<h3 className="bay-title mt-3 mb-1">From back pot to front pot</h3>
			<div className="mb-1.5 flex gap-px">
				{made.map((hex, k) => (
					<Swatch key={`${hex}${k}`} color={hex} words={`Step ${k + 1}: ${hex}`} onClick={() => setFront(hex)} />
				))}
			</div>
			<div className="grid gap-1">
				<Dials
					of={spec}
					rows={[
						['count', 'Steps', 2, 16, 6, '', { whole: true }],
						['shift', 'Hue swing', -60, 60, 12, '°', { hint: 'The dark end one way, the light end the other' }],
						[
							'lively',
							'Middle',
							-1,
							1,
							0.15,
							'%',
							{ percent: true, hint: 'How much livelier the middle is than the ends' },
						],
					]}
					onChange={(change) => setSpec({ ...spec, ...change })}
				/>
			</div>
			<Button
				className="mt-1.5"
				disabled={ramps.length >= 64}
				onClick={() => set([...ramps, { name: `Ramp ${ramps.length + 1}`, colors: made }], made)}
			>
				Add the ramp
			</Button>
		</section>
	);
}

/** So many colours that stand for the picture become the palette, and it gets them. */
function Fewer({ sheet, any }: { readonly sheet: Sheet; readonly any: boolean }) {
	const [count, setCount] = useState<'4' | '8' | '16' | '32'>('8');
	const reduce = (): void => {
		const picture = pictures.get(sheet.id);
		if (!picture) return;
		const few = colorsOfPicture(picture.data, Number(count));
		const all = colorsOfTexels(picture.data).colors.map(([color]) => hexOfPacked(color));
		const next = { name: `${sheet.name} ${few.length}`.slice(0, 120), colors: few };
		tell({ say: 'recolor', sheets: [sheet.id], pairs: colorMapping(all, few, 'near'), palette: next });
	};
	return (
		<section className="mt-4">
			<h3 className="bay-title mb-1">Fewer colours</h3>
			<div className="flex items-center gap-2">
				<Choice
					label="How many"
					value={count}
					options={[
						['4', '4'],
						['8', '8'],
						['16', '16'],
						['32', '32'],
					]}
					onChange={setCount}
				/>
				<Button className={small} disabled={!any} onClick={reduce}>
					Make them the palette
				</Button>
			</div>
		</section>
	);
}

/** The colours that a sheet uses: told, replaced, and brought onto the palette; and the ramps that tones go along. */
export function ColorsDrawer() {
	const sheet = useStudio(activeSheet);
	const project = useStudio((state) => state.outline?.project);
	const front = useStudio((state) => state.desk.front);
	const { colors, half } = useColorsUsed();
	const [chosen, setChosen] = useState<Hex | null>(null);
	/** What a colour was made to be: it is told of a moment later. */
	const [turned, setTurned] = useState<Hex | null>(null);
	/** The palette as it was when the hand began to turn a colour. */
	const basis = useRef<{ gesture: string; palette: Palette }>({ gesture: '', palette: { name: '', colors: [] } });
	const [reach, setReach] = useState<Reach>('sheet');
	if (!sheet || !project) return null;
	const { palette } = project;
	const known = new Set([...palette.colors, ...(palette.ramps ?? []).flatMap((ramp) => ramp.colors)]);
	const sheets = reach === 'all' ? project.sheets.filter(({ pixel }) => pixel).map(({ id }) => id) : [sheet.id];
	const used = colors.map(([hex]) => hex);
	const strange = used.filter((hex) => !known.has(hex)).length;
	const from = chosen && (used.includes(chosen) || chosen === turned) ? chosen : null;
	/** The palette's own place goes along, so that all items of it are recoloured. */
	const become = (own: Hex, to: Hex, gesture = ''): void => {
		if (!gesture || basis.current.gesture !== gesture) basis.current = { gesture, palette };
		const before = basis.current.palette;
		const swap = (list: readonly Hex[]): Hex[] => list.map((hex) => (hex === own ? to : hex));
		const next = {
			...before,
			colors: swap(before.colors),
			...(before.ramps ? { ramps: before.ramps.map((ramp) => ({ ...ramp, colors: swap(ramp.colors) })) } : {}),
		};
		const bundle = reach === 'all' && project.bundle ? { only: '' } : {};
		const one = gesture ? { gesture } : {};
		tell({
			say: 'recolor',
			sheets,
			pairs: [[own, to]],
			palette: reach === 'all' ? next : null,
			turned: true,
			...bundle,
			...one,
		});
		setChosen(to);
		setTurned(to);
	};
	return (
		<>
			<h2 className="px-4 pt-3 pb-2 text-[15px] font-bold">Colours</h2>
			<div className="min-h-0 flex-1 overflow-y-auto px-4 pb-4">
				<p className="mb-1.5 text-ash">
					{colors.length === 0
						? 'Nothing is drawn yet.'
						: `${colors.length} ${colors.length === 1 ? 'colour' : 'colours'}, ${strange} not in the palette${half ? `, ${half} texels half there` : ''}.`}
				</p>
				<div
					className="grid grid-cols-[repeat(auto-fill,minmax(24px,1fr))] gap-[3px]"
					role="group"
					aria-label="Colours used"
				>
					{colors.map(([hex, texels]) => (
						<Swatch
							key={hex}
							color={hex}
							words={`${hex}, ${texels} texels${known.has(hex) ? '' : ', not in the palette'}`}
							chosen={hex === from}
							onClick={() => setChosen(hex)}
						/>
					))}
				</div>
				<div className="mt-2">
					<Choice
						label="Where colours are changed"
						value={reach}
						options={[
							['sheet', 'This sheet'],
							['all', project.bundle ? 'All textures and the palette' : 'All pixel sheets and the palette'],
						]}
						onChange={setReach}
					/>
				</div>
				<div className="mt-1.5 flex flex-wrap gap-1">
					<Button className={small} disabled={!from || from === front} onClick={() => from && become(from, front)}>
						Replace it with the front pot
					</Button>
					<Button className={small} disabled={!from} onClick={() => from && setFront(from)}>
						Take it up
					</Button>
				</div>
				{from && (
					<>
						<h3 className="bay-title mt-3">Turn {from}</h3>
						<EntryDials color={from} change={become} />
					</>
				)}
				{sheet.pixel && <Entries project={project} sheet={sheet} when={colors} />}
				<Mapping
					used={used}
					palette={palette}
					change={(pairs) => tell({ say: 'recolor', sheets, pairs, palette: null })}
				/>
				<Fewer sheet={sheet} any={colors.length > 0} />
				<Ramps palette={palette} />
			</div>
		</>
	);
}

export const colorsDrawer: DrawerKind = {
	name: 'colors',
	label: 'Colours',
	asks: 'Colours and ramps drawer',
	Drawer: ColorsDrawer,
	beside: true,
};
