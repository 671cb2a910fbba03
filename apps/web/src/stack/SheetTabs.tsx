import { showSheet } from '../actions/views.ts';
import { activeSheet, useStudio } from '../studio/store.ts';

/** The sheets of the project; the one that is worked on is chosen. */
export function SheetTabs() {
	const project = useStudio((state) => state.outline?.project);
	const sheet = useStudio(activeSheet);
	if (!project || !sheet) return null;
	return (
		<ul className="flex shrink-0 gap-1.5 overflow-x-auto border-b border-rule px-3 py-2">
			{project.sheets.map((each) => (
				<li key={each.id}>
					<button
						type="button"
						aria-pressed={each.id === sheet.id}
						onClick={() => showSheet(each.id)}
						className={`cut max-w-40 truncate border px-2.5 py-0.5 whitespace-nowrap ${each.id === sheet.id ? 'border-soot bg-sheet font-bold' : 'border-rule'}`}
						title={`${each.name}, ${each.width} by ${each.height} texels`}
					>
						{each.name}{' '}
						<span className="font-normal text-ash">
							{each.width === each.height ? each.width : `${each.width}×${each.height}`}
						</span>
					</button>
				</li>
			))}
		</ul>
	);
}
