import { bakeKindOf } from '@eppu/core/light';
import { useState } from 'react';
import { sheetsOf } from '../../actions/light.ts';
import { bakeFile } from '../../studio/line.ts';
import { useStudio } from '../../studio/store.ts';
import { Check } from '../../ui/Check.tsx';
import { Choice } from '../../ui/Choice.tsx';
import { Bay, Frame, WriteBay } from './Frame.tsx';
import { useStem, type Writing } from './useWriting.ts';

/** Bakes of all models on all their sheets, as pictures of 8 or 16 bits a channel. */
export function BakesOutput({ writing }: { readonly writing: Writing }) {
	const project = useStudio((state) => state.outline?.project);
	const stem = useStem();
	const [depth, setDepth] = useState<'8' | '16'>('16');
	const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
	if (!project) return null;
	const all = project.models.flatMap((model) =>
		(model.bakes ?? []).flatMap((bake) =>
			sheetsOf(model).map((sheet) => ({ bake, sheet, key: `${bake.id} ${sheet.id}` })),
		),
	);
	const chosen = all.filter(({ key }) => !left.has(key));
	const clean = (words: string): string => words.replace(/[^\p{L}\p{N}._ -]+/gu, '-').trim();
	const taken = new Map<string, number>();
	const jobs = chosen.map(({ bake, sheet }) => {
		const name = clean(`${sheet.name} ${bake.name}${depth === '16' ? ' 16 bit' : ''}`);
		const again = (taken.get(name) ?? 0) + 1;
		taken.set(name, again);
		return {
			name: `${bake.name} on ${sheet.name}`,
			make: async () => {
				const { bytes, text } = await bakeFile(sheet.id, bake.id, depth === '16' ? 16 : 8);
				return {
					files: bytes ? [[`${name}${again > 1 ? ` ${again}` : ''}.png`, bytes] as const] : [],
					notes: [],
					text,
				};
			},
		};
	});
	return (
		<Frame
			middle={
				<ul aria-label="Bakes" className="grid flex-1 content-start gap-1.5 overflow-y-auto p-4">
					{all.map(({ bake, sheet, key }) => (
						<li key={key} className="cut flex items-center gap-3 border border-rule bg-sheet px-3 py-1.5">
							<Check
								label={bake.name}
								value={!left.has(key)}
								onChange={(on) => {
									const next = new Set(left);
									if (on) next.delete(key);
									else next.add(key);
									setLeft(next);
								}}
							/>
							<span className="min-w-0 flex-1 truncate text-right text-[12px] text-ash">
								{bakeKindOf(bake).words(bake)} · {sheet.name}, {sheet.width} × {sheet.height}
							</span>
						</li>
					))}
					{!all.length && <li className="text-ash">No model has bakes yet: the Light stage makes them.</li>}
				</ul>
			}
		>
			<Bay title="Bakes" wide="w-[300px]">
				<Choice
					label="Bits a channel"
					value={depth}
					options={[
						['8', '8 bits'],
						['16', '16 bits'],
					]}
					onChange={setDepth}
				/>
				<p className="text-ash">
					PNG of the sheet’s size, as data: no word on colours belongs to them. Computed anew for 16 bits where colours
					are kept with 8.
				</p>
			</Bay>
			<WriteBay
				writing={writing}
				words={jobs.length === 1 ? 'Write the bake' : `Write ${jobs.length} bakes`}
				problem={jobs.length ? null : 'No bake is chosen.'}
				write={() => void writing.write(jobs, { name: `${stem}-bakes`, what: `Bakes, ${depth} bits`, together: true })}
			/>
		</Frame>
	);
}
