import type { Sheet } from '@eppu/core/document';
import { useState } from 'react';
import { takeIslands } from '../../actions/models.ts';
import { Button } from '../../ui/Button.tsx';
import { Choice } from '../../ui/Choice.tsx';
import { Dial } from '../../ui/Dial.tsx';
import { Block } from './Block.tsx';
import type { TemplateReading } from './useTemplate.ts';

/** The islands that a template's lines close: looked at, tuned, and taken. */
export function TemplateBlock({ sheet, reading }: { readonly sheet: Sheet; readonly reading: TemplateReading }) {
	const { found, problem, busy, read } = reading;
	const [taking, setTaking] = useState(false);
	if (problem)
		return (
			<Block title="Islands of the template">
				<p role="alert" className="text-lingon">
					{problem}
				</p>
			</Block>
		);
	return (
		<Block title="Islands of the template">
			<p role="status" aria-label="What was found" className="mb-2">
				{!found
					? 'Telling the lines from their ground…'
					: found.islands === 0
						? 'Nothing that lines close was found. Close larger gaps, or paint without islands.'
						: `${found.islands.toLocaleString('en')} ${found.islands === 1 ? 'island' : 'islands'} found${busy ? ', looking again…' : ''}.`}
				{found && found.specks > 0 && (
					<span className="text-ash">
						{' '}
						{found.specks.toLocaleString('en')} {found.specks === 1 ? 'speck was' : 'specks were'} left out.
					</span>
				)}
			</p>
			{found && (
				<div className="grid gap-2">
					<Choice
						label="What is one island"
						value={found.reading.by}
						options={[
							['pieces', 'What lies apart'],
							['cells', 'Each closed cell'],
						]}
						onChange={(by) => read({ ...found.reading, by: by as 'pieces' | 'cells' })}
					/>
					<Dial
						label="Gaps to"
						value={found.reading.gap}
						least={0}
						most={32}
						usual={4}
						unit=" tx"
						hint="Lines that are broken by so much are joined"
						onChange={(gap) => read({ ...found.reading, gap })}
					/>
					<Dial
						label="Smallest"
						value={found.reading.least}
						least={4}
						most={4000}
						usual={100}
						ratio
						unit=" tx"
						hint="What is smaller is a speck"
						onChange={(least) => read({ ...found.reading, least })}
					/>
					<Button
						look="main"
						disabled={busy || taking || !found.file}
						onClick={() => {
							if (!found.file) return;
							setTaking(true);
							void takeIslands(sheet, found.file).finally(() => setTaking(false));
						}}
					>
						{taking ? 'Taking them…' : 'Take these islands'}
					</Button>
					<p className="text-[12px] text-ash">
						Fill, guard, select, stitch and lettering go by them. The picture stays as a guide, and is never part of the
						texture.
					</p>
				</div>
			)}
		</Block>
	);
}
