import type { Sheet, SheetPlace } from '@eppu/core/document';
import type { Spot } from '@eppu/core/scene';
import { useEffect, useMemo, useRef, useState } from 'react';
import { sheetBoard } from '../input/boards.ts';
import { mirrorLines } from '../input/strokeSpec.ts';
import { frameFor } from '../input/strokesOn.ts';
import { drawnFirst, useDrawn } from '../input/useDrawn.ts';
import { useHand } from '../input/useHand.ts';
import { useWheel } from '../input/useWheel.ts';
import { wheelOnStencil } from '../input/wheelOnStencil.ts';
import { fileUrl } from '../server/api.ts';
import { setDesk } from '../studio/desk.ts';
import { pictures } from '../studio/hears.ts';
import { useStencil } from '../studio/looks.ts';
import { sightShown } from '../studio/sight.ts';
import { activeSheet, drawsTexels, pots, type StudioState, useStudio } from '../studio/store.ts';
import { toolOf } from '../tools/list.ts';
import { BrushMark, type BrushMarkHandle, type MarkMatrix, tipMatrix } from './BrushMark.tsx';
import { CellsOverlay } from './CellsOverlay.tsx';
import { DrawnOverlay } from './DrawnOverlay.tsx';
import { drawnBySoftware } from './drawnBySoftware.ts';
import { LineMark, type LineMarkHandle } from './LineMark.tsx';
import { MoveBox } from './MoveBox.tsx';
import { numberedChecker } from './numbered.ts';
import { StencilOverlay } from './StencilOverlay.tsx';
import {
	boxOfTiles,
	dimmedOf,
	drawSheet,
	edgesOn,
	type SheetLook,
	shadedOf,
	type TexelBox,
	templateOf,
} from './sheetScene.ts';
import { TexelMenu } from './TexelMenu.tsx';
import { Toggles } from './Toggles.tsx';
import { useSize } from './useSize.ts';
import { SheetMirrorMenu } from './ViewMenus.tsx';

/** The place at which a sheet fills its view. */
export const fitting = (sheet: Sheet, width: number, height: number): SheetPlace => ({
	x: sheet.width / 2,
	y: sheet.height / 2,
	zoom: Math.min((width - 40) / sheet.width, (height - 90) / sheet.height),
});

/** Texels along a side of what the tool in the hand covers. */
const texelsMarked = (state: StudioState): number => (toolOf(state.tool).stroke ? state.pixeling.size : 1);

/** The colour that the texel under the pen gets, 'none' where it gets none; null where no whole texels are drawn. */
const markedTexel = (state: StudioState): string | null =>
	drawsTexels(state) ? (['draw', 'fill'].includes(state.tool) ? pots(state).front : 'none') : null;

/** A sheet's guide picture, once it is loaded. */
function useGuide(sheet: Sheet | undefined): ImageBitmap | null {
	const project = useStudio((state) => state.outline?.project.id);
	const [guide, setGuide] = useState<ImageBitmap | null>(null);
	const asset = sheet?.guide;
	useEffect(() => {
		setGuide(null);
		if (!asset || !project) return;
		let gone = false;
		void fetch(fileUrl(project, asset), { signal: AbortSignal.timeout(60_000) })
			.then((response) => response.blob())
			.then((blob) => createImageBitmap(blob))
			.then((bitmap) => (gone ? bitmap.close() : setGuide(bitmap)))
			.catch(() => undefined);
		return () => {
			gone = true;
		};
	}, [asset, project]);
	return guide;
}

