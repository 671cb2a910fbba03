import { tell } from '../studio/line.ts';
import { useStudio } from '../studio/store.ts';

/** What is still being computed from the document: bakes, light, masks by recipe, lettering, fills, finishes. */
export function Computing() {
	const computing = useStudio((state) => state.computing);
	if (!computing) return null;
	const share = Math.round(100 * (1 - computing.left / Math.max(1, computing.all)));
	const { halted } = computing;
	const what = computing.bakes.some(({ left }) => left > 0) ? 'bakes, light and masks' : 'masks and finishes';
	return (
		<div className="cut-small absolute bottom-8 left-3 z-10 flex items-center gap-2 bg-black/70 px-2 py-0.5 text-[12px] text-white">
			<span role="status">{halted ? `Stopped: ${share}% of ${what} computed` : `Computing ${what}… ${share}%`}</span>
			<button
				type="button"
				className="cut-small bg-white/20 px-1.5 font-semibold hover:bg-white/35"
				title={halted ? 'Compute the rest' : 'Leave the rest as it is for now; what is handed off is always whole'}
				onClick={() => tell({ say: 'halt', on: !halted })}
			>
				{halted ? 'Go on' : 'Stop'}
			</button>
		</div>
	);
}
