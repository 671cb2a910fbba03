import type { ReactNode } from 'react';

/** What is pointed out on both views, and what is meant by what is done. */
export interface Lighting {
	readonly lit: string | null;
	/** Points faces out on both views; the same again does no more. */
	readonly light: (name: string, faces: () => Uint32Array) => void;
}

export function Block({
	title,
	children,
	action,
}: {
	readonly title: string;
	readonly children: ReactNode;
	readonly action?: ReactNode;
}) {
	return (
		<section className="border-b border-rule px-3 py-3" aria-label={title}>
			<div className="mb-2 flex items-center justify-between gap-2">
				<h2 className="bay-title min-w-0 truncate">{title}</h2>
				{action}
			</div>
			{children}
		</section>
	);
}

export const lightRow = (pressed: boolean): string =>
	`cut w-full border px-2.5 py-1.5 text-left ${pressed ? 'border-berry bg-berry-soft' : 'border-rule bg-sheet hover:border-ash'}`;
