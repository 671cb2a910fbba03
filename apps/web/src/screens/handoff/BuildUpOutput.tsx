import { buildUp } from '../../studio/line.ts';
import { activeSheet, useStudio } from '../../studio/store.ts';
import { SheetView } from '../../views/SheetView.tsx';
import { Bay, Frame, WriteBay } from './Frame.tsx';
import { useStem, type Writing } from './useWriting.ts';

/** One picture of a sheet after each of its layers. */
export function BuildUpOutput({ writing }: { readonly writing: Writing }) {
	const sheet = useStudio(activeSheet);
	const stem = useStem();
	if (!sheet) return null;
	return (
		<Frame middle={<SheetView />}>
			<Bay title="Build-up" wide="w-[330px]">
				<p className="text-ash">“{sheet.name}” after each of its layers, from the bare to the finished, in one PNG.</p>
			</Bay>
			<WriteBay
				writing={writing}
				words="Build-up as a picture"
				write={() =>
					void writing.write(
						[
							{
								name: sheet.name,
								make: async () => {
									const { bytes, text } = await buildUp(sheet.id);
									const name = `${stem}-${sheet.name}-build-up.png`.replace(/[^\p{L}\p{N}._-]+/gu, '-').toLowerCase();
									return { files: bytes ? [[name, bytes]] : [], notes: [], text };
								},
							},
						],
						{ name: stem, what: `Build-up of ${sheet.name}` },
					)
				}
			/>
		</Frame>
	);
}
