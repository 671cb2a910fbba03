import type { Sheet } from '@eppu/core/document';
import { fileName, type TemplateLook } from '@eppu/core/format';
import { useEffect, useState } from 'react';
import { template } from '../../studio/line.ts';
import { activeSheet, useStudio } from '../../studio/store.ts';
import { Choice } from '../../ui/Choice.tsx';
import { firstTemplate, TemplateDials } from '../TemplateDials.tsx';
import { Bay, Frame, WriteBay } from './Frame.tsx';
import { SizesChoice } from './SizesChoice.tsx';
import { useStem, type Writing } from './useWriting.ts';

/** Px of the template as it is shown beforehand. */
const SHOWN = 768;

/** The template of a sheet as it will be. */
function Seen({ sheet, look }: { readonly sheet: Sheet; readonly look: TemplateLook }) {
	const [url, setUrl] = useState<string | null>(null);
	useEffect(() => {
		let made: string | null = null;
		let gone = false;
		void template(sheet.id, Math.min(SHOWN, sheet.width), look, 'png').then(({ bytes }) => {
			if (gone || !bytes) return;
			made = URL.createObjectURL(new Blob([bytes], { type: 'image/png' }));
			setUrl(made);
		});
		return () => {
			gone = true;
			if (made) URL.revokeObjectURL(made);
		};
	}, [sheet, look]);
	return (
		<div className="grid min-h-0 flex-1 place-items-center overflow-hidden bg-view p-4">
			{url && (
				<img
					src={url}
					alt={`Template of ${sheet.name}`}
					className="checkered max-h-full max-w-full object-contain"
					style={{ height: '100%' }}
				/>
			)}
		</div>
	);
}

/** What lies where on the sheets, as pictures to paint over in any program. */
export function TemplatesOutput({ writing }: { readonly writing: Writing }) {
	const project = useStudio((state) => state.outline?.project);
	const sheet = useStudio(activeSheet);
	const stem = useStem();
	const [look, setLook] = useState(firstTemplate);
	const [of, setOf] = useState<'this' | 'all'>('this');
	const [as, setAs] = useState<'png' | 'svg'>('png');
	const [sizes, setSizes] = useState<readonly number[]>([0]);
	if (!project || !sheet) return null;
	const laid = new Set(project.models.flatMap(({ parts }) => parts.map((part) => part.sheet)));
	const sheets = (of === 'all' ? project.sheets : [sheet]).filter(({ id }) => laid.has(id));
	const jobs = sheets.flatMap((each) =>
		sizes.map((side) => {
			const width =
				side === 0 ? each.width : Math.max(1, Math.round((side * each.width) / Math.max(each.width, each.height)));
			const name = fileName('{project}-{sheet}-template-{size}', project.name, each, width).replace(/png$/, as);
			return {
				name: each.name,
				make: async () => {
					const { bytes, text } = await template(each.id, width, look, as);
					return { files: bytes ? [[name, bytes] as const] : [], notes: [], text };
				},
			};
		}),
	);
	return (
		<Frame middle={<Seen sheet={sheet} look={look} />}>
			<Bay title="Template" wide="w-[260px]">
				<p className="text-ash">To paint over in any program. Nothing of it is ever in a texture.</p>
				<Choice
					label="Of which sheets"
					value={of}
					options={[
						['this', 'This sheet'],
						['all', 'All sheets'],
					]}
					onChange={setOf}
				/>
				<Choice
					label="Kind of file"
					value={as}
					options={[
						['png', 'PNG'],
						['svg', 'SVG'],
					]}
					onChange={setAs}
				/>
			</Bay>
			<Bay title="What it shows" wide="w-[230px]">
				<TemplateDials look={look} onChange={setLook} />
			</Bay>
			<Bay title="Sizes" wide="w-[300px]">
				<SizesChoice sizes={sizes} onChange={setSizes} />
			</Bay>
			<WriteBay
				writing={writing}
				words={jobs.length > 1 ? `Write ${jobs.length} templates` : 'Write the template'}
				problem={jobs.length ? null : 'No model lies on that sheet: there is nothing to show.'}
				write={() =>
					void writing.write(jobs, {
						name: `${stem}-templates`,
						what: `Templates of ${sheets.map(({ name }) => name).join(', ')}`,
						together: true,
					})
				}
			/>
		</Frame>
	);
}
