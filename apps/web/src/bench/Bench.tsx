import { useStudio } from '../studio/store.ts';
import { ColorBay } from './ColorBay.tsx';
import { SelectBay } from './SelectBay.tsx';
import { GradientBay, MoveBay, ShapeBay } from './ShapeBays.tsx';
import { StencilBay } from './StencilBay.tsx';
import { TipBay } from './TipBay.tsx';
import { ToolBay } from './ToolBay.tsx';

/** Tools that are no brushes have a bay of their own in the place of the tip's and the stencil's. */
const ownBay = { select: SelectBay, shape: ShapeBay, gradient: GradientBay, move: MoveBay } as const;

/** What lies under the painting hand: tools, tip, stencil, colour. Narrow windows fold the stencil's bay. */
export function Bench() {
	const tool = useStudio((state) => state.tool);
	const Own = tool in ownBay ? ownBay[tool as keyof typeof ownBay] : null;
	return (
		<section
			aria-label="Bench"
			className={`grid h-[140px] shrink-0 border-t border-rule ${Own ? 'grid-cols-[374px_minmax(250px,1fr)_376px]' : 'grid-cols-[374px_minmax(230px,1fr)_auto_minmax(330px,1.1fr)]'}`}
		>
			<ToolBay />
			{Own ? (
				<Own />
			) : (
				<>
					<TipBay />
					<StencilBay />
				</>
			)}
			<ColorBay />
		</section>
	);
}
