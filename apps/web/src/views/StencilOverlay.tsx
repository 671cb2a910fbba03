import { useEffect, useRef } from 'react';
import { stencilFrame } from '../input/strokeSpec.ts';
import { useStencil } from '../studio/looks.ts';
import { useStudio } from '../studio/store.ts';

/** The stencil over a view: it stays where it is while the model turns under it. */
export function StencilOverlay({ width, height }: { readonly width: number; readonly height: number }) {
	const canvas = useRef<HTMLCanvasElement>(null);
	const stencil = useStudio((state) => state.desk.stencil);
	const hidden = useStudio((state) => state.overlaysHidden);
	const picture = useStencil(stencil.picture);
	const seen = stencil.picture !== null && stencil.shown && !hidden && stencil.space === 'view';
	useEffect(() => {
		const context = canvas.current?.getContext('2d');
		if (!context || !canvas.current) return;
		Object.assign(canvas.current, { width, height });
		if (!picture || !seen) return;
		const { cx, cy, w, h, angle } = stencilFrame(stencil, picture.width / picture.height, width, height);
		const plate = document.createElement('canvas');
		Object.assign(plate, { width: picture.width, height: picture.height });
		const paint = plate.getContext('2d');
		if (!paint) return;
		// What is printed shows in its own colours; what holds paint back shows as a dark plate with holes.
		if (stencil.mode === 'print') paint.drawImage(picture, 0, 0);
		else {
			paint.fillStyle = '#20242b';
			paint.fillRect(0, 0, plate.width, plate.height);
			paint.globalCompositeOperation = stencil.invert ? 'destination-in' : 'destination-out';
			paint.drawImage(picture, 0, 0);
		}
		context.globalAlpha = (stencil.mode === 'print' ? 0.5 : 0.42) * (0.3 + 0.7 * stencil.opacity);
		context.translate(cx, cy);
		context.rotate(angle);
		context.scale(w / plate.width, h / plate.height);
		context.translate(-plate.width / 2, -plate.height / 2);
		if (stencil.tile) {
			const pattern = context.createPattern(plate, 'repeat');
			if (!pattern) return;
			context.fillStyle = pattern;
			// Far enough to both sides that the view is covered however the stencil is turned.
			const reach = (Math.hypot(width, height) * 2) / Math.min(w / plate.width, h / plate.height);
			context.fillRect(-reach, -reach, 2 * reach, 2 * reach);
		} else context.drawImage(plate, 0, 0);
		context.globalAlpha = 0.9;
		context.lineWidth = plate.width / w;
		context.strokeStyle = '#e9a23b';
		context.strokeRect(0, 0, plate.width, plate.height);
	}, [picture, stencil, seen, width, height]);
	if (!seen) return null;
	return <canvas ref={canvas} className="pointer-events-none absolute inset-0 size-full" />;
}
