import type { Tip } from '@eppu/core/stroke';
import { useEffect, useState } from 'react';
import { lookAt } from './line.ts';
import type { Look } from './told.ts';

const canvasOf = (look: Look): HTMLCanvasElement => {
	const canvas = Object.assign(document.createElement('canvas'), { width: look.width, height: look.height });
	canvas.getContext('2d')?.putImageData(new ImageData(look.data, look.width, look.height), 0, 0);
	return canvas;
};

/** Things asked for once and kept: a few hundred small pictures at the most. */
function kept<T>(): (key: string, make: () => Promise<T | null>) => Promise<T | null> {
	const known = new Map<string, Promise<T | null>>();
	return (key, make) => {
		let found = known.get(key);
		if (!found) {
			if (known.size > 400) known.clear();
			known.set(key, (found = make()));
			void found.then((value) => {
				if (value === null) known.delete(key);
			});
		}
		return found;
	};
}

const previews = kept<string>();
const stencils = kept<HTMLCanvasElement>();

/** A tip's stroke as an image address. */
export function usePreview(tip: Tip, width: number, height: number, color: string): string | null {
	const [url, setUrl] = useState<string | null>(null);
	const key = JSON.stringify([tip, width, height, color]);
	useEffect(() => {
		let gone = false;
		void previews(key, async () => {
			const look = await lookAt({ say: 'preview', tip, width, height, color });
			return look && canvasOf(look).toDataURL();
		}).then((found) => !gone && setUrl(found));
		return () => {
			gone = true;
		};
	}, [key]);
	return url;
}

/** A stencil's picture: its colours, and its tone as alpha. */
export const stencilCanvas = (picture: string, small = false): Promise<HTMLCanvasElement | null> =>
	stencils(small ? `${picture}/small` : picture, async () => {
		const look = await lookAt({ say: 'stencil', picture, small });
		return look && canvasOf(look);
	});

export function useStencil(picture: string | null, small = false): HTMLCanvasElement | null {
	const [canvas, setCanvas] = useState<HTMLCanvasElement | null>(null);
	useEffect(() => {
		let gone = false;
		setCanvas(null);
		if (picture) void stencilCanvas(picture, small).then((found) => !gone && setCanvas(found));
		return () => {
			gone = true;
		};
	}, [picture, small]);
	return canvas;
}
