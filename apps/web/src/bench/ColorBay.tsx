import { hexOfHsv, hexOfOklch, hsvOfHex, oklchOfHex } from '@eppu/core/color';
import { SwapIcon } from '@phosphor-icons/react/dist/csr/Swap';
import { setDesk, setFront, swapPots } from '../studio/desk.ts';
import { run } from '../studio/say.ts';
import { paintsMask, pots, useStudio } from '../studio/store.ts';
import { Hint } from '../ui/Hint.tsx';
import { Popover } from '../ui/Popover.tsx';
import { HsvPad } from './HsvPad.tsx';
import { OklchPad } from './OklchPad.tsx';
import { PaletteMenu } from './PaletteMenu.tsx';

/** Pots, pad and palette. */
export function ColorBay() {
	const front = useStudio((state) => pots(state).front);
	const back = useStudio((state) => pots(state).back);
	const onMask = useStudio(paintsMask);
	const recent = useStudio((state) => state.desk.recent);
	const kind = useStudio((state) => state.desk.pad);
	const palette = useStudio((state) => state.outline?.project.palette);
	const keep = (): void => {
		if (palette && !palette.colors.includes(front))
			run({ do: 'palette.set', palette: { ...palette, colors: [...palette.colors, front] } });
	};
	return (
		<div className="flex min-w-0 gap-3 overflow-hidden px-3 py-2">
			<div className="flex w-[62px] shrink-0 flex-col items-center">
				<h2 className="bay-title mb-1.5 self-start">{onMask ? 'Mask' : 'Pots'}</h2>
				<div className="relative h-[60px] w-[62px]">
					<span
						className="absolute right-0 bottom-0 size-8 rounded-full border-[3px] border-sheet ring-1 ring-rule"
						style={{ background: back }}
						role="img"
						aria-label={`Back pot ${back}`}
					/>
					<span
						className="absolute top-0 left-0 size-11 rounded-full border-[3px] border-sheet ring-1 ring-rule"
						style={{ background: front }}
						role="img"
						aria-label={`Front pot ${front}`}
					/>
				</div>
				<Hint text="Swap the pots" keys="Z">
					<button
						type="button"
						aria-label="Swap the pots"
						className="cut-small mt-0.5 p-0.5 hover:bg-bark"
						onClick={() => swapPots()}
					>
						<SwapIcon size={16} />
					</button>
				</Hint>
			</div>
			<div className="w-[118px] shrink-0">
				<div className="mb-1.5 flex items-center justify-between gap-1">
					<Hint text={kind === 'oklch' ? 'To the HSV pad' : 'To the OKLCH pad'}>
						<button
							type="button"
							className="bay-title cut-small px-0.5 hover:bg-bark"
							onClick={() => setDesk({ pad: kind === 'oklch' ? 'hsv' : 'oklch' })}
						>
							{kind === 'oklch' ? 'OKLCH' : 'HSV'}
						</button>
					</Hint>
					<input
						key={front}
						aria-label="Front pot as hex"
						defaultValue={front}
						maxLength={7}
						className="w-[62px] rounded bg-transparent text-right text-[12px] hover:bg-sheet focus:bg-sheet"
						onKeyDown={(event) => {
							event.stopPropagation();
							const typed = event.currentTarget.value.trim().toLowerCase();
							if (event.key === 'Enter' && /^#?[0-9a-f]{6}$/.test(typed))
								setDesk({ front: typed.startsWith('#') ? typed : `#${typed}` });
						}}
					/>
				</div>
				{kind === 'oklch' ? (
					<OklchPad color={oklchOfHex(front)} onChange={(next) => setFront(hexOfOklch(next))} />
				) : (
					<HsvPad color={hsvOfHex(front)} onChange={(next) => setFront(hexOfHsv(next))} />
				)}
			</div>
			<div className="min-w-0 flex-1">
				<div className="mb-1.5 flex items-center gap-1">
					<h2 className="bay-title min-w-0 flex-1 truncate">{palette?.name}</h2>
					<Hint text="Add the front pot to the palette">
						<button type="button" className="cut-small px-1.5 text-[12px] hover:bg-bark" onClick={keep}>
							Add
						</button>
					</Hint>
					<Popover
						label="Tones, ramps and palettes"
						panelClass="w-[330px]"
						className="cut-small px-1.5 text-[12px] hover:bg-bark"
						trigger="More"
					>
						<PaletteMenu />
					</Popover>
				</div>
				<div
					className="grid max-h-[66px] grid-cols-6 gap-[3px] overflow-y-auto p-px min-[1180px]:grid-cols-12"
					role="listbox"
					aria-label="Palette"
				>
					{palette?.colors.map((hex, i) => (
						<button
							key={`${hex}${i}`}
							type="button"
							role="option"
							aria-selected={hex === front}
							aria-label={hex}
							title={i < 8 ? `${hex} (${i + 1})` : hex}
							onClick={() => setFront(hex)}
							className={`cut-small h-[19px] min-w-0 border ${hex === front ? 'border-2 border-soot' : 'border-black/15'}`}
							style={{ background: hex }}
						/>
					))}
				</div>
				<div className="mt-1.5 flex h-[15px] gap-[3px] overflow-hidden" role="group" aria-label="Recent colours">
					{recent.map((hex) => (
						<button
							key={hex}
							type="button"
							aria-label={`Recent ${hex}`}
							title={hex}
							onClick={() => setFront(hex)}
							className="cut-small h-full w-[22px] shrink-0 border border-black/15"
							style={{ background: hex }}
						/>
					))}
				</div>
			</div>
		</div>
	);
}
