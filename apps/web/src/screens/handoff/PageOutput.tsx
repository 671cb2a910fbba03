import { type PageOrder, pageProblem, usualPage } from '@eppu/core/handoff';
import { useEffect, useRef, useState } from 'react';
import { pageOut } from '../../studio/line.ts';
import { useStudio } from '../../studio/store.ts';
import { Button } from '../../ui/Button.tsx';
import { Check } from '../../ui/Check.tsx';
import { Choice } from '../../ui/Choice.tsx';
import { Bay, Frame, WriteBay } from './Frame.tsx';
import { useStem, type Writing } from './useWriting.ts';
import { WorkSeen } from './WorkSeen.tsx';

/** The page as it will be, made to be looked at; null where it is not, or not any more. */
function useSeen(order: PageOrder) {
	const [seen, setSeen] = useState<{ readonly of: string; readonly html: string } | null>(null);
	const [busy, setBusy] = useState<number | null>(null);
	const [text, setText] = useState<string | null>(null);
	const stop = useRef<AbortController | null>(null);
	useEffect(() => () => stop.current?.abort(), []);
	const of = JSON.stringify(order);
	return {
		html: seen?.of === of ? seen.html : null,
		busy,
		text,
		async see() {
			const own = new AbortController();
			stop.current = own;
			setBusy(0);
			setText(null);
			const answer = await pageOut(order, setBusy, own.signal);
			setBusy(null);
			const bytes = answer.files[0]?.[1];
			if (bytes && !own.signal.aborted) setSeen({ of, html: new TextDecoder().decode(bytes) });
			setText(answer.text);
		},
		hide: () => setSeen(null),
	};
}

/** One file that shows the work to other eyes. */
export function PageOutput({ writing }: { readonly writing: Writing }) {
	const project = useStudio((state) => state.outline?.project);
	const camera = useStudio((state) => state.desk.camera);
	const [order, setOrder] = useState<PageOrder>(usualPage);
	const [asSeen, setAsSeen] = useState(true);
	const stem = useStem();
	const wanted = { ...order, camera: asSeen ? camera : null };
	const page = useSeen(wanted);
	if (!project) return null;
	const field = (label: string, key: 'title' | 'words', empty: string, most: number) => (
		<input
			aria-label={label}
			placeholder={empty}
			className="cut-small w-full border border-rule bg-sheet px-1.5 py-0.5"
			value={order[key]}
			maxLength={most}
			onChange={(event) => setOrder({ ...order, [key]: event.target.value })}
		/>
	);
	return (
		<Frame
			middle={
				page.html === null ? (
					<WorkSeen />
				) : (
					// What is in it may run, and reach nothing here.
					<iframe
						title="The page"
						sandbox="allow-scripts"
						srcDoc={page.html}
						className="min-w-0 flex-1 border-0 bg-white"
					/>
				)
			}
		>
			<Bay title="Words on the page" wide="w-[260px]">
				{field('Title', 'title', project.name, 120)}
				{field('A line under it', 'words', 'A line under it, if you like', 300)}
				<p className="text-ash">
					One HTML file: each model to be dragged round, sheets with their template, before and after by layers, small
					sizes, the palette. It needs nothing from elsewhere, and works on a phone.
				</p>
			</Bay>
			<Bay title="Turntable">
				<Choice
					label="Pictures of a turn"
					value={String(order.turns)}
					options={['12', '24', '36', '72'].map((each) => [each, each] as const)}
					onChange={(turns) => setOrder({ ...order, turns: Number(turns) })}
				/>
				<Check label="Begin as it is seen here" value={asSeen} onChange={setAsSeen} />
			</Bay>
			<WriteBay
				writing={writing}
				problem={pageProblem(order)}
				words="Write the page"
				write={() =>
					void writing.write(
						[
							{
								name: 'The page',
								make: async (stop, far) => {
									const answer = await pageOut(wanted, far, stop);
									return { ...answer, files: answer.files.map(([, bytes]) => [`${stem}.html`, bytes] as const) };
								},
							},
						],
						{ name: stem, what: 'Page' },
					)
				}
			>
				{page.html === null ? (
					<Button disabled={page.busy !== null || pageProblem(order) !== null} onClick={() => void page.see()}>
						{page.busy === null ? 'See it here' : `Making it… ${Math.round(page.busy * 100)}%`}
					</Button>
				) : (
					<Button onClick={page.hide}>Put it away</Button>
				)}
				{page.text && <p className="text-lingon">{page.text}</p>}
			</WriteBay>
		</Frame>
	);
}
