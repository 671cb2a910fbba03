import { hexOfRgb } from '@eppu/core/color';
import { type DragEvent, type PointerEvent, useEffect, useRef, useState } from 'react';
import { choosePictures, libraryCanvas, useLibrary, useLibraryChange } from '../server/library.ts';
import { setFront } from '../studio/desk.ts';
import { useStudio } from '../studio/store.ts';
import { Button } from '../ui/Button.tsx';
import type { DrawerKind } from './drawer.ts';

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

function Reference({ id, name, onDrop }: { readonly id: string; readonly name: string; readonly onDrop: () => void }) {
	const holder = useRef<HTMLDivElement>(null);
	const canvas = useRef<HTMLCanvasElement | null>(null);
	const size = useStudio((state) => state.desk.sampling.size);
	const [zoom, setZoom] = useState(1);
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
		if (!canvas.current || !box || !(event.buttons & 1)) return;
		const k = canvas.current.width / box.width;
		const color = colorAt(canvas.current, (event.clientX - box.left) * k, (event.clientY - box.top) * k, size);
		if (color) setFront(color);
	};
	return (
		<figure className="mb-3">
			<div
				className="cut-small max-h-72 overflow-auto bg-view"
				onWheel={(event) => {
					if (event.ctrlKey || event.altKey) setZoom(Math.min(8, Math.max(1, zoom * 1.002 ** -event.deltaY)));
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
			<figcaption className="flex items-center gap-1 pt-1 text-[12px]">
				<span className="min-w-0 flex-1 truncate text-ash">{name}</span>
				<button
					type="button"
					className="cut-small px-1.5 hover:bg-bark"
					aria-label={`Nearer to ${name}`}
					onClick={() => setZoom(Math.min(8, zoom * 1.5))}
				>
					+
				</button>
				<button
					type="button"
					className="cut-small px-1.5 hover:bg-bark"
					aria-label={`Farther from ${name}`}
					onClick={() => setZoom(Math.max(1, zoom / 1.5))}
				>
					−
				</button>
				<button
					type="button"
					className="cut-small px-1.5 text-ash hover:text-lingon"
					aria-label={`Take ${name} away`}
					onClick={onDrop}
				>
					×
				</button>
			</figcaption>
		</figure>
	);
}

/** Pictures to look at and to sample colours from. */
export function ReferencesDrawer() {
	const list = useLibrary('reference');
	const { addPictures, remove } = useLibraryChange();
	const dropped = (event: DragEvent): void => {
		event.preventDefault();
		void addPictures('reference', event.dataTransfer.files);
	};
	return (
		<div className="flex min-h-0 flex-1 flex-col" onDragOver={(event) => event.preventDefault()} onDrop={dropped}>
			<h2 className="px-4 pt-3 pb-1 text-[15px] font-bold">References</h2>
			<p className="px-4 pb-2 text-[12px] text-ash">
				Drop pictures here. A press on one takes its colour into the front pot.
			</p>
			<div className="min-h-0 flex-1 overflow-y-auto px-4">
				{list.map(({ id, name }) => (
					<Reference key={id} id={id} name={name} onDrop={() => remove(id)} />
				))}
			</div>
			<div className="px-4 py-3">
				<Button className="w-full" onClick={async () => void addPictures('reference', await choosePictures(true))}>
					Add pictures…
				</Button>
			</div>
		</div>
	);
}

export const referencesDrawer: DrawerKind = {
	name: 'references',
	label: 'References',
	asks: 'References drawer',
	Drawer: ReferencesDrawer,
};
