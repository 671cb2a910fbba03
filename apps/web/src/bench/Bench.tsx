import { ColorBay } from './ColorBay.tsx';
import { StencilBay } from './StencilBay.tsx';
import { TipBay } from './TipBay.tsx';
import { ToolBay } from './ToolBay.tsx';

/** What lies under the painting hand: tools, tip, stencil, colour. Narrow windows fold the stencil's bay. */
export function Bench() {
	return (
		<section
			aria-label="Bench"
			className="grid h-[140px] shrink-0 grid-cols-[322px_minmax(250px,1fr)_auto_minmax(330px,1.2fr)] border-t border-rule"
		>
			<ToolBay />
			<TipBay />
			<StencilBay />
			<ColorBay />
		</section>
	);
}
