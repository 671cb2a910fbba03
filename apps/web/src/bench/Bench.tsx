import { ColorBay } from './ColorBay.tsx';
import { TipBay } from './TipBay.tsx';
import { ToolBay } from './ToolBay.tsx';

/** What lies under the painting hand: tools, tip, colour. */
export function Bench() {
	return (
		<section
			aria-label="Bench"
			className="grid h-[132px] shrink-0 grid-cols-[minmax(230px,300px)_minmax(280px,1fr)_minmax(430px,1.3fr)] border-t border-rule"
		>
			<ToolBay />
			<TipBay />
			<ColorBay />
		</section>
	);
}
