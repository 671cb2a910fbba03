import type { StencilDesk } from '@eppu/core/document';
import { shippedStencils } from '@eppu/core/stroke';
import { type PointerEvent, useEffect, useRef } from 'react';
import { choosePictures, useLibrary, useLibraryChange } from '../server/library.ts';
import { setDesk } from '../studio/desk.ts';
import { tell } from '../studio/line.ts';
import { useStencil } from '../studio/looks.ts';
import { useStudio } from '../studio/store.ts';
import { Button } from '../ui/Button.tsx';
import { Check } from '../ui/Check.tsx';
import { Choice } from '../ui/Choice.tsx';
import { type DialRow, Dials } from '../ui/Dials.tsx';
import { Hint } from '../ui/Hint.tsx';
import { Popover } from '../ui/Popover.tsx';
import { DropCross } from './KeptList.tsx';

const set = (change: Partial<StencilDesk>): void =>
	setDesk({ stencil: { ...useStudio.getState().desk.stencil, ...change } });

const rows: readonly DialRow<StencilDesk>[] = [
	[
		'scale',
		'Scale',
		0.02,
		8,
		0.5,
		'%',
		{ percent: true, ratio: true, hint: 'Its height, of the view’s (or the sheet’s)' },
	],
	['stretch', 'Stretch', 0.1, 10, 1, '%', { percent: true, ratio: true }],
	['turn', 'Turn', -180, 180, 0, '°'],
	['opacity', 'Opacity', 0, 1, 1, '%'],
	['soft', 'Soft', 0, 1, 0, '%'],
];

/** Takes a stencil up; taking up the one that is up puts it down. */
const take = (picture: string, tile: boolean): void => {
	const { stencil } = useStudio.getState().desk;
	tell({ say: 'need', picture });
	set(stencil.picture === picture && stencil.shown ? { picture: null } : { picture, tile, shown: true });
};

function Plate({
	picture,
	label,
	tile,
	small = false,
	onDrop,
}: {
	readonly picture: string;
	readonly label: string;
	readonly tile: boolean;
	readonly small?: boolean;
	readonly onDrop?: () => void;
}) {
	const canvas = useRef<HTMLCanvasElement>(null);
	const image = useStencil(picture, true);
	const mode = useStudio((state) => state.desk.stencil.mode);
	const chosen = useStudio((state) => state.desk.stencil.picture === picture && state.desk.stencil.shown);
	useEffect(() => {
		const context = canvas.current?.getContext('2d');
		if (!context || !image) return;
		context.globalCompositeOperation = 'source-over';
		context.clearRect(0, 0, 64, 64);
		if (mode === 'through') {
			// Its tone: light where paint goes through.
			context.drawImage(image, 0, 0, 64, 64);
			context.globalCompositeOperation = 'source-in';
			context.fillStyle = '#f2eee6';
			context.fillRect(0, 0, 64, 64);
			context.globalCompositeOperation = 'destination-over';
			context.fillStyle = '#26262a';
			context.fillRect(0, 0, 64, 64);
		} else context.drawImage(image, 0, 0, 64, 64);
	}, [image, mode]);
	return (
		<div className="relative">
			<Hint text={small ? `${label}: again puts it down` : label}>
				<button
					type="button"
					aria-pressed={chosen}
					aria-label={`Stencil ${label}`}
					onClick={() => take(picture, tile)}
					className={`cut-small block w-full overflow-hidden border-2 ${chosen ? 'border-pine outline-2 outline-soot' : 'border-transparent hover:border-ash'}`}
				>
					<canvas ref={canvas} width={64} height={64} className={small ? 'size-[40px]' : 'h-[60px] w-full'} />
					{!small && <span className="block truncate px-1 text-[12px]">{label}</span>}
				</button>
			</Hint>
			{onDrop && <DropCross label={label} onDrop={onDrop} />}
		</div>
	);
}

