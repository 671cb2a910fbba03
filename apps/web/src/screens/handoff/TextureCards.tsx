import { type Project, sheetOf } from '@eppu/core/document';
import { fileKindOf, type TextureFile, type TextureOrder } from '@eppu/core/handoff';
import { useEffect, useState } from 'react';
import { kilobytes } from '../../actions/handoff.ts';
import { showSheet } from '../../actions/views.ts';
import { Button } from '../../ui/Button.tsx';
import { fileMade, type Made } from './textureJob.ts';
import type { Writing } from './useWriting.ts';

/** So many are shown as pictures by themselves; of others the names. */
const MOST_SHOWN = 12;
/** What is chosen is waited for so long before pictures are made. */
const WAIT_MS = 250;

interface Shown {
	readonly url: string;
	readonly bytes: number;
}

/** The files of an order as they will be written: pictures of the very files. */
export function TextureCards({
	files,
	order,
	project,
	made,
	writing,
	write,
}: {
	readonly files: readonly TextureFile[];
	readonly order: TextureOrder;
	readonly project: Project;
	readonly made: Made;
	readonly writing: Writing;
	readonly write: (files: readonly TextureFile[]) => void;
}) {
	const [shown, setShown] = useState<ReadonlyMap<string, Shown | string>>(new Map());
	const kind = fileKindOf(order.file);
	useEffect(() => {
		let gone = false;
		const urls: string[] = [];
		const timer = setTimeout(async () => {
			for (const file of files.slice(0, MOST_SHOWN)) {
				const { files: out, text } = await fileMade(file, order, project, made);
				if (gone) return;
				const bytes = out[0]?.[1];
				if (bytes) urls.push(URL.createObjectURL(new Blob([bytes], { type: kind.mime })));
				const found = bytes ? { url: urls.at(-1) as string, bytes: bytes.length } : (text ?? '');
				setShown((now) => new Map([...now, [file.path, found]]));
			}
		}, WAIT_MS);
		return () => {
			gone = true;
			clearTimeout(timer);
			setShown(new Map());
			for (const url of urls) URL.revokeObjectURL(url);
		};
	}, [files, order, project, made, kind.mime]);
	return (
		<ul
			aria-label="Files that will be written"
			className="grid flex-1 auto-rows-min grid-cols-[repeat(auto-fill,minmax(210px,1fr))] gap-3 overflow-y-auto p-4"
		>
			{files.map((file) => {
				const sheet = sheetOf(project, file.sheet);
				const found = shown.get(file.path);
				const picture = typeof found === 'object' ? found : null;
				return (
					<li key={file.path} className="cut grid content-start gap-1.5 border border-rule bg-sheet p-2.5">
						<div className="checkered grid aspect-square place-items-center overflow-hidden">
							{picture ? (
								<img
									src={picture.url}
									alt={`${file.path}, as it will be`}
									className={`max-h-full max-w-full object-contain ${file.width < 300 ? 'h-full' : ''}`}
									style={{ imageRendering: sheet?.pixel || file.width < 200 ? 'pixelated' : 'auto' }}
								/>
							) : (
								<span className="px-3 text-center text-[12px]">
									{typeof found === 'string' ? found : files.indexOf(file) < MOST_SHOWN ? 'Making the picture…' : ''}
								</span>
							)}
						</div>
						<p className="truncate font-semibold" title={file.path}>
							{file.path}
						</p>
						<p className="text-[12px] text-ash">
							<button
								type="button"
								className="max-w-[60%] truncate align-bottom underline decoration-dotted underline-offset-2"
								title="Make this the sheet that is worked on"
								onClick={() => showSheet(file.sheet)}
							>
								{sheet?.name}
							</button>{' '}
							{file.width} × {file.height}
							{picture ? `, ${kilobytes(picture.bytes)}` : ''}
						</p>
						<Button disabled={writing.busy !== null} onClick={() => write([file])}>
							Write {kind.words}
						</Button>
					</li>
				);
			})}
		</ul>
	);
}
