import type { Layer, Mask, Sheet } from '@eppu/core/document';
import { choose } from '../actions/layers.ts';
import { lookAlone } from '../studio/desk.ts';
import { paintsMask, useStudio } from '../studio/store.ts';

/** A layer's mask on its row: pressed it is painted on. */
export function MaskButton({
	sheet,
	layer,
	mask,
	active,
}: {
	readonly sheet: Sheet;
	readonly layer: Layer;
	readonly mask: Mask;
	readonly active: boolean;
}) {
	const picture = useStudio((state) => state.thumbnails.get(`${layer.id}/mask`));
	const large = useStudio((state) => state.largeThumbnails);
	const painted = useStudio((state) => active && paintsMask(state));
	return (
		<button
			type="button"
			aria-label={`Mask of ${layer.name}`}
			aria-pressed={painted}
			title={`Paint on the mask; with Alt see it alone${mask.recipe?.length ? '; made by a recipe' : ''}`}
			onClick={(event) => {
				if (event.altKey) lookAlone(sheet.id, layer.id, 'mask');
				else choose(sheet, layer.id, !painted);
			}}
			className={`cut-small relative ${large ? 'size-10' : 'size-7'} shrink-0 overflow-hidden border ${painted ? 'border-soot border-l-[5px] border-l-berry outline-2 outline-soot' : 'border-black/15'} ${mask.on ? '' : 'opacity-40'}`}
		>
			{mask.recipe?.length ? (
				<span className="absolute right-0 bottom-0 rounded-tl bg-berry px-[3px] text-[9px] leading-[11px] font-bold text-[#26231e]">
					R
				</span>
			) : null}
			{picture && <img src={picture} alt="" draggable={false} className="size-full" />}
		</button>
	);
}
