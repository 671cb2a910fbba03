import { type Palette, toneChart } from '@eppu/core/color';
import {
	type PaletteResult,
	paletteOfHexList,
	paletteOfPicture,
	paletteOfTokens,
	pictureEndings,
	readPictureFile,
} from '@eppu/core/format';
import { useState } from 'react';
import { toast } from 'sonner';
import { addRamp } from '../actions/colors.ts';
import { paletteFile, paletteKinds } from '../actions/paletteFiles.ts';
import { chooseFiles, saveFile, takeFromLibrary, useLibrary, useLibraryChange } from '../server/library.ts';
import { setFront } from '../studio/desk.ts';
import { run } from '../studio/say.ts';
import { pots, useStudio } from '../studio/store.ts';
import { Button } from '../ui/Button.tsx';
import { Dial } from '../ui/Dial.tsx';
import { KeptList } from './KeptList.tsx';

/** The palette of a file: design tokens, a list of hex colours, or a picture. */
async function paletteOfFile(file: File): Promise<PaletteResult> {
	if (file.size > 8 * 1024 * 1024)
		return { ok: false, text: `${file.name} is too large for a palette (8 MB at the most).` };
	if (/\.json$/i.test(file.name)) return paletteOfTokens(await file.text(), file.name);
	if (!/\.(png|jpe?g|webp)$/i.test(file.name)) return paletteOfHexList(await file.text(), file.name);
	const read = readPictureFile(new Uint8Array(await file.arrayBuffer()), file.name);
	if (!read.ok) return read;
	try {
		const bitmap = await createImageBitmap(file);
		const canvas = new OffscreenCanvas(bitmap.width, bitmap.height);
		const context = canvas.getContext('2d');
		context?.drawImage(bitmap, 0, 0);
		const data = context?.getImageData(0, 0, bitmap.width, bitmap.height).data;
		return paletteOfPicture(
			{ width: bitmap.width, height: bitmap.height, data: new Uint8Array(data ?? []) },
			file.name,
		);
	} catch {
		return { ok: false, text: `${file.name} is damaged: it cannot be read. Save it again.` };
	}
}

const setPalette = (palette: Palette): void => run({ do: 'palette.set', palette });

/** Ramps, the tone chart, palettes for all projects, and palettes in and out. */
export function PaletteMenu() {
	const palette = useStudio((state) => state.outline?.project.palette);
	const front = useStudio((state) => pots(state).front);
	const kept = useLibrary('palette');
	const { putJson, remove } = useLibraryChange();
	const [steps, setSteps] = useState(5);
	if (!palette) return null;
	const bring = async (): Promise<void> => {
		const [file] = await chooseFiles(['.json', '.txt', '.hex', '.css', ...pictureEndings].join(), false);
		if (!file) return;
		const read = await paletteOfFile(file);
		if (read.ok) setPalette(read.palette);
		else toast(read.text);
	};
	return (
		<>
			<h3 className="bay-title mb-1">Tone chart of the front pot</h3>
			<div className="grid grid-cols-11 gap-px" role="group" aria-label="Tone chart">
				{(['grey', 'tinted'] as const).flatMap((row) =>
					toneChart(front, 11).map((each) => (
						<button
							key={`${row}${each.l}`}
							type="button"
							aria-label={`Lightness ${Math.round(each.l * 100)}, ${row}`}
							title={`L ${Math.round(each.l * 100)} · ${each[row]}`}
							onClick={() => setFront(each[row])}
							className="h-6"
							style={{ background: each[row] }}
						/>
					)),
				)}
			</div>
			<h3 className="bay-title mt-3 mb-1">Ramp between the pots</h3>
			<div className="flex items-center gap-2">
				<div className="flex-1">
					<Dial
						label="Steps"
						unit=""
						least={3}
						most={21}
						value={steps}
						usual={5}
						onChange={(v) => setSteps(Math.round(v))}
					/>
				</div>
				<Button onClick={() => addRamp(steps)} title="G">
					Into the palette
				</Button>
			</div>
			<h3 className="bay-title mt-3 mb-1">Palettes for all projects</h3>
			<KeptList items={kept} onDrop={remove} onTake={({ id }) => takeFromLibrary<Palette>(id, setPalette)} />
			<div className="mt-1 flex items-center gap-2">
				<input
					key={palette.name}
					aria-label="Name of the palette"
					defaultValue={palette.name}
					maxLength={120}
					className="cut-small min-w-0 flex-1 border border-rule bg-paper px-2 py-0.5"
					onKeyDown={(event) => event.stopPropagation()}
					onBlur={(event) => {
						const name = event.target.value.trim();
						if (name && name !== palette.name) setPalette({ ...palette, name });
					}}
				/>
				<Button onClick={() => putJson('palette', palette.name, palette)}>Keep for all</Button>
			</div>
			<h3 className="bay-title mt-3 mb-1">In and out</h3>
			<div className="flex flex-wrap gap-1.5">
				<Button onClick={() => void bring()}>Open a file…</Button>
				{paletteKinds.map(([kind, words]) => (
					<Button
						key={kind}
						onClick={() => void paletteFile(palette, kind).then(([name, bytes]) => saveFile(name, new Blob([bytes])))}
					>
						{words}
					</Button>
				))}
			</div>
			<Button
				className="mt-2"
				look="danger"
				disabled={!palette.colors.includes(front)}
				onClick={() => setPalette({ ...palette, colors: palette.colors.filter((hex) => hex !== front) })}
			>
				Take the front pot out of the palette
			</Button>
		</>
	);
}
