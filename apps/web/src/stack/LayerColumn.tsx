import {
	closestCenter,
	DndContext,
	type DragEndEvent,
	KeyboardSensor,
	PointerSensor,
	useSensor,
	useSensors,
} from '@dnd-kit/core';
import { SortableContext, sortableKeyboardCoordinates, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { placeOfLayer } from '@eppu/core/document';
import { type ToneOp, toneKinds } from '@eppu/core/tone';
import { ImageSquareIcon } from '@phosphor-icons/react/dist/csr/ImageSquare';
import { PlusIcon } from '@phosphor-icons/react/dist/csr/Plus';
import { showLargeThumbnails } from '../actions/habits.ts';
import { addLayer, groupChosen, pasteLayer, rowsOf } from '../actions/layers.ts';
import { run } from '../studio/say.ts';
import { activeLayerId, activeSheet, useStudio } from '../studio/store.ts';
import { Button } from '../ui/Button.tsx';
import { Menu } from '../ui/Menu.tsx';
import { BuildUp } from './BuildUp.tsx';
import { LayerRow } from './LayerRow.tsx';
import { SheetTabs } from './SheetTabs.tsx';

/** The sheets, and the layer stack of the one that is worked on, topmost first. */
export function LayerColumn() {
	const project = useStudio((state) => state.outline?.project);
	const sheet = useStudio(activeSheet);
	const active = useStudio((state) => activeLayerId(state, activeSheet(state)));
	const folded = useStudio((state) => state.folded);
	const chosen = useStudio((state) => state.chosen);
	const large = useStudio((state) => state.largeThumbnails);
	const sensors = useSensors(
		useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
		useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
	);
	if (!project || !sheet) return null;
	const rows = rowsOf(sheet.layers, folded, 0);
	const moved = ({ active: from, over }: DragEndEvent): void => {
		if (!over || over.id === from.id) return;
		const here = placeOfLayer(sheet, String(from.id));
		const there = placeOfLayer(sheet, String(over.id));
		const target = there?.among[there.at];
		if (!here || !there || !target) return;
		const together = here.parent?.id === there.parent?.id;
		// Let go on a group's row it goes in, on top; on any other row it takes that row's place.
		const [parent, to] =
			target.kind === 'group' && !folded.has(target.id) && !(together && here.at < there.at)
				? [target.id, target.layers.length]
				: [there.parent?.id ?? null, together ? there.at : there.at + 1];
		run({ do: 'layer.move', sheet: sheet.id, layer: String(from.id), to, parent });
	};
	return (
		<aside className="flex w-[280px] shrink-0 flex-col border-r border-rule" aria-label="Sheets and layers">
			<SheetTabs />
			<div className="flex min-h-0 flex-1">
				<BuildUp sheet={sheet} />
				<DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={moved}>
					<SortableContext items={rows.map(({ layer }) => layer.id)} strategy={verticalListSortingStrategy}>
						<ol
							className="min-h-0 min-w-0 flex-1 overflow-x-hidden overflow-y-auto px-2 py-2"
							aria-label="Layers, topmost first"
						>
							{rows.map(({ layer, depth }) => (
								<LayerRow
									key={layer.id}
									sheet={sheet}
									layer={layer}
									depth={depth}
									active={layer.id === active}
									chosen={chosen.includes(layer.id)}
								/>
							))}
							{rows.length === 0 && (
								<li className="px-2 py-6 text-center text-ash">
									<p className="mb-2">This sheet has no layers yet. Paint needs one to land on.</p>
									<Button look="main" onClick={() => addLayer('paint')}>
										Add a layer
									</Button>
								</li>
							)}
						</ol>
					</SortableContext>
				</DndContext>
			</div>
			<div className="flex shrink-0 items-stretch gap-1.5 border-t border-rule px-3 py-2">
				<Button className="flex-1 font-semibold" onClick={() => addLayer('paint')}>
					Add a layer
				</Button>
				<Menu
					label="Add another kind of layer"
					className="cut border border-rule bg-sheet !px-2.5"
					items={[
						{ label: 'Wash', run: () => addLayer('wash') },
						{ label: 'Lettering', run: () => addLayer('text') },
						{ label: 'Paste the copied layer', keys: 'Ctrl+V', run: pasteLayer },
						...toneKinds.map(({ op, words }) => ({
							label: words,
							run: () => addLayer(op as ToneOp['op']),
						})),
					]}
				>
					<PlusIcon size={15} />
				</Menu>
				<Button
					className="!px-2"
					aria-label="Large thumbnails"
					aria-pressed={large}
					title={large ? 'Smaller thumbnails' : 'Larger thumbnails'}
					onClick={() => showLargeThumbnails(!large)}
				>
					<ImageSquareIcon size={large ? 19 : 14} />
				</Button>
				<Button
					onClick={groupChosen}
					title="Group the chosen layers (Ctrl+G); Ctrl and click chooses more, Shift and click all between"
				>
					Group
				</Button>
			</div>
		</aside>
	);
}
