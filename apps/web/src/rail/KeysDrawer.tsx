import { useEffect, useState } from 'react';
import { commands } from '../actions/command.ts';
import { keysOf, ownKeys, setKeys, writtenKeys } from '../input/keys.ts';
import { Button } from '../ui/Button.tsx';
import type { DrawerKind } from './drawer.ts';

/** The keys of all commands; a click on one waits for another. */
export function KeysDrawer() {
	const [waiting, setWaiting] = useState<string | null>(null);
	const [, setTurn] = useState(0);
	useEffect(() => {
		if (!waiting) return;
		const heard = (event: KeyboardEvent): void => {
			if (['Shift', 'Control', 'Alt', 'Meta'].includes(event.key)) return;
			event.preventDefault();
			event.stopImmediatePropagation();
			if (event.key !== 'Escape') setKeys(waiting, writtenKeys(event));
			setWaiting(null);
		};
		addEventListener('keydown', heard, { capture: true });
		return () => removeEventListener('keydown', heard, { capture: true });
	}, [waiting]);
	const own = ownKeys();
	return (
		<>
			<div className="flex items-center gap-2 px-4 pt-3 pb-1">
				<h2 className="flex-1 text-[15px] font-bold">Keys</h2>
				{Object.keys(own).length > 0 && (
					<Button
						look="bare"
						onClick={() => {
							for (const id of Object.keys(own)) setKeys(id, null);
							setTurn((n) => n + 1);
						}}
					>
						Ours again
					</Button>
				)}
			</div>
			<p className="px-4 pb-2 text-[12px] text-ash">
				Click a key to change it. Held keys work while they are down and stay as they are.
			</p>
			<ul className="min-h-0 flex-1 overflow-y-auto px-2 pb-3">
				{commands()
					.filter((command) => command.keys)
					.map((command) => (
						<li key={command.id} className="flex items-center gap-2 px-2 py-px">
							<span className="min-w-0 flex-1 truncate" title={command.label}>
								{command.label}
							</span>
							{command.held ? (
								<kbd className="font-text text-ash">{command.keys} held</kbd>
							) : (
								<button
									type="button"
									aria-label={`Key of ${command.label}`}
									onClick={() => setWaiting(command.id)}
									className={`cut-small min-w-9 border border-rule px-1.5 ${waiting === command.id ? 'bg-berry text-soot' : 'bg-sheet'}`}
								>
									{waiting === command.id ? 'Press…' : keysOf(command) || 'none'}
								</button>
							)}
						</li>
					))}
			</ul>
		</>
	);
}

export const keysDrawer: DrawerKind = {
	name: 'keys',
	label: 'Keys',
	asks: 'Keys drawer',
	Drawer: KeysDrawer,
};