/** All stencils, and the exact dials of the one that is up. */
function StencilPanel() {
	const stencil = useStudio((state) => state.desk.stencil);
	const own = useLibrary('stencil');
	const { addPictures, remove } = useLibraryChange();
	const bring = async (): Promise<void> => {
		const [id] = await addPictures('stencil', await choosePictures(true));
		if (id) take(id, false);
	};
	return (
		<>
			<div className="grid grid-cols-6 gap-1.5">
				{shippedStencils.map(({ name, label, single }) => (
					<Plate key={name} picture={name} label={label} tile={!single} />
				))}
				{own.map(({ id, name }) => (
					<Plate key={id} picture={id} label={name} tile={false} onDrop={() => remove(id)} />
				))}
			</div>
			<div className="mt-2 mb-3 flex gap-2">
				<Button onClick={() => void bring()}>Picture as a stencil…</Button>
				<Button disabled={!stencil.picture} onClick={() => set({ picture: null })}>
					Put it down
				</Button>
				<Button onClick={() => set({ x: 0, y: 0, scale: 0.5, stretch: 1, turn: 0 })}>Straighten</Button>
			</div>
			<div className="grid grid-cols-2 gap-x-5">
				<Dials wide={false} of={{ ...stencil, turn: Math.round(stencil.turn) }} rows={rows} onChange={set} />
				<div className="flex items-center gap-3">
					<Check label="Repeat" value={stencil.tile} onChange={(tile) => set({ tile })} />
					<Check label="Invert" value={stencil.invert} onChange={(invert) => set({ invert })} />
				</div>
			</div>
			<div className="mt-2 flex items-center gap-2">
				<span className="text-[12px] text-ash">Lies</span>
				<Choice
					label="Lies"
					value={stencil.space}
					options={[
						['view', 'Over the view'],
						['sheet', 'On the sheet, as a pattern'],
					]}
					onChange={(space) => set({ space })}
				/>
			</div>
			<p className="mt-2 text-[12px] text-ash">
				Hold T: drag moves it, right drag turns it, the wheel scales it, Shift and wheel stretch it. It stays while the
				model turns.
			</p>
		</>
	);
}

const shownFirst = ['boards', 'shingles', 'scratches', 'honeycomb'];

/** The stencil under the hand. */
export function StencilBay() {
	const stencil = useStudio((state) => state.desk.stencil);
	const own = useLibrary('stencil');
	const up = stencil.picture;
	const all = [
		...shippedStencils.map(({ name, label, single }) => ({ picture: name, label, tile: !single })),
		...own.map(({ id, name }) => ({ picture: id, label: name, tile: false })),
	];
	// The one that is up comes first; the rest stay where they are.
	const first = [...new Set([...(up && !shownFirst.slice(0, 3).includes(up) ? [up] : []), ...shownFirst])].slice(0, 3);
	const turn = useRef<{ x: number; turn: number } | null>(null);
	const knob = {
		onPointerDown(event: PointerEvent<HTMLElement>) {
			event.currentTarget.setPointerCapture(event.pointerId);
			turn.current = { x: event.clientX, turn: stencil.turn };
		},
		onPointerMove(event: PointerEvent<HTMLElement>) {
			if (turn.current) set({ turn: Math.round(turn.current.turn + (event.clientX - turn.current.x) * 0.7) % 360 });
		},
		onPointerUp() {
			turn.current = null;
		},
	};
	return (
		<div className="w-[166px] border-r border-rule px-3 py-2 max-[1120px]:w-[96px] max-[1120px]:px-2">
			<div className="mb-1.5 flex h-[18px] items-center gap-1">
				<h2 className="bay-title min-w-0 flex-1">Stencil</h2>
				<Popover
					label="All stencils, and the dials of this one"
					panelClass="w-[520px]"
					className="cut-small px-1 text-[12px] hover:bg-bark"
					trigger="All"
				>
					<StencilPanel />
				</Popover>
			</div>
			<div className="flex gap-1 max-[1120px]:hidden">
				{first.map((picture) => {
					const found = all.find((each) => each.picture === picture);
					return found && <Plate key={picture} {...found} small />;
				})}
			</div>
			<div className="mt-2 flex items-center gap-1.5 max-[1120px]:hidden">
				<Choice
					label="Stencil mode"
					value={stencil.mode}
					options={[
						['through', 'Through'],
						['print', 'Print'],
					]}
					onChange={(mode) => set({ mode })}
				/>
				<button
					type="button"
					className="cut-small cursor-ew-resize touch-none bg-bark px-1.5 text-[12px] leading-5 hover:bg-bark-deep max-[1120px]:hidden"
					title="Drag to turn the stencil"
					aria-label={`Stencil turned by ${Math.round(stencil.turn)} degrees; drag or use arrow keys`}
					onKeyDown={(event) => {
						const by = { ArrowLeft: -5, ArrowRight: 5 }[event.key];
						if (by) set({ turn: (stencil.turn + by) % 360 });
					}}
					{...knob}
				>
					{Math.round(stencil.turn)}°
				</button>
			</div>
			<p className="mt-1 truncate text-[12px] text-ash max-[1120px]:hidden">
				{up ? 'Hold T to move it' : 'None is up'}
			</p>
		</div>
	);
}
