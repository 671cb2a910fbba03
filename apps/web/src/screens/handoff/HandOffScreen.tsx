import { useState } from 'react';
import { type HandedOff, handedOff, kilobytes } from '../../actions/handoff.ts';
import { SheetTabs } from '../../stack/SheetTabs.tsx';
import { useStudio } from '../../studio/store.ts';
import { lightRow } from '../layout/Block.tsx';
import { Beside } from './Frame.tsx';
import { outputs } from './outputs.ts';
import { useWriting } from './useWriting.ts';

const when = new Intl.DateTimeFormat(undefined, { dateStyle: 'short', timeStyle: 'short' });

function Past({ list }: { readonly list: readonly HandedOff[] }) {
	return (
		<section aria-label="What went out" className="flex-1 border-t border-rule px-3 py-3">
			<h2 className="bay-title mb-2">What went out</h2>
			{list.length === 0 && <p className="text-[12px] text-ash">Nothing yet. What you write is listed here.</p>}
			<ul className="grid gap-2 text-[12px]">
				{list.map((each) => (
					<li key={each.at}>
						<details>
							<summary className="cursor-pointer">
								<span className="font-semibold">{each.what}</span>{' '}
								<span className="text-ash">{when.format(each.at)}</span>
							</summary>
							<p className="text-ash">Saved as {each.where}</p>
							<ul className="mt-0.5 grid gap-0.5 break-all">
								{each.files.map(({ path, bytes }) => (
									<li key={path}>
										{path}, {kilobytes(bytes)}
									</li>
								))}
							</ul>
						</details>
					</li>
				))}
			</ul>
		</section>
	);
}

/** Hand off: outputs and what went out on the left, what will be written in the middle, its dials on the bench. */
export function HandOffScreen() {
	const project = useStudio((state) => state.outline?.project);
	const partly = useStudio((state) => state.alone !== null || state.builtUp !== null);
	const [kind, setKind] = useState(outputs[0]?.kind);
	const [, again] = useState(0);
	const writing = useWriting(() => again((n) => n + 1));
	if (!project) return null;
	const chosen = outputs.find((each) => each.kind === kind);
	return (
		<Beside
			value={
				<aside className="flex w-[250px] shrink-0 flex-col overflow-y-auto border-r border-rule" aria-label="Outputs">
					<SheetTabs />
					<ul className="grid gap-1.5 px-3 py-3">
						{outputs.map((each) => (
							<li key={each.kind}>
								<button
									type="button"
									aria-pressed={each.kind === kind}
									disabled={writing.busy !== null}
									className={`${lightRow(each.kind === kind)} !py-1 leading-[19px]`}
									onClick={() => {
										setKind(each.kind);
										writing.say([]);
									}}
								>
									<span className="block font-semibold">{each.name}</span>
									<span className="block text-[12px] text-ash">{each.words}</span>
								</button>
							</li>
						))}
					</ul>
					{partly && (
						<p className="cut mx-3 mb-3 border-l-4 border-berry bg-sheet px-3 py-1.5 text-[12px]">
							Only a part of the stack is shown now; what is written is the whole sheet.
						</p>
					)}
					<Past list={handedOff(project.id)} />
				</aside>
			}
		>
			{chosen && <chosen.Panel writing={writing} />}
		</Beside>
	);
}
