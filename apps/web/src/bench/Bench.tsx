import { drawsTexels, useStudio } from '../studio/store.ts';
import { toolOf } from '../tools/list.ts';
import { ColorBay } from './ColorBay.tsx';
import { PencilBay } from './PixelBays.tsx';
import { StencilBay } from './StencilBay.tsx';
import { TipBay } from './TipBay.tsx';
import { ToolBay } from './ToolBay.tsx';

/** What lies under the painting hand: tools, tip, stencil, colour. Narrow windows fold the stencil's bay. */
export function Bench() {
	const tool = useStudio((state) => state.tool);
	const texels = useStudio(drawsTexels);
	const kind = toolOf(tool);
	const Own = texels ? (kind.TexelBay ?? (kind.stroke && !kind.placed ? PencilBay : kind.Bay)) : kind.Bay;
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
