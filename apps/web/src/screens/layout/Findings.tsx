import type { Finding } from '@eppu/core/report';
import { Block, type Lighting, lightRow } from './Block.tsx';

/** What may be wrong, worst first; nothing of it keeps anybody from going on. */
export function Findings({ findings, lit, light }: { readonly findings: readonly Finding[] } & Lighting) {
	return (
		<Block title="What to know of this model">
			{findings.length === 0 && <p className="text-ash">Nothing: it can be painted as it is.</p>}
			<ul className="grid grid-cols-[minmax(0,1fr)] gap-1.5">
				{findings.map((finding) => (
					<li key={finding.words}>
						<button
							type="button"
							aria-pressed={lit === finding.words}
							className={lightRow(lit === finding.words)}
							onClick={() => light(finding.words, () => finding.faces)}
						>
							{finding.grave && <span className="block text-[12px] font-bold text-lingon">Costs paint</span>}
							<span className="block">{finding.words}</span>
							<span className="mt-0.5 block text-[12px] text-ash">{finding.todo}</span>
						</button>
					</li>
				))}
			</ul>
		</Block>
	);
}
