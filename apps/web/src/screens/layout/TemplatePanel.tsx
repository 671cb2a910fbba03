import { fileName } from '@eppu/core/format';
import { useState } from 'react';
import { saveFile } from '../../server/library.ts';
import { template } from '../../studio/line.ts';
import { activeSheet, useStudio } from '../../studio/store.ts';
import { Button } from '../../ui/Button.tsx';
import { Choice } from '../../ui/Choice.tsx';
import { Popover } from '../../ui/Popover.tsx';
import { firstTemplate, TemplateDials } from '../TemplateDials.tsx';

const widths = [512, 1024, 2048, 4096] as const;
/** The template of the sheet that is shown, for painting over it elsewhere. */
export function TemplatePanel() {
	const project = useStudio((state) => state.outline?.project);
	const sheet = useStudio(activeSheet);
	const [look, setLook] = useState(firstTemplate);
	const [width, setWidth] = useState<number | null>(null);
	const [said, setSaid] = useState<string | null>(null);
	const [busy, setBusy] = useState(false);
	if (!project || !sheet) return null;
	const wide = width ?? sheet.width;
	const write = async (as: 'png' | 'svg'): Promise<void> => {
		setBusy(true);
		setSaid(null);
		const { bytes, text } = await template(sheet.id, wide, look, as);
		setBusy(false);
		if (!bytes) return setSaid(`${text} Nothing was written.`);
		const name = fileName('{project}-{sheet}-template', project.name, sheet, wide).replace(/png$/, as);
		saveFile(name, new Blob([bytes], { type: as === 'svg' ? 'image/svg+xml' : 'image/png' }));
		setSaid(`${name} is made; your browser saves it.`);
	};
	return (
		<Popover
			label="Template of the sheet"
			side="top"
			trigger="Template…"
			className="cut border border-rule bg-sheet px-3 py-1"
		>
			<div className="grid gap-2.5">
				<p className="text-[12px] text-ash">
					What lies where on "{sheet.name}", to paint over in any program. It is a picture of its own: nothing of it is
					ever in the texture.
				</p>
				<TemplateDials look={look} onChange={setLook} />
				<span className="-mb-1.5 text-[12px] text-ash">Px wide</span>
				<Choice
					label="Width"
					value={String(wide)}
					options={[...new Set([sheet.width, ...widths])]
						.sort((a, b) => a - b)
						.map((each) => [String(each), String(each)] as const)}
					onChange={(each) => setWidth(Number(each))}
				/>
				<div className="flex gap-2">
					<Button look="main" disabled={busy} onClick={() => void write('png')}>
						Write PNG
					</Button>
					<Button disabled={busy} onClick={() => void write('svg')}>
						Write SVG
					</Button>
				</div>
				{said && (
					<p role="status" className="text-[12px]">
						{said}
					</p>
				)}
			</div>
		</Popover>
	);
}
