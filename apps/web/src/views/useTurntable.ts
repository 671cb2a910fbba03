import type { Camera } from '@eppu/core/projection';
import { type RefObject, useEffect } from 'react';
import { turnAround, turnedBy } from '../actions/preview.ts';
import { useStudio } from '../studio/store.ts';
import type { ModelScene } from './modelScene.ts';

/** Degrees a second. */
const SPEED = 40;

/** Has the model go round while that is asked for, until somebody presses; and says how pictures of a turn are drawn. */
export function useTurntable(
	scene: RefObject<ModelScene | null>,
	camera: Camera,
	width: number,
	height: number,
	models: readonly unknown[],
): void {
	const turning = useStudio((state) => state.turning);
	useEffect(() => {
		if (!turning || !width) return;
		const began = performance.now();
		let yaw = camera.yaw;
		let frame = 0;
		const step = (now: number): void => {
			yaw = camera.yaw - ((now - began) / 1000) * SPEED;
			scene.current?.look({ ...camera, yaw }, width, height);
			frame = requestAnimationFrame(step);
		};
		frame = requestAnimationFrame(step);
		// Paint would land where it is not seen coming: whoever presses a view stops it first.
		const press = (event: PointerEvent): void => {
			if (!(event.target as HTMLElement).closest('[data-view]')) return;
			event.stopImmediatePropagation();
			turnAround(false, yaw % 360);
		};
		addEventListener('pointerdown', press, { capture: true });
		return () => {
			cancelAnimationFrame(frame);
			removeEventListener('pointerdown', press, { capture: true });
			scene.current?.look(useStudio.getState().desk.camera, width, height);
		};
	}, [turning, camera, width, height, models]);
	useEffect(() => {
		turnedBy(async (degrees, side) => {
			const blob = await scene.current?.picture({ ...camera, yaw: camera.yaw - degrees }, side);
			if (!blob) throw new Error('The view gave no picture.');
			return new Uint8Array(await blob.arrayBuffer());
		});
		return () => turnedBy(null);
	}, [camera, models]);
}
