import { Bench } from '../../bench/Bench.tsx';
import { Rail } from '../../rail/Rail.tsx';
import { LayerColumn } from '../../stack/LayerColumn.tsx';
import { BothViews } from '../../views/BothViews.tsx';
import { Computing } from '../../views/Computing.tsx';
import { RefusalNote } from './RefusalNote.tsx';

/** The Paint stage: stack on the left, both views, bench below, drawers on the right. */
export function PaintScreen() {
	return (
		<main className="flex min-h-0 flex-1 flex-col">
			<div className="flex min-h-0 flex-1">
				<LayerColumn />
				<div className="relative flex min-w-0 flex-1">
					<BothViews />
					<RefusalNote />
					<Computing />
				</div>
				<Rail />
			</div>
			<Bench />
		</main>
	);
}
