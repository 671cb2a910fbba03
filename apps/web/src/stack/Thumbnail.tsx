import { kindOf, type Layer } from '@eppu/core/document';
import type { Icon } from '@phosphor-icons/react';
import { SlidersHorizontalIcon } from '@phosphor-icons/react/dist/csr/SlidersHorizontal';
import { StackSimpleIcon } from '@phosphor-icons/react/dist/csr/StackSimple';
import { TextTIcon } from '@phosphor-icons/react/dist/csr/TextT';
import { useStudio } from '../studio/store.ts';

/** Kinds that are shown by a sign of theirs; the others by what is on them. */
export const signs: Partial<Record<Layer['kind'], Icon>> = {
	text: TextTIcon,
	adjust: SlidersHorizontalIcon,
	group: StackSimpleIcon,
};

/** A small picture of what a layer holds. */
export function Thumbnail({ layer }: { readonly layer: Layer }) {
	const picture = useStudio((state) => state.thumbnails.get(`${layer.id}/color`));
	const Sign = signs[layer.kind];
	if (Sign)
		return (
			<span className="flex size-full items-center justify-center bg-sheet text-soot">
				<Sign size={17} />
			</span>
		);
	const plain = kindOf(layer).plain?.(layer);
	if (plain) return <span className="block size-full" style={{ background: plain }} />;
	return picture ? <img src={picture} alt="" draggable={false} className="size-full" /> : null;
}
