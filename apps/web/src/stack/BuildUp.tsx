import type { Sheet } from '@eppu/core/document';
import { type PointerEvent, useEffect } from 'react';
import { lookWhole } from '../studio/desk.ts';
import { tell } from '../studio/line.ts';
import { useStudio } from '../studio/store.ts';

/** The build-up: drag down the stack's edge and the sheet goes back to bare, layer by layer; let go at the top for all. */
export function BuildUp({ sheet }: { readonly sheet: Sheet }) {
	const all = sheet.layers.length;
	const built = useStudio((state) => state.builtUp);
	const count = built?.sheet === sheet.id ? Math.min(all, built.count) : all;
	// Another number of layers is seen whole again; so is a sheet that is left, for another or for the next stage.
	useEffect(() => {
		lookWhole(sheet.id);
		return () => lookWhole(sheet.id);
	}, [sheet.id, all]);
	const put = (next: number): void => {
		const held = Math.min(all, Math.max(0, next));
		if (held === count) return;
		useStudio.setState({ alone: null, builtUp: held < all ? { sheet: sheet.id, count: held } : null });
		tell({ say: 'look', sheet: sheet.id, look: held < all ? { upTo: held } : null });
	};
	const drag = (event: PointerEvent<HTMLElement>): void => {
		if (!(event.buttons & 1)) return;
		const box = event.currentTarget.getBoundingClientRect();
		put(Math.round(all * (1 - (event.clientY - box.top - 6) / (box.height - 12))));
	};
	return (
		<div
			role="slider"
			tabIndex={0}
			aria-orientation="vertical"
			aria-label="Build-up: how many layers are seen"
			aria-valuemin={0}
			aria-valuemax={all}
			aria-valuenow={count}
			aria-valuetext={`${count} of ${all}`}
			title="Build-up: drag down to see the stack from the bare to the finished"
			className="relative my-2 ml-1.5 w-3 shrink-0 cursor-ns-resize touch-none"
			onPointerDown={(event) => {
				event.currentTarget.setPointerCapture(event.pointerId);
				drag(event);
			}}
			onPointerMove={drag}
			onDoubleClick={() => put(all)}
			onKeyDown={(event) => {
				const by = { ArrowUp: 1, ArrowDown: -1, Home: all, End: -all }[event.key];
				if (by === undefined) return;
				event.preventDefault();
				event.stopPropagation();
				put(count + by);
			}}
		>
			<span className="absolute inset-y-1 left-[5px] w-[2px] bg-rule" />
			<span
				className={`cut-small absolute left-0 h-[9px] w-3 ${count < all ? 'bg-berry' : 'bg-soot'}`}
				style={{ top: `calc(${(1 - (all ? count / all : 1)) * 100}% - ${(1 - (all ? count / all : 1)) * 9}px)` }}
			/>
			{count < all && (
				<span
					className="cut-small pointer-events-none absolute left-4 z-20 bg-soot px-1.5 text-[12px] whitespace-nowrap text-paper"
					style={{ top: `calc(${(1 - count / all) * 100}% - 8px)` }}
				>
					{count === 0 ? 'Nothing' : `Up to “${sheet.layers[count - 1]?.name}”`}
				</span>
			)}
		</div>
	);
}
