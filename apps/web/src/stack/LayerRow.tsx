import { useSortable } from '@dnd-kit/sortable';
import { kindOf, type Layer, type Sheet } from '@eppu/core/document';
import { CaretDownIcon } from '@phosphor-icons/react/dist/csr/CaretDown';
import { CaretRightIcon } from '@phosphor-icons/react/dist/csr/CaretRight';
import { DotsThreeIcon } from '@phosphor-icons/react/dist/csr/DotsThree';
import { EyeIcon } from '@phosphor-icons/react/dist/csr/Eye';
import { EyeSlashIcon } from '@phosphor-icons/react/dist/csr/EyeSlash';
import { LockIcon } from '@phosphor-icons/react/dist/csr/Lock';
import { SwatchesIcon } from '@phosphor-icons/react/dist/csr/Swatches';
import { useEffect, useRef, useState } from 'react';
import { choose, type LayerChangeOf } from '../actions/layers.ts';
import { run } from '../studio/say.ts';
import { useStudio } from '../studio/store.ts';
import { Menu } from '../ui/Menu.tsx';
import { BlendChoice } from './BlendChoice.tsx';
import { layerMenu } from './layerMenu.ts';
import { MaskButton } from './MaskButton.tsx';
import { RowInput } from './RowInput.tsx';
import { signs, Thumbnail } from './Thumbnail.tsx';
import { TonePanel } from './TonePanel.tsx';
import { useOpacityDrag } from './useOpacityDrag.ts';

interface LayerRowProps {
	readonly sheet: Sheet;
	readonly layer: Layer;
	readonly active: boolean;
	/** Groups around it. */
	readonly depth: number;
	/** Chosen together with the active one. */
	readonly chosen: boolean;
}

/** What a layer is beside its name and its blend. */
const traits = (layer: Layer): string =>
	[
		layer.clip ? 'clipped' : '',
		layer.coat ? 'coat' : '',
		layer.relief ? 'relief' : '',
		layer.finishes?.some((finish) => finish.on) ? 'finished' : '',
	]
		.filter(Boolean)
		.join(' · ');

