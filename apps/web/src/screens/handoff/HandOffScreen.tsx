import { fileName, handOffSizes } from '@eppu/core/format';
import { useState } from 'react';
import { pressPng } from '../../actions/pressPng.ts';
import { saveFile } from '../../server/library.ts';
import { buildUp, png } from '../../studio/line.ts';
import { useStudio } from '../../studio/store.ts';
import { Button } from '../../ui/Button.tsx';
import { Check } from '../../ui/Check.tsx';
import { Select } from '../../ui/Select.tsx';
import { SheetView } from '../../views/SheetView.tsx';

/** Hand off: each sheet as PNG at a chosen size. */
export function HandOffScreen() {
	const project = useStudio((state) => state.outline?.project);
	const [sizes, setSizes] = useState<Record<string, number>>({});
	const [state, setState] = useState<{ readonly busy: string | null; readonly said: string | null }>({
		busy: null,
		said: null,
	});
	const [smaller, setSmaller] = useState(false);
	const partly = useStudio((state) => state.alone !== null || state.builtUp !== null);
	if (!project) return null;
	const write = async (id: string, what: 'texture' | 'build-up'): Promise<void> => {
		const sheet = project.sheets.find((each) => each.id === id);
		if (!sheet) return;
		const size = handOffSizes(sheet.width, sheet.height)[sizes[id] ?? 0] ?? sheet;
		setState({ busy: id, said: null });
		const { bytes: fast, text } = what === 'texture' ? await png(id, size.width, size.height) : await buildUp(id);
		const bytes = fast && smaller ? await pressPng(fast) : fast;
		if (bytes) {
			const name = fileName(
				what === 'texture' ? '{project}-{sheet}' : '{project}-{sheet}-build-up',
				project.name,
				sheet,
				size.width,
			);
			saveFile(name, new Blob([bytes], { type: 'image/png' }));
			setState({
				busy: null,
				said: `${name} is made, ${Math.max(1, Math.round(bytes.length / 1024))} KB; your browser saves it.`,
			});
		} else setState({ busy: null, said: `${text} Nothing was written.` });
	};
	return (
		<main className="flex min-h-0 flex-1">
			<aside className="flex w-[340px] shrink-0 flex-col overflow-y-auto border-r border-rule p-4" aria-label="Outputs">
				<h2 className="text-[17px] font-bold">Textures</h2>
				<p className="mb-4 text-ash">
					8-bit sRGB PNG of each whole sheet, texel for texel as its layers are composited. Guides are never part of it.
				</p>
				{partly && (
					<p className="cut mb-4 border-l-4 border-berry bg-sheet px-3 py-1.5">
						Only a part of the stack is shown now; what is written is the whole sheet.
					</p>
				)}
				<ul className="grid gap-3">
					{project.sheets.map((sheet) => (
						<li key={sheet.id} className="cut border border-rule bg-sheet p-3">
							<button
								type="button"
								className="mb-2 block max-w-full truncate font-semibold"
								title="Show this sheet"
								onClick={() => useStudio.setState((now) => ({ desk: { ...now.desk, sheet: sheet.id } }))}
							>
								{sheet.name}
							</button>
							<div className="flex items-center gap-2">
								<Select
									label={`Size of ${sheet.name}`}
									value={String(sizes[sheet.id] ?? 0)}
									options={handOffSizes(sheet.width, sheet.height).map(
										(size, i) =>
											[String(i), `${size.width} × ${size.height}${i === 0 ? ', its own size' : ''}`] as const,
									)}
									onChange={(size) => setSizes({ ...sizes, [sheet.id]: Number(size) })}
								/>
								<Button look="main" disabled={state.busy !== null} onClick={() => void write(sheet.id, 'texture')}>
									{state.busy === sheet.id ? 'Writing…' : 'Write PNG'}
								</Button>
							</div>
							<Button
								look="bare"
								className="mt-1 !px-1"
								disabled={state.busy !== null}
								title="One picture of the sheet after each of its layers"
								onClick={() => void write(sheet.id, 'build-up')}
							>
								Build-up as a picture
							</Button>
						</li>
					))}
				</ul>
				<div className="mt-3">
					<Check
						label="Smaller files, slower"
						value={smaller}
						onChange={setSmaller}
						hint="The same texels in fewer bytes; takes some seconds a sheet"
					/>
				</div>
				<p className="mt-3 min-h-5" role="status">
					{state.said}
				</p>
				<p className="mt-auto pt-4 text-[12px] text-ash">
					The same textures, at their own size, without a browser:{' '}
					<code>npm run eppu -- export {project.id} --out DIR</code>
				</p>
			</aside>
			<div className="min-w-0 flex-1">
				<SheetView />
			</div>
		</main>
	);
}
