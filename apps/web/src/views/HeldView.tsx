import { type PointerEvent, useEffect, useRef, useState } from 'react';
import { beforeOf } from '../studio/before.ts';
import { pictures } from '../studio/hears.ts';
import { activeSheet, useStudio } from '../studio/store.ts';
import { createHeldScene, type HeldPose, type HeldScene } from './heldScene.ts';
import { ItemRow } from './ItemRow.tsx';
import { overView, Toggles } from './Toggles.tsx';
import { useSize } from './useSize.ts';

const home: HeldPose = { yaw: -28, pitch: 18, near: 1 };
/** Degrees a px of the hand. */
const TURN = 0.5;

/** A pixel sheet as a game shows it: a thing in the hand, and at its own size in a row. */
export function HeldView() {
	const box = useRef<HTMLDivElement>(null);
	const canvas = useRef<HTMLCanvasElement>(null);
	const scene = useRef<HeldScene | null>(null);
	const due = useRef(0);
	const { width, height } = useSize(box);
	const sheet = useStudio(activeSheet);
	const lit = useStudio((state) => state.show.lit);
	const before = useStudio((state) => state.beforeShown);
	const now = sheet && pictures.get(sheet.id);
	const picture = (before && sheet && beforeOf(sheet.id)) || now;
	const [pose, setPose] = useState(home);
	const [failure, setFailure] = useState<string | null>(null);
	const hand = useRef<{ readonly x: number; readonly y: number; readonly pose: HeldPose } | null>(null);

	useEffect(() => {
		if (!canvas.current) return;
		try {
			scene.current = createHeldScene(canvas.current);
		} catch {
			setFailure('This browser offers no WebGL, so the item cannot be turned. Drawing works.');
		}
		return () => {
			scene.current?.dispose();
			scene.current = null;
		};
	}, []);
	const show = useRef<(anew: boolean) => void>(() => undefined);
	show.current = (anew) => {
		if (!scene.current || !picture || !width || !height) return;
		if (anew) scene.current.make(picture, lit);
		scene.current.look(pose, width, height, getComputedStyle(document.documentElement).getPropertyValue('--view'));
	};
	useEffect(() => show.current(true), [picture, lit]);
	useEffect(() => show.current(false), [pose, width, height]);
	useEffect(() => {
		const stop = picture?.watch(() => {
			if (due.current) return;
			due.current = requestAnimationFrame(() => {
				due.current = 0;
				show.current(true);
			});
		});
		return () => {
			stop?.();
			cancelAnimationFrame(due.current);
			due.current = 0;
		};
	}, [picture]);

	const turn = (yaw: number, pitch: number): void =>
		setPose((now) => ({ ...now, yaw: now.yaw + yaw, pitch: Math.max(-89, Math.min(89, now.pitch + pitch)) }));
	return (
		<section aria-label="Held view" className="relative flex size-full flex-col overflow-hidden bg-view text-white">
			<div
				ref={box}
				data-view="held"
				tabIndex={0}
				className="relative min-h-0 flex-1 cursor-grab touch-none"
				onPointerDown={(event: PointerEvent<HTMLDivElement>) => {
					event.currentTarget.setPointerCapture(event.pointerId);
					hand.current = { x: event.clientX, y: event.clientY, pose };
				}}
				onPointerMove={(event) => {
					const from = hand.current;
					if (!from) return;
					const pitch = from.pose.pitch + (event.clientY - from.y) * TURN;
					setPose({
						...from.pose,
						yaw: from.pose.yaw - (event.clientX - from.x) * TURN,
						pitch: Math.max(-89, Math.min(89, pitch)),
					});
				}}
				onPointerUp={() => {
					hand.current = null;
				}}
				onDoubleClick={() => setPose(home)}
				onWheel={(event) =>
					setPose((now) => ({ ...now, near: Math.max(0.3, Math.min(6, now.near * 1.0014 ** -event.deltaY)) }))
				}
				onKeyDown={(event) => {
					const by = { ArrowLeft: [10, 0], ArrowRight: [-10, 0], ArrowUp: [0, 8], ArrowDown: [0, -8] }[event.key];
					if (!by) return;
					event.preventDefault();
					event.stopPropagation();
					turn(by[0] as number, by[1] as number);
				}}
			>
				<canvas ref={canvas} className="absolute inset-0 block size-full" />
				{failure && <p className="absolute inset-x-4 top-12">{failure}</p>}
			</div>
			<ItemRow />
			<Toggles title="Held" list={[['lit', 'Lit']]}>
				<button
					type="button"
					aria-pressed={before}
					title="As it was when this visit began; also while O is held"
					onClick={() => useStudio.setState({ beforeShown: !before })}
					className={overView(before)}
				>
					As it was
				</button>
			</Toggles>
		</section>
	);
}
