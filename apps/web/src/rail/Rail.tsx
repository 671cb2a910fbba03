import { SidebarSimpleIcon } from '@phosphor-icons/react/dist/csr/SidebarSimple';
import { XIcon } from '@phosphor-icons/react/dist/csr/X';
import { type KeyboardEvent, type PointerEvent, useRef } from 'react';
import { railWidths, setRailWidth, standBeside, toggleDrawer } from '../actions/drawers.ts';
import { useStudio } from '../studio/store.ts';
import type { DrawerKind } from './drawer.ts';
import { drawers } from './list.ts';

/** The drawers at the right edge: one open at a time, over the views or beside them. */
export function Rail() {
	return <Drawers open={useStudio((state) => state.drawer)} />;
}

/** The edge by which an open drawer is made wider: dragged, or turned with the arrow keys. */
function Edge({ width }: { readonly width: number }) {
	const from = useRef<{ readonly x: number; readonly width: number } | null>(null);
	const move = (event: PointerEvent): void => {
		if (from.current) setRailWidth(from.current.width + from.current.x - event.clientX);
	};
	return (
		<div
			role="separator"
			aria-orientation="vertical"
			aria-label="Width of the drawer"
			aria-valuenow={width}
			aria-valuemin={railWidths.least}
			aria-valuemax={railWidths.most}
			tabIndex={0}
			className="absolute inset-y-0 -left-[3px] z-10 w-[6px] cursor-col-resize touch-none hover:bg-berry focus-visible:bg-berry"
			onPointerDown={(event) => {
				event.currentTarget.setPointerCapture(event.pointerId);
				from.current = { x: event.clientX, width };
			}}
			onPointerMove={move}
			onPointerUp={() => {
				from.current = null;
			}}
			onDoubleClick={() => setRailWidth(railWidths.usual)}
			onKeyDown={(event: KeyboardEvent) => {
				const by = event.key === 'ArrowLeft' ? 20 : event.key === 'ArrowRight' ? -20 : 0;
				if (by) setRailWidth(width + by);
			}}
		/>
	);
}

function Open({ kind: { name, label, Drawer, beside: usual = false } }: { readonly kind: DrawerKind }) {
	const rail = useStudio((state) => state.rail);
	const beside = rail.beside[name] ?? usual;
	const small = 'cut-small grid size-6 place-items-center hover:bg-bark';
	return (
		<section
			aria-label={label}
			data-drawer={beside ? 'beside' : 'over'}
			style={{ width: rail.width }}
			className={`flex flex-col border-l border-rule bg-paper ${beside ? 'relative shrink-0' : 'absolute inset-y-0 right-[30px] z-20 shadow-lg'}`}
		>
			<Edge width={rail.width} />
			<div className="absolute top-2 right-2 z-10 flex gap-0.5">
				<button
					type="button"
					className={`${small} ${beside ? 'text-pine' : 'text-ash'}`}
					aria-pressed={beside}
					aria-label="Beside the views"
					title={beside ? 'Stands beside the views; put it over them' : 'Lies over the views; put it beside them'}
					onClick={() => standBeside(name, !beside)}
				>
					<SidebarSimpleIcon size={16} mirrored weight={beside ? 'fill' : 'regular'} />
				</button>
				<button
					type="button"
					className={`${small} text-ash`}
					aria-label="Shut the drawer"
					title="Shut the drawer"
					onClick={() => toggleDrawer(name)}
				>
					<XIcon size={15} />
				</button>
			</div>
			<Drawer />
		</section>
	);
}

export function Drawers({ open }: { readonly open: string | null }) {
	const kind = drawers.find(({ name }) => name === open);
	return (
		<div className="relative flex shrink-0">
			{kind && <Open key={kind.name} kind={kind} />}
			<aside
				className="flex w-[30px] shrink-0 flex-col items-center gap-4 border-l border-rule bg-paper py-3"
				aria-label="Drawers"
			>
				{drawers.map(({ name, label }) => (
					<button
						key={name}
						type="button"
						aria-expanded={open === name}
						onClick={() => toggleDrawer(name)}
						className={`cut-small py-1 [writing-mode:vertical-rl] rotate-180 ${open === name ? 'font-bold' : 'text-ash'}`}
					>
						{label}
					</button>
				))}
			</aside>
		</div>
	);
}
