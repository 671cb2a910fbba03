import { Group, Panel, Separator } from 'react-resizable-panels';
import { heldShown, twoViews, useStudio } from '../studio/store.ts';
import { CarriedMark } from './CarriedMark.tsx';
import { HeldView } from './HeldView.tsx';
import { ModelView } from './ModelView.tsx';
import { SheetView } from './SheetView.tsx';

/** What takes the colour out: by the light that each place gives off, not by its bytes. */
const Values = () => (
	<svg className="absolute size-0" aria-hidden="true">
		<filter id="values-only" colorInterpolationFilters="linearRGB">
			<feColorMatrix type="saturate" values="0" />
		</filter>
	</svg>
);

/** The model and its sheet beside each other, or one of them. */
export function BothViews() {
	const layout = useStudio((state) => state.layout);
	const held = useStudio(heldShown);
	const beside = useStudio(twoViews);
	const valuesOnly = useStudio((state) => state.valuesOnly);
	return (
		<Group orientation="horizontal" className={`min-w-0 flex-1 ${valuesOnly ? 'values-only' : ''}`} id="views">
			<Values />
			<CarriedMark />
			{beside && layout !== 'sheet' && (
				<Panel id="model" minSize="20%" defaultSize={held ? '36%' : '52%'}>
					{held ? <HeldView /> : <ModelView />}
				</Panel>
			)}
			{beside && layout === 'both' && (
				<Separator
					className="w-[5px] bg-paper hover:bg-berry focus-visible:bg-berry"
					aria-label="Divider between the views"
				/>
			)}
			{(layout !== 'model' || !beside) && (
				<Panel id="sheet" minSize="20%">
					<SheetView />
				</Panel>
			)}
		</Group>
	);
}
