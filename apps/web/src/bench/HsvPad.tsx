import { type Hsv, hexOfHsv } from '@eppu/core/color';
import { ColorPad, PAD_HEIGHT, PAD_WIDTH } from './ColorPad.tsx';

function paintPad(context: CanvasRenderingContext2D, h: number): void {
	const across = context.createLinearGradient(0, 0, PAD_WIDTH, 0);
	across.addColorStop(0, '#ffffff');
	across.addColorStop(1, hexOfHsv({ h, s: 1, v: 1 }));
	context.fillStyle = across;
	context.fillRect(0, 0, PAD_WIDTH, PAD_HEIGHT);
	const down = context.createLinearGradient(0, 0, 0, PAD_HEIGHT);
	down.addColorStop(0, 'rgb(0 0 0 / 0)');
	down.addColorStop(1, 'rgb(0 0 0 / 1)');
	context.fillStyle = down;
	context.fillRect(0, 0, PAD_WIDTH, PAD_HEIGHT);
}
const stripColor = (h: number): string => hexOfHsv({ h, s: 1, v: 1 });

/** Saturation to the right and value upwards for one hue. */
export function HsvPad({ color, onChange }: { readonly color: Hsv; readonly onChange: (color: Hsv) => void }) {
	return (
		<ColorPad
			x={color.s}
			y={color.v}
			hue={color.h}
			hued={color.s > 0.01 && color.v > 0.01}
			words={`Saturation ${Math.round(color.s * 100)}, value ${Math.round(color.v * 100)}`}
			step={[0.01, 0.01]}
			paintPad={paintPad}
			stripColor={stripColor}
			onChange={(s, v, h) => onChange({ h, s, v })}
		/>
	);
}
