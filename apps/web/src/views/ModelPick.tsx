import { showModel } from '../actions/views.ts';
import { activeSheet, modelShown, useStudio } from '../studio/store.ts';
import { Popover, Shutting } from '../ui/Popover.tsx';
import { overView } from './Toggles.tsx';

/** Which of the models that share the active sheet is shown. */
export function ModelPick() {
	const sheet = useStudio(activeSheet)?.id;
	const shown = useStudio(modelShown);
	const models = useStudio((state) => state.models);
	const named = useStudio((state) => state.outline?.project.models);
	const lying = models.filter(({ parts }) => parts.some((part) => part.sheet === sheet));
	if (lying.length < 2) return null;
	const name = (id: string): string => named?.find((each) => each.id === id)?.name ?? 'Model';
	return (
		<Popover
			label="Model that is shown"
			side="bottom"
			panelClass="w-48"
			className={overView(false)}
			trigger={name(shown?.id ?? '')}
		>
			<ul>
				{lying.map((model) => (
					<li key={model.id}>
						<Shutting>
							<button
								type="button"
								aria-pressed={model.id === shown?.id}
								className={`cut-small w-full truncate px-2 py-0.5 text-left hover:bg-bark ${model.id === shown?.id ? 'font-bold' : ''}`}
								onClick={() => showModel(model)}
							>
								{name(model.id)}
							</button>
						</Shutting>
					</li>
				))}
			</ul>
		</Popover>
	);
}
