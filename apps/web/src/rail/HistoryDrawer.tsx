import { tell } from '../studio/line.ts';
import { useStudio } from '../studio/store.ts';
import type { DrawerKind } from './drawer.ts';

/** Every step in plain words; pointing at one goes there. */
export function HistoryDrawer() {
	const outline = useStudio((state) => state.outline);
	const done = [...(outline?.done ?? [])].reverse();
	const undone = outline?.undone ?? [];
	const go = (say: 'undo' | 'redo', steps: number): void => {
		for (let i = 0; i < steps; i++) tell({ say });
	};
	const row = 'cut-small w-full truncate px-2 py-0.5 text-left hover:bg-bark';
	return (
		<>
			<h2 className="px-4 pt-3 pb-2 text-[15px] font-bold">History</h2>
			<ol className="min-h-0 flex-1 overflow-y-auto px-2 pb-3">
				{[...undone].reverse().map((words, i) => (
					<li key={`u${undone.length - i}`}>
						<button type="button" className={`${row} text-ash italic`} onClick={() => go('redo', undone.length - i)}>
							{words}
						</button>
					</li>
				))}
				{done.map((words, i) => (
					<li key={`d${done.length - i}`}>
						<button
							type="button"
							className={`${row} ${i === 0 ? 'bg-bark font-bold' : ''}`}
							aria-current={i === 0 || undefined}
							onClick={() => go('undo', i)}
						>
							{words}
						</button>
					</li>
				))}
				<li>
					<button
						type="button"
						className={`${row} ${done.length === 0 ? 'bg-bark font-bold' : ''}`}
						onClick={() => go('undo', done.length)}
					>
						As it was opened
					</button>
				</li>
			</ol>
		</>
	);
}

export const historyDrawer: DrawerKind = {
	name: 'history',
	label: 'History',
	asks: 'History drawer',
	Drawer: HistoryDrawer,
};
