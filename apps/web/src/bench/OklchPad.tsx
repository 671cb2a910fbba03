import { hexOfRgb, inSrgb, type Oklch, srgbOfOklab } from '@eppu/core/color';
import { ColorPad, PAD_HEIGHT, PAD_WIDTH } from './ColorPad.tsx';

const MOST_CHROMA = 0.3;

function paintPad(context: CanvasRenderingContext2D, hue: number): void {
	const image = context.createImageData(PAD_WIDTH, PAD_HEIGHT);
	const { data } = image;
	const turn = (hue * Math.PI) / 180;
	const [cos, sin] = [Math.cos(turn), Math.sin(turn)];
	for (let y = 0; y < PAD_HEIGHT; y++)
		for (let x = 0; x < PAD_WIDTH; x++) {
			const [l, c] = [1 - y / (PAD_HEIGHT - 1), (x / (PAD_WIDTH - 1)) * MOST_CHROMA];
			const [r, g, b] = srgbOfOklab([l, c * cos, c * sin]);
			if (Math.min(r, g, b) < -0.002 || Math.max(r, g, b) > 1.002) continue;
			const at = (y * PAD_WIDTH + x) * 4;
			data[at] = r * 255;
			data[at + 1] = g * 255;
			data[at + 2] = b * 255;
			data[at + 3] = 255;
		}
	context.putImageData(image, 0, 0);
}
const stripColor = (hue: number): string => {
	const turn = (hue * Math.PI) / 180;
	return hexOfRgb(srgbOfOklab([0.7, 0.11 * Math.cos(turn), 0.11 * Math.sin(turn)]).map((v) => v * 255));
};

/** Lightness upwards and chroma to the right for one hue: OKLCH, only what sRGB can show. */
export function OklchPad({ color, onChange }: { readonly color: Oklch; readonly onChange: (color: Oklch) => void }) {
	return (
		<ColorPad
			x={color.c / MOST_CHROMA}
			y={color.l}
			hue={color.h}
			hued={color.c > 0.004}
			words={`Lightness ${Math.round(color.l * 100)}, chroma ${color.c.toFixed(2)}`}
			step={[0.005 / MOST_CHROMA, 0.01]}
			paintPad={paintPad}
			stripColor={stripColor}
			onChange={(x, y, h) => {
				const next = { l: y, c: x * MOST_CHROMA, h };
				// Keys stop at the border of what can be shown; a drag beyond it takes the nearest there is.
				if (inSrgb(next) || Math.abs(next.c - color.c) + Math.abs(next.l - color.l) > 0.02 || h !== color.h)
					onChange(next);
			}}
		/>
	);
}
