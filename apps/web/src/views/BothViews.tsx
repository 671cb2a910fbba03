import { Group, Panel, Separator } from 'react-resizable-panels';
import { useStudio } from '../studio/store.ts';
import { ModelView } from './ModelView.tsx';
import { SheetView } from './SheetView.tsx';

/** The model and its sheet beside each other, or one of them. */
export function BothViews() {
	const layout = useStudio((state) => state.layout);
	const hasModel = useStudio((state) => state.models.length > 0);
	return (
		<Group orientation="horizontal" className="min-w-0 flex-1" id="views">
			{hasModel && layout !== 'sheet' && (
				<Panel id="model" minSize="20%" defaultSize="52%">
					<ModelView />
				</Panel>
			)}
			{hasModel && layout === 'both' && (
				<Separator
					className="w-[5px] bg-paper hover:bg-berry focus-visible:bg-berry"
					aria-label="Divider between the views"
				/>
			)}
			{(layout !== 'model' || !hasModel) && (
				<Panel id="sheet" minSize="20%">
					<SheetView />
				</Panel>
			)}
		</Group>
	);
}
