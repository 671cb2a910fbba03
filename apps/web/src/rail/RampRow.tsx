import { closestCenter, DndContext, type DragEndEvent, PointerSensor, useSensor, useSensors } from '@dnd-kit/core';
import { arrayMove, horizontalListSortingStrategy, SortableContext, useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import type { Hex, Ramp } from '@eppu/core/color';
import type { KeyboardEvent } from 'react';
import { setFront } from '../studio/desk.ts';
import { Swatch } from './Swatch.tsx';

/** A step of a ramp: a click takes its colour up, a drag or Alt with an arrow moves it along. */
function Step({
	id,
	color,
	words,
	move,
}: {
	readonly id: string;
	readonly color: Hex;
	readonly words: string;
	readonly move: (by: number) => void;
}) {
	const { setNodeRef, listeners, transform, transition } = useSortable({ id });
	const byKey = (event: KeyboardEvent): void => {
		const by = event.key === 'ArrowLeft' ? -1 : event.key === 'ArrowRight' ? 1 : 0;
		if (!by || !event.altKey) return;
		// The browser goes back a page by it.
		event.preventDefault();
		move(by);
	};
	return (
		<div
			ref={setNodeRef}
			{...listeners}
			onKeyDown={byKey}
			className="flex min-w-0 flex-1"
			style={{ transform: CSS.Transform.toString(transform), transition }}
		>
			<Swatch
				color={color}
				words={words}
				hint="Drag it to another place, or press Alt and an arrow"
				onClick={() => setFront(color)}
			/>
		</div>
	);
}

/** A ramp of the palette: its steps in their order, which is changed by hand; turned round; dropped. */
export function RampRow({
	ramp,
	change,
	drop,
}: {
	readonly ramp: Ramp;
	readonly change: (next: Ramp) => void;
	readonly drop: () => void;
}) {
	const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 5 } }));
	const { name, colors } = ramp;
	// A colour may stand in a ramp twice; each keeps its name where it goes, and the keys' hold on it.
	const ids = colors.map((hex, k) => `${hex} ${colors.slice(0, k).filter((each) => each === hex).length}`);
	const put = (from: number, to: number): void => {
		if (to !== from && to >= 0 && to < colors.length) change({ ...ramp, colors: arrayMove([...colors], from, to) });
	};
	const dragged = ({ active, over }: DragEndEvent): void => {
		if (over) put(ids.indexOf(String(active.id)), ids.indexOf(String(over.id)));
	};
	return (
		<li className="flex items-center gap-1">
			<span className="w-14 truncate text-[12px]">{name}</span>
			<DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={dragged}>
				<SortableContext items={ids} strategy={horizontalListSortingStrategy}>
					<div className="flex min-w-0 flex-1 gap-px" role="group" aria-label={`Steps of ${name}`}>
						{colors.map((hex, k) => (
							<Step
								key={ids[k]}
								id={ids[k] as string}
								color={hex}
								words={`${name} ${k + 1}: ${hex}`}
								move={(by) => put(k, k + by)}
							/>
						))}
					</div>
				</SortableContext>
			</DndContext>
			<button
				type="button"
				aria-label={`Turn ${name} round`}
				title="Turn it round"
				className="cut-small px-1 text-ash hover:bg-bark"
				onClick={() => change({ ...ramp, colors: [...colors].reverse() })}
			>
				⇄
			</button>
			<button
				type="button"
				aria-label={`Drop ${name}`}
				title="Drop it; its colours stay in the palette"
				className="cut-small px-1 text-ash hover:bg-bark"
				onClick={drop}
			>
				×
			</button>
		</li>
	);
}
