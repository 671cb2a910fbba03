import {
	fileKindOf,
	OrderError,
	type TextureFile,
	type TextureOrder,
	textureFiles,
	usualOrder,
} from '@eppu/core/handoff';
import { useMemo, useState } from 'react';
import { hasFolders } from '../../actions/outFolder.ts';
import { activeSheet, useStudio } from '../../studio/store.ts';
import { Check } from '../../ui/Check.tsx';
import { Frame, WriteBay } from './Frame.tsx';
import { FileBay, NameBay, SizeBay, SourceBay } from './TextureBays.tsx';
import { TextureCards } from './TextureCards.tsx';
import { type Made, textureJob } from './textureJob.ts';
import { useStem, type Writing } from './useWriting.ts';

/** Textures as picture files: each of them is seen as it will be before it is written. */
export function TexturesOutput({ writing }: { readonly writing: Writing }) {
	const project = useStudio((state) => state.outline?.project);
	const active = useStudio(activeSheet)?.id;
	const [order, setOrder] = useState<TextureOrder>(usualOrder);
	const [only, setOnly] = useState<'all' | 'one'>('all');
	const [together, setTogether] = useState(true);
	const [made] = useState<Made>(() => new Map());
	const stem = useStem();
	const found = useMemo((): { readonly files: readonly TextureFile[]; readonly problem: string | null } => {
		if (!project) return { files: [], problem: null };
		try {
			const sheets = project.sheets.map(({ id }) => id).filter((id) => only === 'all' || id === active);
			return { files: textureFiles(project, sheets, order), problem: null };
		} catch (error) {
			if (!(error instanceof OrderError)) throw error;
			return { files: [], problem: error.message };
		}
	}, [project, order, only, active]);
	if (!project) return null;
	const kind = fileKindOf(order.file);
	const write = (files: readonly TextureFile[]): void =>
		void writing.write(
			files.map((file) => textureJob(file, order, project, made)),
			{
				name: `${stem} textures`,
				what: `${files.length === 1 ? 'Texture' : 'Textures'} as ${kind.words}`,
				together: together || files.length === 1,
			},
		);
	return (
		<Frame
			middle={
				found.problem ? (
					<p className="m-auto max-w-sm text-center text-ash">{found.problem}</p>
				) : (
					<TextureCards
						files={found.files}
						order={order}
						project={project}
						made={made}
						writing={writing}
						write={write}
					/>
				)
			}
		>
			<SourceBay order={order} put={setOrder} sheets={project.sheets.length} only={only} setOnly={setOnly} />
			<FileBay order={order} put={setOrder} />
			<SizeBay order={order} put={setOrder} />
			<NameBay order={order} put={setOrder} files={found.files} />
			<WriteBay
				writing={writing}
				problem={found.problem}
				words={found.files.length === 1 ? 'Write 1 file' : `Write ${found.files.length} files`}
				write={() => write(found.files)}
			>
				{kind.kind === 'png' && order.channels === 'rgba' && (
					<Check
						label="Smaller files, slower"
						value={order.smaller}
						onChange={(smaller) => setOrder({ ...order, smaller })}
						hint="The same texels in fewer bytes; takes some seconds a sheet"
					/>
				)}
				{found.files.length > 1 && (
					<>
						<Check label="Together in one ZIP" value={together} onChange={setTogether} />
						{!together && (
							<p className="text-ash">
								{hasFolders()
									? 'Into a folder that you choose, with folders as the names say.'
									: 'One by one; folders stand before the names.'}
							</p>
						)}
					</>
				)}
			</WriteBay>
		</Frame>
	);
}
