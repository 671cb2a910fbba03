import { hexOfRgb } from '@eppu/core/color';
import { GlobeSimpleIcon } from '@phosphor-icons/react/dist/csr/GlobeSimple';
import { MinusIcon } from '@phosphor-icons/react/dist/csr/Minus';
import { PaletteIcon } from '@phosphor-icons/react/dist/csr/Palette';
import { PlusIcon } from '@phosphor-icons/react/dist/csr/Plus';
import { XIcon } from '@phosphor-icons/react/dist/csr/X';
import { type PointerEvent, useEffect, useRef, useState } from 'react';
import { libraryCanvas } from '../server/library.ts';
import { setFront } from '../studio/desk.ts';
import { useStudio } from '../studio/store.ts';
import { PulledColors } from './PulledColors.tsx';

/** Mean colour of a square of a canvas around a place, in its px. */
function colorAt(canvas: HTMLCanvasElement, x: number, y: number, size: number): string | null {
	const context = canvas.getContext('2d', { willReadFrequently: true });
	const data = context?.getImageData(Math.floor(x - size / 2), Math.floor(y - size / 2), size, size).data;
	if (!data) return null;
	const sum = [0, 0, 0, 0];
	for (let i = 0; i < data.length; i += 4)
		for (let k = 0; k < 4; k++)
			sum[k] = (sum[k] as number) + (k === 3 ? 1 : (data[i + 3] as number) / 255) * (data[i + k] as number);
	const all = (sum[3] as number) / 255;
	return all > 0 ? hexOfRgb(sum.slice(0, 3).map((v) => v / all)) : null;
}

const MOST_ZOOM = 8;
const clampZoom = (zoom: number): number => Math.min(MOST_ZOOM, Math.max(1, zoom));

/**
 * A picture on the board: pressed it gives its colour to the front pot; the wheel with Ctrl or Alt comes nearer, Space or
 * the right button drags what is near.
 */
export function Reference({
	id,
	name,
	forAll,
	onShare,
	onDrop,
}: {
	readonly id: string;
	readonly name: string;
	/** Seen in all projects, not in this one alone. */
	readonly forAll: boolean;
	readonly onShare: () => void;
	readonly onDrop: () => void;
}) {
	const holder = useRef<HTMLDivElement>(null);
	const scroller = useRef<HTMLDivElement>(null);
	const canvas = useRef<HTMLCanvasElement | null>(null);
	const size = useStudio((state) => state.desk.sampling.size);
	const [zoom, setZoom] = useState(1);
	const [pulling, setPulling] = useState<ImageData | null>(null);
	useEffect(() => {
		let gone = false;
		void libraryCanvas(id)
			.then((made) => {
				if (gone || !holder.current) return;
				made.className = 'block w-full';
				canvas.current = made;
				holder.current.replaceChildren(made);
			})
			.catch(() => undefined);
		return () => {
			gone = true;
		};
	}, [id]);
	const sample = (event: PointerEvent): void => {
		const box = canvas.current?.getBoundingClientRect();
		if (!canvas.current || !box) return;
		if (event.buttons & 6) {
			scroller.current?.scrollBy(-event.movementX, -event.movementY);
			return;
		}
		if (!(event.buttons & 1)) return;
		const k = canvas.current.width / box.width;
		const color = colorAt(canvas.current, (event.clientX - box.left) * k, (event.clientY - box.top) * k, size);
		if (color) setFront(color);
	};
	const pull = (): void => {
		const made = canvas.current;
		const data = made?.getContext('2d', { willReadFrequently: true })?.getImageData(0, 0, made.width, made.height);
		setPulling(pulling ? null : (data ?? null));
	};
	const small = 'cut-small grid size-6 shrink-0 place-items-center hover:bg-bark';
	return (
		<figure className="mb-3 break-inside-avoid" data-reference={name}>
			<div
				ref={scroller}
				className="cut-small max-h-[60vh] overflow-auto bg-view"
				onContextMenu={(event) => event.preventDefault()}
				onWheel={(event) => {
					if (event.ctrlKey || event.altKey) setZoom(clampZoom(zoom * 1.002 ** -event.deltaY));
				}}
			>
				<div
					ref={holder}
					style={{ width: `${zoom * 100}%` }}
					className="cursor-crosshair"
					onPointerDown={(event) => {
						event.currentTarget.setPointerCapture(event.pointerId);
						sample(event);
					}}
					onPointerMove={sample}
				/>
			</div>
			<figcaption className="flex items-center pt-1 text-[12px]">
				<span className="min-w-0 flex-1 truncate text-ash" title={name}>
					{name}
				</span>
				<button
					type="button"
					className={small}
					aria-label={`Nearer to ${name}`}
					onClick={() => setZoom(clampZoom(zoom * 1.5))}
				>
					<PlusIcon size={13} />
				</button>
				<button
					type="button"
					className={small}
					aria-label={`Farther from ${name}`}
					onClick={() => setZoom(clampZoom(zoom / 1.5))}
				>
					<MinusIcon size={13} />
				</button>
				<button
					type="button"
					className={`${small} ${pulling ? 'text-pine' : ''}`}
					aria-label={`Colours of ${name}`}
					aria-pressed={pulling !== null}
					title="Pull a palette out of it"
					onClick={pull}
				>
					<PaletteIcon size={15} weight={pulling ? 'fill' : 'regular'} />
				</button>
				<button
					type="button"
					className={`${small} ${forAll ? 'text-pine' : ''}`}
					aria-label={`${name} in all projects`}
					aria-pressed={forAll}
					title={forAll ? 'Seen in all projects; keep it to this one' : 'Seen in this project; show it in all'}
					onClick={onShare}
				>
					<GlobeSimpleIcon size={15} weight={forAll ? 'fill' : 'regular'} />
				</button>
				<button
					type="button"
					className={`${small} text-ash hover:text-lingon`}
					aria-label={`Take ${name} away`}
					onClick={onDrop}
				>
					<XIcon size={13} />
				</button>
			</figcaption>
			{pulling && <PulledColors name={name} data={pulling.data} />}
		</figure>
	);
}
