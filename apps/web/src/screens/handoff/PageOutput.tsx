import { type PageOrder, pageProblem, usualPage } from '@eppu/core/handoff';
import { useState } from 'react';
import { pageOut } from '../../studio/line.ts';
import { useStudio } from '../../studio/store.ts';
import { Check } from '../../ui/Check.tsx';
import { Choice } from '../../ui/Choice.tsx';
import { Bay, Frame, WriteBay } from './Frame.tsx';
import { useStem, type Writing } from './useWriting.ts';
import { WorkSeen } from './WorkSeen.tsx';

/** One file that shows the work to other eyes. */
export function PageOutput({ writing }: { readonly writing: Writing }) {
	const project = useStudio((state) => state.outline?.project);
	const camera = useStudio((state) => state.desk.camera);
	const [order, setOrder] = useState<PageOrder>(usualPage);
	const [asSeen, setAsSeen] = useState(true);
	const stem = useStem();
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
		<Frame middle={<WorkSeen />}>
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
									const answer = await pageOut({ ...order, camera: asSeen ? camera : null }, far, stop);
									return { ...answer, files: answer.files.map(([, bytes]) => [`${stem}.html`, bytes] as const) };
								},
							},
						],
						{ name: stem, what: 'Page' },
					)
				}
			/>
		</Frame>
	);
}
