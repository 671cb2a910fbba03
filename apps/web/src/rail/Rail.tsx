import { useStudio } from '../studio/store.ts';
import { HistoryDrawer } from './HistoryDrawer.tsx';
import { KeysDrawer } from './KeysDrawer.tsx';
import { LayerDrawer } from './LayerDrawer.tsx';
import { PenDrawer } from './PenDrawer.tsx';
import { RecipeDrawer } from './RecipeDrawer.tsx';
import { ReferencesDrawer } from './ReferencesDrawer.tsx';

const drawers = [
	{ name: 'layer', label: 'Layer' },
	{ name: 'recipe', label: 'Mask recipe' },
	{ name: 'references', label: 'References' },
	{ name: 'history', label: 'History' },
	{ name: 'pen', label: 'Pen' },
	{ name: 'keys', label: 'Keys' },
] as const;

/** The drawers at the right edge: one open at a time, over the view. */
export function Rail() {
	const open = useStudio((state) => state.drawer);
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
					onClick={() => useStudio.setState({ drawer: open === name ? null : name })}
					className={`cut-small py-1 [writing-mode:vertical-rl] rotate-180 ${open === name ? 'font-bold' : 'text-ash'}`}
				>
					{label}
				</button>
			))}
			{open && (
				<div className="absolute inset-y-0 right-full z-20 flex w-[280px] flex-col border-l border-rule bg-paper shadow-lg">
					{open === 'layer' && <LayerDrawer />}
					{open === 'recipe' && <RecipeDrawer />}
					{open === 'history' && <HistoryDrawer />}
					{open === 'keys' && <KeysDrawer />}
					{open === 'pen' && <PenDrawer />}
					{open === 'references' && <ReferencesDrawer />}
				</div>
			)}
		</aside>
	);
}