/** A layer: its row is its opacity bar. The thumbnail is the handle to move it by. */
// biome-ignore lint/complexity/noExcessiveLinesPerFunction: one row as it stands; its parts with a state of their own are components already.
export function LayerRow({ sheet, layer, active, depth, chosen }: LayerRowProps) {
	const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition, isDragging } = useSortable({
		id: layer.id,
	});
	const [naming, setNaming] = useState(false);
	const [typing, setTyping] = useState(false);
	const change = (what: LayerChangeOf, gesture?: string): void =>
		run({ do: 'layer.change', sheet: sheet.id, layer: layer.id, change: what }, gesture);
	const drag = useOpacityDrag(sheet, layer, change);

	// What was just added has the focus and is scrolled into view.
	const row = useRef<HTMLDivElement>(null);
	const isNew = useStudio((state) => state.newLayer === layer.id);
	useEffect(() => {
		if (!isNew) return;
		// What was opened since keeps it: a list or a dialog would close.
		if (!document.activeElement?.closest('[role="dialog"], [role="menu"], [role="listbox"], input, textarea'))
			row.current?.focus({ preventScroll: true });
		row.current?.scrollIntoView({ block: 'nearest' });
		useStudio.setState({ newLayer: null });
	}, [isNew]);
	const alone = useStudio((state) => (state.alone?.layer === layer.id ? state.alone.on : null));
	const large = useStudio((state) => state.largeThumbnails);
	const folded = useStudio((state) => state.folded.has(layer.id));
	const fold = (): void => {
		const next = new Set(useStudio.getState().folded);
		if (!next.delete(layer.id)) next.add(layer.id);
		useStudio.setState({ folded: next });
	};

	return (
		<li
			ref={setNodeRef}
			style={{
				transform: transform ? `translateY(${transform.y}px)` : undefined,
				transition,
				paddingLeft: Math.min(depth, 6) * 12,
			}}
			className={`relative mb-[5px] flex items-center ${isDragging ? 'z-10 opacity-80' : ''}`}
		>
			{layer.clip && (
				<span
					className="mr-1 h-[26px] w-3.5 shrink-0 self-end rounded-tl-md border-t-2 border-l-2 border-ash"
					aria-hidden="true"
				/>
			)}
			<div
				ref={row}
				role="slider"
				tabIndex={0}
				aria-label={`${layer.name}: opacity`}
				aria-valuemin={0}
				aria-valuemax={100}
				aria-valuenow={Math.round(layer.opacity * 100)}
				aria-current={active || undefined}
				data-layer={layer.name}
				{...drag}
				onKeyDown={(event) => {
					if (event.target !== event.currentTarget) return;
					const by = { ArrowRight: 0.01, ArrowLeft: -0.01, PageUp: 0.1, PageDown: -0.1 }[event.key];
					if (by !== undefined) {
						event.preventDefault();
						change(
							{ opacity: Math.min(1, Math.max(0, Math.round((layer.opacity + by) * 100) / 100)) },
							`keys-${layer.id}`,
						);
					} else if (event.key === 'Enter') choose(sheet, layer.id);
					else if (event.key === 'F2') setNaming(true);
				}}
				className={`cut relative flex min-w-0 flex-1 cursor-ew-resize touch-none items-center gap-2 overflow-hidden p-1 ${active ? 'outline-2 outline-soot bg-berry-soft text-on-berry' : chosen ? 'outline-2 outline-berry bg-bark' : 'bg-bark'} ${layer.shown ? '' : 'opacity-60'}`}
			>
				<span
					aria-hidden="true"
					className={`absolute inset-y-0 left-0 ${active ? 'bg-berry/45' : 'bg-bark-deep'}`}
					style={{ width: `${layer.opacity * 100}%` }}
				/>
				{active && <span aria-hidden="true" className="absolute inset-y-0 left-0 w-[5px] bg-berry" />}
				<button
					type="button"
					ref={setActivatorNodeRef}
					{...attributes}
					{...listeners}
					aria-label={`Move ${layer.name}`}
					title={`${kindOf(layer).words}: drag to move it`}
					className={`cut-small relative ml-1 ${large && !signs[layer.kind] ? 'size-14' : 'size-7'} shrink-0 cursor-grab overflow-hidden border border-black/15 bg-[repeating-conic-gradient(#c9c4b8_0_25%,#dcd7cb_0_50%)] bg-[length:10px_10px]`}
				>
					<Thumbnail layer={layer} />
				</button>
				<div className="relative min-w-0 flex-1 leading-[15px]">
					{naming ? (
						<RowInput
							label="Layer name"
							value={layer.name}
							maxLength={120}
							className="w-full bg-sheet font-semibold text-soot"
							take={(typed) => typed.trim() && typed !== layer.name && change({ name: typed })}
							done={() => setNaming(false)}
						/>
					) : (
						<p className="truncate font-semibold" title={layer.name} onDoubleClick={() => setNaming(true)}>
							{layer.name}
						</p>
					)}
					<p className="flex items-center gap-1.5 text-[12px]">
						<BlendChoice layer={layer} change={change} />
						{traits(layer) && <span className="min-w-6 truncate">{traits(layer)}</span>}
						{typing ? (
							<RowInput
								label="Opacity"
								value={Math.round(layer.opacity * 100)}
								className="w-9 bg-sheet text-soot"
								take={(typed) => {
									const figure = Number.parseFloat(typed);
									if (Number.isFinite(figure)) change({ opacity: Math.min(100, Math.max(0, figure)) / 100 });
								}}
								done={() => setTyping(false)}
							/>
						) : (
							<button
								type="button"
								tabIndex={-1}
								aria-label={`Type the opacity of ${layer.name}`}
								className="shrink-0 px-0.5"
								onClick={() => setTyping(true)}
							>
								{Math.round(layer.opacity * 100)}
							</button>
						)}
					</p>
				</div>
				{layer.kind === 'group' && (
					<button
						type="button"
						aria-label={`${folded ? 'Unfold' : 'Fold'} ${layer.name}`}
						aria-expanded={!folded}
						onClick={fold}
						className="relative shrink-0 p-0.5"
					>
						{folded ? <CaretRightIcon size={14} /> : <CaretDownIcon size={14} />}
					</button>
				)}
				{layer.kind === 'adjust' && <TonePanel sheet={sheet} layer={layer} />}
				{alone && <span className="cut-small relative bg-berry px-1 text-[11px] leading-4 text-[#26231e]">alone</span>}
				{'entries' in layer && layer.entries && (
					<SwatchesIcon size={14} aria-label="Points at entries" className="relative shrink-0" />
				)}
				{layer.locked && <LockIcon size={14} aria-label="Locked" className="relative shrink-0" />}
				{layer.mask && <MaskButton sheet={sheet} layer={layer} mask={layer.mask} active={active} />}
				<button
					type="button"
					aria-label={`${layer.shown ? 'Hide' : 'Show'} ${layer.name}`}
					aria-pressed={layer.shown}
					onClick={() => change({ shown: !layer.shown })}
					className="relative shrink-0 p-0.5"
				>
					{layer.shown ? <EyeIcon size={16} /> : <EyeSlashIcon size={16} />}
				</button>
				<Menu
					label={`More for ${layer.name}`}
					className="relative shrink-0 !p-0.5"
					items={layerMenu(sheet, layer, alone, () => setTimeout(() => setNaming(true)))}
				>
					<DotsThreeIcon size={16} weight="bold" />
				</Menu>
			</div>
		</li>
	);
}
