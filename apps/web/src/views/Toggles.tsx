import type { ReactNode } from 'react';
import { type StudioState, useStudio } from '../studio/store.ts';

type Name = keyof StudioState['show'];

/** How a button over a view looks. */
export const overView = (pressed: boolean): string =>
	`cut-small px-2 py-0.5 text-[12px] leading-4 ${pressed ? 'bg-[#f3efe7] text-[#26231e]' : 'bg-black/35 text-white'}`;

/** A view's name and what is shown in it. */
export function Toggles({
	title,
	list,
	children,
}: {
	readonly title: string;
	readonly list: readonly (readonly [Name, string])[];
	readonly children?: ReactNode;
}) {
	const show = useStudio((state) => state.show);
	return (
		<header className="absolute top-2 right-3 left-3 flex flex-wrap items-center gap-1.5 [pointer-events:none] *:[pointer-events:auto]">
			<h2 className="mr-1.5 text-[15px] font-semibold">{title}</h2>
			{list.map(([name, label]) => (
				<button
					key={name}
					type="button"
					aria-pressed={show[name]}
					onClick={() => useStudio.setState({ show: { ...show, [name]: !show[name] } })}
					className={overView(show[name])}
				>
					{label}
				</button>
			))}
			{children}
		</header>
	);
}
