import { toggleDrawer } from '../actions/drawers.ts';
import { useStudio } from '../studio/store.ts';
import { drawers } from './list.ts';

/** The drawers at the right edge: one open at a time, over the view. */
export function Rail() {
	return <Drawers open={useStudio((state) => state.drawer)} />;
}

export function Drawers({ open }: { readonly open: string | null }) {
	const Open = drawers.find(({ name }) => name === open)?.Drawer;
	return (
		<aside
			className="relative flex w-[30px] shrink-0 flex-col items-center gap-4 border-l border-rule py-3"
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
			{Open && (
				<div className="absolute inset-y-0 right-full z-20 flex w-[280px] flex-col border-l border-rule bg-paper shadow-lg">
					<Open />
				</div>
			)}
		</aside>
	);
}