/** The sheet as a flat picture, with its template over it. */
// biome-ignore lint/complexity/noExcessiveLinesPerFunction: one view: its layers and how each follows the store.
export function SheetView() {
	const box = useRef<HTMLDivElement>(null);
	const canvas = useRef<HTMLCanvasElement>(null);
	const own = useRef<BrushMarkHandle>(null);
	const partner = useRef<BrushMarkHandle>(null);
	const due = useRef({ waiting: false, drawnAt: 0, part: null as TexelBox | 'all' | null });
	const { width, height } = useSize(box);
	const sheet = useStudio(activeSheet);
	const models = useStudio((state) => state.models);
	const show = useStudio((state) => state.show);
	const hidden = useStudio((state) => state.overlaysHidden);
	const spot = useStudio((state) => state.spot);
	const size = useStudio((state) => state.desk.tip.size);
	const kept = useStudio((state) => (sheet ? state.desk.places[sheet.id] : undefined));
	const guide = useGuide(sheet);
	const place = useMemo(
		() => kept ?? (sheet && width ? fitting(sheet, width, height) : { x: 0, y: 0, zoom: 1 }),
		[kept, sheet?.width, sheet?.height, width, height],
	);
	const template = useMemo(() => (sheet ? templateOf(sheet, models) : null), [sheet?.id, sheet?.width, models]);
	const shading = useStudio((state) => state.shading);
	const marked = useMemo(
		() => (sheet && shading?.marks ? edgesOn(sheet, models, shading.model, shading.marks) : null),
		[sheet, models, shading?.marks],
	);
	const cut = useMemo(
		() => (sheet && shading?.cut ? edgesOn(sheet, models, shading.model, shading.cut) : null),
		[sheet, models, shading?.cut],
	);
	const picture = sheet ? pictures.get(sheet.id) : undefined;
	const ratio = Math.min(2, devicePixelRatio);
	const guard = useStudio((state) => state.desk.guard);
	const mirror = useStudio((state) => state.desk.mirror);
	const stencil = useStencil(useStudio((state) => state.desk.stencil.picture));
	const shaded = useMemo(() => (sheet && shading ? shadedOf(sheet, models, shading) : null), [sheet, models, shading]);
	const line = useRef<LineMarkHandle>(null);
	const images = [useRef<BrushMarkHandle>(null), useRef<BrushMarkHandle>(null), useRef<BrushMarkHandle>(null)];
	const dimmed = useMemo(
		() => (sheet && guard ? dimmedOf(sheet, models, guard) : null),
		[sheet?.id, sheet?.width, models, guard],
	);

	const pixeling = useStudio((state) => state.pixeling);
	const texelMark = useStudio(markedTexel);
	const pointedOut = useStudio((state) => state.pointedOut);
	const look = useRef<SheetLook | null>(null);
	look.current = {
		place,
		width,
		height,
		ratio,
		template: show.template && !hidden ? template : null,
		dimmed: hidden || shading ? null : dimmed,
		shaded: hidden ? null : shaded,
		checker: sheet && shading?.checker && !hidden ? numberedChecker(sheet.width, sheet.height) : null,
		marked: hidden ? null : marked,
		cut: hidden ? null : cut,
		guide: hidden || !show.template ? null : guide,
		texels: sheet?.pixel
			? { ...pixeling, grid: pixeling.grid && !hidden, guides: hidden ? 'none' : pixeling.guides }
			: null,
		surround: getComputedStyle(document.documentElement).getPropertyValue('--view'),
	};
	const redraw = (part: TexelBox | 'all'): void => {
		const now = due.current;
		now.part =
			now.part === null
				? part
				: part === 'all' || now.part === 'all'
					? 'all'
					: [
							Math.min(now.part[0], part[0]),
							Math.min(now.part[1], part[1]),
							Math.max(now.part[2], part[2]),
							Math.max(now.part[3], part[3]),
						];
		if (now.waiting) return;
		now.waiting = true;
		frameFor('sheet', drawnBySoftware(), now.drawnAt, (at) => {
			Object.assign(now, { waiting: false, drawnAt: at });
			const context = canvas.current?.getContext('2d');
			if (context && picture && look.current)
				drawSheet(context, picture, look.current, now.part === 'all' || now.part === null ? undefined : now.part);
			now.part = null;
		});
	};
	const latest = useRef(redraw);
	latest.current = redraw;
	useEffect(() => picture?.watch((patch) => latest.current(boxOfTiles(patch.tiles, picture.width))), [picture]);
	useEffect(() => {
		if (canvas.current && width) {
			const [w, h] = [Math.round(width * ratio), Math.round(height * ratio)];
			if (canvas.current.width !== w || canvas.current.height !== h)
				Object.assign(canvas.current, { width: w, height: h });
		}
		latest.current('all');
	});

	const toScreen = (x: number, y: number): [number, number] => [
		width / 2 + (x - place.x) * place.zoom,
		height / 2 + (y - place.y) * place.zoom,
	];
	useEffect(() => {
		const partnerHere = (s: Spot): MarkMatrix | null => {
			if (!s.texelsPerPx || s.sheet !== sheet?.id) return null;
			const [a, b, c, d] = s.texelsPerPx.map((v) => (v * size * place.zoom) / 2) as [number, number, number, number];
			return [a, c, b, d, ...toScreen(s.x, s.y)];
		};
		partner.current?.set(spot?.from === 'model' && !hidden && !shading ? partnerHere(spot.spot) : null);
	});

	const setPlace = (next: SheetPlace): void => {
		if (sheet) setDesk({ places: { ...useStudio.getState().desk.places, [sheet.id]: next } });
	};
	const toSpace = (clientX: number, clientY: number): { x: number; y: number } => {
		const rect = box.current?.getBoundingClientRect();
		return {
			x: place.x + (clientX - (rect?.left ?? 0) - width / 2) / place.zoom,
			y: place.y + (clientY - (rect?.top ?? 0) - height / 2) / place.zoom,
		};
	};
	const zoomBy = (by: number, clientX: number, clientY: number): void => {
		const now = (sheet && useStudio.getState().desk.places[sheet.id]) ?? place;
		const [dx, dy] = [toSpace(clientX, clientY).x - place.x, toSpace(clientX, clientY).y - place.y];
		const zoom = Math.min(sheet?.pixel ? 160 : 64, Math.max(0.02, now.zoom * by));
		const k = 1 - now.zoom / zoom;
		setPlace({ x: now.x + dx * k, y: now.y + dy * k, zoom });
	};
	const hand = useHand('sheet', {
		frame: () => ({
			scale: place.zoom,
			x: width / 2 - place.x * place.zoom,
			y: height / 2 - place.y * place.zoom,
			width,
			height,
		}),
		stencilAspect: () => (stencil ? stencil.width / stencil.height : 1),
		roll: () => undefined,
		line: (from, to) => line.current?.set(from && to ? [...toScreen(from.x, from.y), ...toScreen(to.x, to.y)] : null),
		toSpace,
		place: () => (sheet ? { on: 'sheet', sheet: sheet.id } : null),
		pointing: (x, y) => (sheet ? { on: 'sheet', sheet: sheet.id, sight: sightShown(), x, y } : null),
		pan(dx, dy) {
			const now = (sheet && useStudio.getState().desk.places[sheet.id]) ?? place;
			setPlace({ ...now, x: now.x - dx / now.zoom, y: now.y - dy / now.zoom });
		},
		turn: () => undefined,
		zoom: (by, clientX, clientY) => zoomBy(by, clientX, clientY),
		mark: (x, y) => {
			const state = useStudio.getState();
			const { tip } = state.desk;
			const texels = drawsTexels(state) ? texelsMarked(state) : 0;
			const shape = (px: number, py: number): MarkMatrix => {
				if (!texels) return tipMatrix((tip.size / 2) * place.zoom, tip.roundness, tip.angle, ...toScreen(px, py));
				const from = -Math.floor((texels - 1) / 2) + texels / 2;
				return tipMatrix((texels / 2) * place.zoom, 1, 0, ...toScreen(Math.floor(px) + from, Math.floor(py) + from));
			};
			own.current?.set(state.overlaysHidden || state.shading ? null : shape(x, y));
			let places = [[x, y]] as [number, number][];
			for (const each of sheet && !state.overlaysHidden && !state.shading ? mirrorLines(state, sheet.id) : [])
				places = places.concat(
					places.map(([px, py]) => (each.along === 'x' ? [2 * each.at - px, py] : [px, 2 * each.at - py])),
				);
			images.forEach((image, i) => {
				const at = places[i + 1];
				image.current?.set(at ? shape(...at) : null);
			});
			if (where.current) where.current.textContent = `${Math.floor(x)}, ${Math.floor(y)}`;
		},
		leave: () => {
			own.current?.set(null);
			for (const image of images) image.current?.set(null);
		},
	});
	const drawn = useDrawn(sheet ? sheetBoard(sheet, place.zoom, toSpace) : null);
	const texels = { scale: place.zoom, x: width / 2 - place.x * place.zoom, y: height / 2 - place.y * place.zoom };
	useWheel(box, (event) => {
		if (wheelOnStencil(event)) return;
		zoomBy(1.0016 ** -event.deltaY, event.clientX, event.clientY);
	});
	const where = useRef<HTMLSpanElement>(null);

	return (
		<section aria-label="Sheet view" className="relative size-full overflow-hidden bg-view text-white">
			<div
				ref={box}
				data-view="sheet"
				className={`absolute inset-0 touch-none ${shading ? 'cursor-grab' : 'cursor-none'}`}
				{...drawnFirst(drawn, hand)}
			>
				<canvas ref={canvas} className="block size-full" />
			</div>
			{sheet && !hidden && !shading && (mirror.sheetX || mirror.sheetY) && (
				<MirrorLines
					x={mirror.sheetX ? toScreen(sheet.width / 2, 0)[0] : null}
					y={mirror.sheetY ? toScreen(0, sheet.height / 2)[1] : null}
				/>
			)}
			{sheet && !hidden && <CellsOverlay sheet={sheet} frame={texels} />}
			{sheet && !hidden && <DrawnOverlay sheet={sheet.id} frame={texels} draft={drawn.draft} />}
			{!shading && <StencilOverlay width={width} height={height} />}
			<BrushMark ref={own} square={texelMark} />
			<BrushMark ref={partner} partner square={texelMark === null ? null : 'none'} />
			{images.map((image, i) => (
				<BrushMark key={i} ref={image} partner square={texelMark} />
			))}
			<LineMark ref={line} />
			{pointedOut && (
				<div
					className="pointer-events-none absolute border-2 border-berry shadow-[0_0_0_1px_#26231e]"
					style={{
						left: toScreen(pointedOut.x, pointedOut.y)[0] - 3,
						top: toScreen(pointedOut.x, pointedOut.y)[1] - 3,
						width: pointedOut.width * place.zoom + 6,
						height: pointedOut.height * place.zoom + 6,
					}}
				/>
			)}
			{!hidden && !shading && <MoveBox on="sheet" frame={texels} />}
			<Toggles title="Sheet" list={[['template', 'Template']]}>
				{!shading && <SheetMirrorMenu />}
				<TexelMenu />
			</Toggles>
			<footer className="pointer-events-none absolute inset-x-3 bottom-2 flex justify-between text-[12px]">
				<span ref={where} />
				<span>{Math.round(place.zoom * 100)}%</span>
			</footer>
		</section>
	);
}

/** The lines over which strokes on the sheet are mirrored. */
function MirrorLines({ x, y }: { readonly x: number | null; readonly y: number | null }) {
	return (
		<svg className="pointer-events-none absolute inset-0 size-full" aria-hidden="true">
			<g stroke="#e9a23b" strokeWidth="1.5" strokeDasharray="7 5">
				{x !== null && <line x1={x} x2={x} y1="0" y2="100%" />}
				{y !== null && <line x1="0" x2="100%" y1={y} y2={y} />}
			</g>
		</svg>
	);
}
