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
import { addLayer } from '../app/commands.ts';
import { run, setDesk } from '../studio/client.ts';
import { activeLayerId, activeSheet, useStudio } from '../studio/store.ts';
import { Button } from '../ui/Button.tsx';
import { LayerRow } from './LayerRow.tsx';

/** The sheets, and the layer stack of the one that is worked on, topmost first. */
export function LayerColumn() {
	const project = useStudio((state) => state.outline?.project);
	const sheet = useStudio(activeSheet);
	const active = useStudio((state) => activeLayerId(state, activeSheet(state)));
	const sensors = useSensors(
		useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
		useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
	);
	if (!project || !sheet) return null;
	const rows = [...sheet.layers].reverse();
	const moved = ({ active: from, over }: DragEndEvent): void => {
		if (over && over.id !== from.id)
			run({
				do: 'layer.move',
				sheet: sheet.id,
				layer: String(from.id),
				to: sheet.layers.findIndex((layer) => layer.id === over.id),
			});
	};
	return (
		<aside className="flex w-[264px] shrink-0 flex-col border-r border-rule" aria-label="Sheets and layers">
			<ul className="flex shrink-0 gap-1.5 overflow-x-auto border-b border-rule px-3 py-2">
				{project.sheets.map((each) => (
					<li key={each.id}>
						<button
							type="button"
							aria-pressed={each.id === sheet.id}
							onClick={() => setDesk({ sheet: each.id })}
							className={`cut max-w-40 truncate border px-2.5 py-0.5 whitespace-nowrap ${each.id === sheet.id ? 'border-soot bg-sheet font-bold' : 'border-rule'}`}
							title={`${each.name}, ${each.width} by ${each.height} texels`}
						>
							{each.name}{' '}
							<span className="font-normal text-ash">
								{each.width === each.height ? each.width : `${each.width}×${each.height}`}
							</span>
						</button>
					</li>
				))}
			</ul>
			<DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={moved}>
				<SortableContext items={rows.map((layer) => layer.id)} strategy={verticalListSortingStrategy}>
					<ol
						className="min-h-0 flex-1 overflow-x-hidden overflow-y-auto px-2.5 py-2"
						aria-label="Layers, topmost first"
					>
						{rows.map((layer) => (
							<LayerRow key={layer.id} sheet={sheet} layer={layer} active={layer.id === active} />
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
			<div className="flex shrink-0 gap-2 border-t border-rule px-3 py-2">
				<Button className="flex-1 font-semibold" onClick={() => addLayer('paint')}>
					Add a layer
				</Button>
				<Button onClick={() => addLayer('wash')}>Wash</Button>
			</div>
		</aside>
	);
}
