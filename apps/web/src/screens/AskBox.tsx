import { Dialog } from 'radix-ui';
import { useState } from 'react';
import { commands } from '../actions/command.ts';
import { keysOf } from '../input/keys.ts';
import { useStudio } from '../studio/store.ts';

/** "Ask for…": every command by its words, with its key. */
export function AskBox() {
	const open = useStudio((state) => state.asking);
	const [text, setText] = useState('');
	const [at, setAt] = useState(0);
	const close = (): void => {
		useStudio.setState({ asking: false });
		setText('');
		setAt(0);
	};
	const words = text.toLowerCase().split(/\s+/).filter(Boolean);
	const found = commands().filter(
		(command) => !command.held && words.every((word) => command.label.toLowerCase().includes(word)),
	);
	const go = (index: number): void => {
		const command = found[index];
		close();
		command?.run();
	};
	return (
		<Dialog.Root open={open} onOpenChange={(next) => !next && close()}>
			<Dialog.Portal>
				<Dialog.Content
					aria-describedby={undefined}
					className="cut fixed top-24 left-1/2 z-50 w-[440px] -translate-x-1/2 border border-rule bg-sheet p-2 shadow-xl"
				>
					<Dialog.Title className="sr-only">Ask for a command</Dialog.Title>
					<input
						autoFocus
						placeholder="Ask for…"
						aria-label="Ask for a command"
						className="cut w-full border border-rule bg-paper px-3 py-2"
						value={text}
						onChange={(event) => {
							setText(event.target.value);
							setAt(0);
						}}
						onKeyDown={(event) => {
							if (event.key === 'ArrowDown') setAt(Math.min(found.length - 1, at + 1));
							else if (event.key === 'ArrowUp') setAt(Math.max(0, at - 1));
							else if (event.key === 'Enter') go(at);
							else return;
							event.preventDefault();
						}}
					/>
					<ul className="mt-1 max-h-72 overflow-y-auto" role="listbox" aria-label="Commands">
						{found.map((command, i) => (
							<li key={command.id} role="option" aria-selected={i === at}>
								<button
									type="button"
									tabIndex={-1}
									onClick={() => go(i)}
									onPointerEnter={() => setAt(i)}
									className={`cut-small flex w-full items-center gap-3 px-3 py-1 text-left ${i === at ? 'bg-bark' : ''}`}
								>
									<span className="flex-1">{command.label}</span>
									<kbd className="font-text text-ash">{keysOf(command)}</kbd>
								</button>
							</li>
						))}
						{found.length === 0 && <li className="px-3 py-2 text-ash">No command has these words.</li>}
					</ul>
				</Dialog.Content>
			</Dialog.Portal>
		</Dialog.Root>
	);
}
