import { useRef } from 'react';
import { takeLayersIn } from '../../actions/handoff.ts';
import { layersOut } from '../../studio/line.ts';
import { activeSheet, useStudio } from '../../studio/store.ts';
import { Button } from '../../ui/Button.tsx';
import { SheetView } from '../../views/SheetView.tsx';
import { Bay, Frame, WriteBay } from './Frame.tsx';
import { useStem, type Writing } from './useWriting.ts';

/** Layers for another editor, and back from it. */
export function LayersOutput({ writing }: { readonly writing: Writing }) {
	const project = useStudio((state) => state.outline?.project);
	const sheet = useStudio(activeSheet);
	const file = useRef<HTMLInputElement>(null);
	const into = useRef<'sheet' | 'new'>('sheet');
	const stem = useStem();
	if (!project || !sheet) return null;
	const choose = (where: 'sheet' | 'new'): void => {
		into.current = where;
		file.current?.click();
	};
	const name = (each: string): string => `${stem} ${each.replace(/[^\p{L}\p{N} _-]+/gu, '-')}.ora`;
	const jobOf = (each: typeof sheet) => ({
		name: each.name,
		make: async () => {
			const { files, ...rest } = await layersOut(each.id);
			return { ...rest, files: files.map(([, bytes]) => [name(each.name), bytes] as const) };
		},
	});
	return (
		<Frame middle={<SheetView />}>
			<Bay title="What goes along" wide="w-[330px]">
				<p className="text-ash">
					OpenRaster: groups, names, opacity, modes, masks, clipping, what is hidden or locked. Washes, lettering, light
					and recipes go as pixels with words of ours; what the other editor leaves alone comes back as it was.
				</p>
			</Bay>
			<Bay title="Take in" wide="w-[230px]">
				<Button onClick={() => choose('sheet')}>Into “{sheet.name.slice(0, 18)}”…</Button>
				<Button onClick={() => choose('new')}>As one more sheet…</Button>
				<p className="text-ash">One step, taken back by undo. What nobody changed stays as it is.</p>
				<input
					ref={file}
					type="file"
					aria-label="OpenRaster file"
					className="sr-only"
					tabIndex={-1}
					accept=".ora"
					onChange={(event) => {
						const [chosen] = event.target.files ?? [];
						if (chosen)
							void takeLayersIn(chosen, into.current === 'sheet' ? sheet.id : null).finally(() => {
								if (file.current) file.current.value = '';
							});
					}}
				/>
			</Bay>
			<WriteBay
				writing={writing}
				words={`Write “${sheet.name.slice(0, 18)}”`}
				write={() => void writing.write([jobOf(sheet)], { name: stem, what: `Layers of ${sheet.name}` })}
			>
				{project.sheets.length > 1 && (
					<Button
						disabled={writing.busy !== null}
						onClick={() =>
							void writing.write(project.sheets.map(jobOf), { name: `${stem} layers`, what: 'Layers of all sheets' })
						}
					>
						Write all {project.sheets.length} sheets
					</Button>
				)}
			</WriteBay>
		</Frame>
	);
}
