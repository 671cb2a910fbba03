import { islandName } from '@eppu/core/document';
import { planeCut } from '@eppu/core/mesh';
import { type Camera, cameraBasis, type Vec3 } from '@eppu/core/projection';
import type { MirrorSpot, Spot } from '@eppu/core/scene';
import { useEffect, useMemo, useRef, useState } from 'react';
import { modelBoard } from '../input/boards.ts';
import { isHeld } from '../input/held.ts';
import { mirrorPlanes } from '../input/strokeSpec.ts';
import { drawnFirst, useDrawn } from '../input/useDrawn.ts';
import { useHand } from '../input/useHand.ts';
import { useSlant } from '../input/useSlant.ts';
import { useWheel } from '../input/useWheel.ts';
import { wheelOnStencil } from '../input/wheelOnStencil.ts';
import { modelHeld } from '../studio/bakes.ts';
import { setDesk } from '../studio/desk.ts';
import { pictures } from '../studio/hears.ts';
import { useStencil } from '../studio/looks.ts';
import { sightOf } from '../studio/sight.ts';
import { activeSheet, modelShown, pixelSheets, sheetIn, useStudio } from '../studio/store.ts';
import type { Place } from '../studio/told.ts';
import { BrushMark, type BrushMarkHandle, type MarkMatrix, tipMatrix } from './BrushMark.tsx';
import { DrawnOverlay } from './DrawnOverlay.tsx';
import { LineMark, type LineMarkHandle } from './LineMark.tsx';
import { ModelPick } from './ModelPick.tsx';
import { MoveBox } from './MoveBox.tsx';
import { borrowCanvas, giveCanvas, type ModelCanvas } from './modelCanvas.ts';
import { createModelScene, type ModelScene } from './modelScene.ts';
import { PreviewMenu } from './PreviewMenu.tsx';
import { previewLight } from './previewLight.ts';
import { StencilOverlay } from './StencilOverlay.tsx';
import { Toggles } from './Toggles.tsx';
import { useBefore } from './useBefore.ts';
import { usePoses } from './usePoses.ts';
import { useSize } from './useSize.ts';
import { useTurntable } from './useTurntable.ts';
import { ModelMirrorMenu, ViewsMenu } from './ViewMenus.tsx';

/** Where a brush of `radius` texels on the sheet shows on the model: a disc bent by the surface. */
function partnerOnModel(spot: Spot, radius: number): MarkMatrix | null {
	if (!spot.screen || !spot.texelsPerPx) return null;
	const [a, b, c, d] = spot.texelsPerPx;
	const det = a * d - b * c;
	return [
		(d / det) * radius,
		(-c / det) * radius,
		(-b / det) * radius,
		(a / det) * radius,
		spot.screen.x,
		spot.screen.y,
	];
}

/** The backdrop's grey; the usual one is the theme's own. */
const backdropOf = (tone: number): string =>
	Math.abs(tone - 0.467) < 0.005
		? getComputedStyle(document.documentElement).getPropertyValue('--view').trim()
		: `rgb(${[tone, tone, tone].map((v) => Math.round(v * 255)).join(' ')})`;

/** Px of the view are its own places. */
const px = { scale: 1, x: 0, y: 0 };

