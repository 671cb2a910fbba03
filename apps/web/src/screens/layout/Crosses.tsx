import type { Id } from '@eppu/core/document';
import { crossOf, type Figure, type FigureBox } from '@eppu/core/figure';
import { useEffect, useRef } from 'react';
import { pictures } from '../../studio/hears.ts';

const WIDE = 260;

/** Where the boxes of a figure lie on its sheet, over what is painted there; the chosen one told apart. */
export function Crosses({
	figure: { sheet, boxes },
	chosen,
	sheet: id,
}: {
	readonly figure: Figure;
	readonly chosen: FigureBox | undefined;
	readonly sheet: Id | undefined;
}) {
	const canvas = useRef<HTMLCanvasElement>(null);
	const [width, height] = sheet;
	const by = WIDE / width;
	useEffect(() => {
		const context = canvas.current?.getContext('2d');
		if (!context) return;
		const ratio = devicePixelRatio;
		Object.assign(canvas.current as HTMLCanvasElement, { width: WIDE * ratio, height: height * by * ratio });
		context.setTransform(by * ratio, 0, 0, by * ratio, 0, 0);
		context.imageSmoothingEnabled = false;
		const painted = id && pictures.get(id);
		if (painted) context.drawImage(painted.canvas, 0, 0, width, height);
		const token = (name: string): string => getComputedStyle(document.documentElement).getPropertyValue(name);
		context.lineWidth = 1.5 / by;
		for (const box of [...boxes.filter((each) => each !== chosen), ...(chosen ? [chosen] : [])]) {
			const [x, y, w, h] = crossOf(box);
			const [, , d] = box.size;
			context.strokeStyle = box === chosen ? token('--berry') : token('--ash');
			context.strokeRect(x + d, y, 2 * box.size[0], d);
			context.strokeRect(x, y + d, w, h - d);
		}
	}, [boxes, chosen, id, width, height, by]);
	return (
		<canvas
			ref={canvas}
			role="img"
			aria-label="Where the boxes lie on the sheet"
			className="checkered block border border-rule"
			style={{ width: WIDE, height: height * by }}
		/>
	);
}
