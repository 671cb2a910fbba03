import { type Project, raisedOn, type Sheet, spanOf } from '@eppu/core/document';
import { bakeKindOf, reliefLooks } from '@eppu/core/light';
import { useState } from 'react';
import { sheetsOf } from '../../actions/light.ts';
import { bakeFile, reliefFile } from '../../studio/line.ts';
import { useStudio } from '../../studio/store.ts';
import { Check } from '../../ui/Check.tsx';
import { Choice } from '../../ui/Choice.tsx';
import { Bay, Frame, WriteBay } from './Frame.tsx';
import { useStem, type Writing } from './useWriting.ts';

interface Row {
	readonly key: string;
	readonly name: string;
	readonly sheet: Sheet;
	readonly words: string;
	/** Written unless it is left; the other way round where not. */
	readonly usual: boolean;
	readonly write: (depth: 8 | 16) => ReturnType<typeof bakeFile>;
}

const bakesOf = ({ models }: Project): Row[] =>
	models.flatMap((model) =>
		(model.bakes ?? []).flatMap((bake) =>
			sheetsOf(model).map((sheet) => ({
				key: `${bake.id} ${sheet.id}`,
				name: bake.name,
				sheet,
				words: bakeKindOf(bake).words(bake),
				usual: true,
				write: (depth: 8 | 16) => bakeFile(sheet.id, bake.id, depth),
			})),
		),
	);

const reliefOf = ({ sheets }: Project): Row[] =>
	sheets.flatMap((sheet) => {
		const raised = raisedOn(sheet);
		const span = Number(spanOf(raised).toFixed(2));
		return (raised.length ? reliefLooks : []).map(({ look, name, normals }, i) => ({
			key: `~${look} ${sheet.id}`,
			name,
			sheet,
			words: normals ? 'Of all that stands out' : `Mid-grey is level, white ${span} hundredths of the model up`,
			usual: i < 2,
			write: (depth: 8 | 16) => reliefFile(sheet.id, look, depth),
		}));
	});

/** Bakes of all models on all their sheets, and what stands out there, as pictures of 8 or 16 bits a channel. */
export function BakesOutput({ writing }: { readonly writing: Writing }) {
	const project = useStudio((state) => state.outline?.project);
	const stem = useStem();
	const [depth, setDepth] = useState<'8' | '16'>('16');
	const [turned, setTurned] = useState<ReadonlySet<string>>(new Set());
	if (!project) return null;
	const all = [...bakesOf(project), ...reliefOf(project)];
	const isChosen = ({ key, usual }: Row): boolean => turned.has(key) !== usual;
	const chosen = all.filter(isChosen);
	const clean = (words: string): string => words.replace(/[^\p{L}\p{N}._ -]+/gu, '-').trim();
	const taken = new Map<string, number>();
	const jobs = chosen.map(({ name: called, sheet, write }) => {
		const name = clean(`${sheet.name} ${called}${depth === '16' ? ' 16 bit' : ''}`);
		const again = (taken.get(name) ?? 0) + 1;
		taken.set(name, again);
		return {
			name: `${called} on ${sheet.name}`,
			make: async () => {
				const { bytes, text } = await write(depth === '16' ? 16 : 8);
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
					{all.map((row) => (
						<li key={row.key} className="cut flex items-center gap-3 border border-rule bg-sheet px-3 py-1.5">
							<Check
								label={row.name}
								value={isChosen(row)}
								onChange={(on) => {
									const next = new Set(turned);
									if (on === row.usual) next.delete(row.key);
									else next.add(row.key);
									setTurned(next);
								}}
							/>
							<span className="min-w-0 flex-1 truncate text-right text-[12px] text-ash">
								{row.words} · {row.sheet.name}, {row.sheet.width} × {row.sheet.height}
							</span>
						</li>
					))}
					{!all.length && (
						<li className="text-ash">No model has bakes yet, which the Light stage makes, and no layer stands out.</li>
					)}
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
				words={jobs.length === 1 ? 'Write the picture' : `Write ${jobs.length} pictures`}
				problem={jobs.length ? null : 'Nothing is chosen.'}
				write={() =>
					void writing.write(jobs, { name: `${stem}-bakes`, what: `Bakes and relief, ${depth} bits`, together: true })
				}
			/>
		</Frame>
	);
}