/** The model, painted on directly: left paints, right turns, Space drags, the wheel comes nearer. */
// biome-ignore lint/complexity/noExcessiveLinesPerFunction: one view: its layers and how each follows the store.
export function ModelView() {
	const box = useRef<HTMLDivElement>(null);
	const scene = useRef<ModelScene | null>(null);
	const own = useRef<BrushMarkHandle>(null);
	const partner = useRef<BrushMarkHandle>(null);
	const { width, height } = useSize(box);
	const model = useStudio(modelShown);
	const camera = useStudio((state) => state.desk.camera);
	const show = useStudio((state) => state.show);
	const hidden = useStudio((state) => state.overlaysHidden);
	const size = useStudio((state) => state.desk.tip.size);
	const spot = useStudio((state) => state.spot);
	const mirrors = useStudio((state) => state.mirrors);
	const mirror = useStudio((state) => state.desk.mirror);
	const guard = useStudio((state) => state.desk.guard);
	const selections = useStudio((state) => state.selections);
	const reach = useStudio((state) => state.desk.reach);
	const fade = useStudio((state) => state.desk.fade);
	const roundness = useStudio((state) => state.desk.tip.roundness);
	const angle = useStudio((state) => state.desk.tip.angle);
	const stencil = useStencil(useStudio((state) => state.desk.stencil.picture));
	const shading = useStudio((state) => state.shading);
	const unfoldedFrom = useRef<Camera | null>(null);
	const line = useRef<LineMarkHandle>(null);
	const preview = useStudio((state) => state.preview);
	const turning = useStudio((state) => state.turning);
	const [failure, setFailure] = useState<string | null>(null);
	const models = useMemo(() => (model ? [model] : []), [model]);

	const wholeOnes = useStudio(pixelSheets);
	useEffect(() => {
		if (models.length === 0) return;
		let own: ModelCanvas;
		try {
			own = borrowCanvas();
		} catch {
			setFailure('This browser offers no WebGL, so the model cannot be drawn. Painting on the sheet works.');
			return;
		}
		box.current?.append(own.canvas);
		scene.current = createModelScene(own, models, pictures, (id) => wholeOnes.split(' ').includes(id));
		return () => {
			scene.current?.dispose();
			scene.current = null;
			giveCanvas(own);
		};
	}, [models, wholeOnes]);
	useEffect(() => {
		if (width && height) scene.current?.look(camera, width, height);
	}, [camera, width, height, models, wholeOnes]);
	useEffect(() => {
		const apply = (): void =>
			scene.current?.show(
				{
					seams: show.seams && !hidden && !turning,
					wire: show.wire && !hidden,
					light: show.lit ? previewLight(preview.time) : null,
					ground: preview.ground,
				},
				backdropOf(preview.backdrop),
			);
		apply();
		return watchTheme(apply);
	}, [show, hidden, models, preview, turning, wholeOnes]);
	useTurntable(scene, camera, width, height, models);
	usePoses(scene, models);
	useBefore(scene, models);
	const laid = useStudio((state) => state.outline?.project.models);
	useEffect(() => {
		const hiddenParts = new Map(laid?.map(({ id, parts }) => [id, parts]));
		scene.current?.parts((id, part) => hiddenParts.get(id)?.[part]?.shown !== false);
	}, [laid, models, wholeOnes]);
	useEffect(() => {
		const share = shading?.unfold ?? 0;
		// It is laid flat towards whoever looks when that begins, and can be turned then.
		if (share === 0 || !unfoldedFrom.current) unfoldedFrom.current = useStudio.getState().desk.camera;
		scene.current?.unfold(share, unfoldedFrom.current);
		scene.current?.shade(hidden ? null : shading);
	}, [shading, hidden, models, laid]);
	useEffect(() => scene.current?.guard(hidden || shading ? null : guard), [guard, hidden, shading !== null, models]);
	useEffect(() => {
		const all = [...selections.values()].flatMap(({ model }) => [...model]);
		scene.current?.selection(hidden ? null : Float32Array.from(all));
	}, [selections, hidden, models]);
	useEffect(() => {
		const planes = hidden ? [] : mirrorPlanes(useStudio.getState());
		const cuts = models.flatMap((each) => planes.flatMap((plane) => [...planeCut(each, plane)]));
		scene.current?.planes(Float32Array.from(cuts));
	}, [mirror, hidden, models]);
	useEffect(
		() =>
			partner.current?.set(spot?.from === 'sheet' && !hidden && !shading ? partnerOnModel(spot.spot, size / 2) : null),
		[spot, size, hidden, shading],
	);

	const sight = sightOf(camera, width, height, reach, fade);
	const distanceScale = (): number =>
		(2 * camera.distance * Math.tan((camera.fov * Math.PI) / 360)) / Math.max(1, height);
	/** From a hair's breadth before the model to where it is a dot, whatever its unit. */
	const near = (by: number): void => {
		const now = useStudio.getState().desk.camera;
		const radius = model?.radius ?? 1;
		setDesk({ camera: { ...now, distance: Math.min(radius * 1e3, Math.max(radius * 1e-3, now.distance * by)) } });
	};
	const toSpace = (clientX: number, clientY: number): Place => {
		const rect = box.current?.getBoundingClientRect();
		return { x: clientX - (rect?.left ?? 0), y: clientY - (rect?.top ?? 0) };
	};
	/** With its key held the light of the preview follows the pointer, as if it were a ball before the model. */
	const carryLight = ({ clientX, clientY }: { clientX: number; clientY: number }): void => {
		if (!isHeld('KeyL')) return;
		if (!show.lit) useStudio.setState({ show: { ...show, lit: true } });
		const { x, y } = toSpace(clientX, clientY);
		const { right, up, forward } = cameraBasis(camera);
		const half = Math.min(width, height) / 2;
		const [u, v] = [(x - width / 2) / half, (height / 2 - y) / half];
		const away = Math.max(1, Math.hypot(u, v));
		const w = Math.sqrt(Math.max(0, 1 - (u * u + v * v) / (away * away)));
		scene.current?.carry(
			[0, 1, 2].map(
				(i) => ((right[i] as number) * u + (up[i] as number) * v) / away - (forward[i] as number) * w,
			) as unknown as Vec3,
		);
	};
	const showLine = (from: Place | null, to: Place | null): void =>
		line.current?.set(from && to ? [from.x, from.y, to.x, to.y] : null);
	const slant = useSlant(sight, toSpace, showLine);
	const hand = useHand('model', {
		frame: () => ({ scale: 1, x: 0, y: 0, width, height }),
		stencilAspect: () => (stencil ? stencil.width / stencil.height : 1),
		toSpace,
		place: () => {
			const sheet = activeSheet(useStudio.getState())?.id;
			return model ? { on: 'model', model: model.id, sight, ...(sheet ? { sheet } : {}) } : null;
		},
		pointing: (x, y) =>
			model && !shading?.unfold
				? {
						on: 'model',
						model: model.id,
						sight,
						x,
						y,
						radius: size / 2,
						planes: mirrorPlanes(useStudio.getState()),
					}
				: null,
		pan(dx, dy) {
			setDesk({ camera: panned(useStudio.getState().desk.camera, dx * distanceScale(), dy * distanceScale()) });
		},
		turn(dx, dy) {
			const now = useStudio.getState().desk.camera;
			setDesk({
				camera: { ...now, yaw: now.yaw - dx * 0.4, pitch: Math.max(-90, Math.min(90, now.pitch + dy * 0.4)) },
			});
		},
		mark: (x, y) =>
			own.current?.set(
				useStudio.getState().overlaysHidden || useStudio.getState().shading
					? null
					: tipMatrix(size / 2, roundness, angle, x, y),
			),
		roll(by) {
			const now = useStudio.getState().desk.camera;
			setDesk({ camera: { ...now, roll: (now.roll + by) % 360 } });
		},
		zoom(by) {
			near(1 / by);
		},
		line: showLine,
		leave: () => own.current?.set(null),
	});
	const drawn = useDrawn(model && width ? modelBoard(model, sight, toSpace) : null);
	useWheel(box, (event) => {
		if (wheelOnStencil(event)) return;
		near(1.0014 ** event.deltaY);
	});

	const sheetName = useStudio((state) => (spot ? sheetIn(state, spot.spot.sheet)?.name : undefined));
	const partName = spot && model?.parts[spot.spot.part]?.name;
	const islands = useStudio((state) => modelHeld(state)?.islands);
	const called = spot && model ? islandName(islands, model.islandOfFace, spot.spot.island) : null;
	return (
		<section aria-label="Model view" className="relative size-full overflow-hidden bg-view text-white">
			<div
				ref={box}
				data-view="model"
				className={`absolute inset-0 touch-none ${shading ? 'cursor-grab' : 'cursor-none'}`}
				onPointerMoveCapture={carryLight}
				{...drawnFirst(slant, drawnFirst(drawn, hand))}
			/>
			{!hidden && <DrawnOverlay sheet={null} frame={px} draft={drawn.draft} />}
			{!shading && <StencilOverlay width={width} height={height} />}
			<BrushMark ref={own} />
			<BrushMark ref={partner} partner />
			<LineMark ref={line} />
			{!hidden && !shading && <MoveBox on="model" frame={px} />}
			{!hidden &&
				!shading &&
				spot?.from === 'model' &&
				mirrors.map((at, i) => <MirrorMark key={i} at={at} radius={size / 2} />)}
			<Toggles
				title="Model"
				list={[
					['seams', 'Seams'],
					['wire', 'Wire'],
				]}
			>
				<ModelPick />
				<PreviewMenu />
				<ViewsMenu />
				{!shading && <ModelMirrorMenu />}
			</Toggles>
			{failure && (
				<p role="alert" className="absolute inset-x-6 top-1/3 text-center">
					{failure}
				</p>
			)}
			<footer className="pointer-events-none absolute inset-x-3 bottom-2 flex justify-between gap-3 text-[12px]">
				<span className="truncate">
					{mirrors.some((each) => !each.there)
						? 'The model has nothing at the mirror’s broken ring'
						: spot
							? `${partName} · ${called ?? `island ${spot.spot.island + 1}`} · sheet ${sheetName}`
							: shading
								? 'Drag turns, Space drags, wheel zooms'
								: 'Right drag turns, Space drags, wheel zooms'}
				</span>
				<span className="shrink-0">
					{camera.parallel ? 'Straight' : `Perspective ${camera.fov}°`}
					{camera.roll ? ` · roll ${Math.round(camera.roll)}°` : ''}
					{reach === 'seen' && fade > 0 ? ` · fades by angle ${Math.round(fade * 100)}` : ''}
					{reach === 'seen' ? '' : reach === 'front' ? ' · all front faces' : ' · through the model'}
				</span>
			</footer>
		</section>
	);
}

/** The brush's mirror image; broken where the model has nothing there. */
function MirrorMark({ at, radius }: { readonly at: MirrorSpot; readonly radius: number }) {
	const mark = useRef<BrushMarkHandle>(null);
	useEffect(() => mark.current?.set([radius, 0, 0, radius, at.x, at.y]));
	return <BrushMark ref={mark} partner broken={!at.there} />;
}

function panned(camera: Camera, dx: number, dy: number): Camera {
	const { right, up } = cameraBasis(camera);
	return {
		...camera,
		target: [0, 1, 2].map(
			(i) => (camera.target[i] as number) - (right[i] as number) * dx + (up[i] as number) * dy,
		) as unknown as Vec3,
	};
}

function watchTheme(callback: () => void): () => void {
	const observer = new MutationObserver(callback);
	observer.observe(document.documentElement, { attributes: true, attributeFilter: ['data-theme'] });
	return () => observer.disconnect();
}
