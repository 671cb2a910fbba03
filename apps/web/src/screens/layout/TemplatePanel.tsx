import { fileName, type TemplateLook, usualTemplate } from '@eppu/core/format';
import { useState } from 'react';
import { saveFile } from '../../server/library.ts';
import { template } from '../../studio/line.ts';
import { activeSheet, useStudio } from '../../studio/store.ts';
import { Button } from '../../ui/Button.tsx';
import { Check } from '../../ui/Check.tsx';
import { Choice } from '../../ui/Choice.tsx';
import { Dial } from '../../ui/Dial.tsx';
import { Popover } from '../../ui/Popover.tsx';

const widths = [512, 1024, 2048, 4096] as const;
/** Texels of the clear rim round the islands, as it is first. */
const RIM = 8;

/** The template of the sheet that is shown, for painting over it elsewhere. */
export function TemplatePanel() {
	const project = useStudio((state) => state.outline?.project);
	const sheet = useStudio(activeSheet);
	const [look, setLook] = useState<TemplateLook>({ ...usualTemplate, outside: RIM });
	const [width, setWidth] = useState<number | null>(null);
	const [said, setSaid] = useState<string | null>(null);
	const [busy, setBusy] = useState(false);
	if (!project || !sheet) return null;
	const wide = width ?? sheet.width;
	const change = (part: Partial<TemplateLook>): void => setLook({ ...look, ...part });
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
				<Choice
					label="Islands are"
					value={look.fill}
					options={[
						['white', 'White'],
						['tints', 'In tints'],
						['none', 'Clear'],
					]}
					onChange={(fill) => change({ fill })}
				/>
				<Check label="Lines round islands" value={look.borders} onChange={(borders) => change({ borders })} />
				<Check label="Lines between faces" value={look.inner} onChange={(inner) => change({ inner })} />
				<Check label="Names of parts" value={look.names} onChange={(names) => change({ names })} />
				<Check
					label="Grey beside the islands"
					value={look.outside !== null}
					onChange={(on) => change({ outside: on ? RIM : null })}
				/>
				{look.outside !== null && (
					<Dial
						label="Clear rim"
						value={look.outside}
						least={0}
						most={64}
						usual={RIM}
						unit="tx"
						wide
						hint="Texels round each island that stay clear of the grey"
						onChange={(outside) => change({ outside })}
					/>
				)}
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
