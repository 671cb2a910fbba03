import { createContext, type ReactNode, useContext } from 'react';
import { Button } from '../../ui/Button.tsx';
import type { Writing } from './useWriting.ts';

/** What stands left of what will be written, for all outputs. */
export const Beside = createContext<ReactNode>(null);

/** An output: what will be written in the middle, its dials and what became of it on the bench. */
export function Frame({ middle, children }: { readonly middle: ReactNode; readonly children: ReactNode }) {
	return (
		<main className="flex min-h-0 flex-1 flex-col">
			<div className="flex min-h-0 flex-1">
				{useContext(Beside)}
				<div className="flex min-w-0 flex-1">{middle}</div>
			</div>
			<div className="flex min-h-[176px] items-start gap-4 overflow-x-auto border-t border-rule px-3 py-2 xl:gap-6 xl:px-4">
				{children}
			</div>
		</main>
	);
}

export function Bay({
	title,
	wide = 'w-[220px]',
	kept = false,
	children,
}: {
	readonly title: string;
	readonly wide?: string;
	/** Stays in view where there is no room for all. */
	readonly kept?: boolean;
	readonly children: ReactNode;
}) {
	return (
		<section
			aria-label={title}
			className={`grid shrink-0 content-start gap-1.5 text-[12px] ${wide} ${kept ? 'sticky right-0 ml-auto self-stretch bg-paper pl-3' : ''}`}
		>
			<h2 className="bay-title">{title}</h2>
			{children}
		</section>
	);
}

/** The button that writes, how far it is, and what was written. */
export function WriteBay({
	writing,
	words,
	write,
	problem = null,
	children,
}: {
	readonly writing: Writing;
	/** What the button says. */
	readonly words: string;
	readonly write: () => void;
	/** Why nothing can be written. */
	readonly problem?: string | null;
	readonly children?: ReactNode;
}) {
	const { busy, said, stop } = writing;
	return (
		<Bay title="Write" wide="w-[230px]" kept>
			{children}
			{busy ? (
				<div className="flex items-center gap-2">
					<progress className="h-2 min-w-0 flex-1 accent-pine" value={busy.done} aria-label={`Writing ${busy.name}`} />
					<Button onClick={stop}>Stop</Button>
				</div>
			) : (
				<Button look="main" disabled={problem !== null} onClick={write}>
					{words}
				</Button>
			)}
			<div role="status" className="grid max-h-24 gap-1 overflow-y-auto">
				{problem && <p className="text-lingon">{problem}</p>}
				{busy ? (
					<p className="truncate">{busy.name}</p>
				) : (
					said.map((each) => (
						<p key={each} className="break-words">
							{each}
						</p>
					))
				)}
			</div>
		</Bay>
	);
}
