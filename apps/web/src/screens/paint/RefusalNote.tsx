import { addLayer, addMask, chooseMask } from '../../actions/layers.ts';
import { lookWhole, setDesk } from '../../studio/desk.ts';
import { run } from '../../studio/say.ts';
import { sheetIn, useStudio } from '../../studio/store.ts';
import { Button } from '../../ui/Button.tsx';

/** Why paint did not land, where the brush came down, with the way out. */
export function RefusalNote() {
	const refusal = useStudio((state) => state.refusal);
	if (!refusal) return null;
	const { mend, text } = refusal.refusal;
	const act = (): void => {
		useStudio.setState({ refusal: null });
		if (!mend) return;
		if ('command' in mend) run(mend.command);
		else if ('lookWhole' in mend) lookWhole(mend.lookWhole);
		else if ('liftGuard' in mend) setDesk({ guard: null });
		else if ('addMask' in mend) addMask(mend.sheet, mend.addMask);
		else if ('paintMask' in mend) chooseMask(mend.sheet, mend.paintMask);
		else addLayer('paint', sheetIn(useStudio.getState(), mend.addLayer));
	};
	return (
		<div
			role="alert"
			className="cut fixed z-30 flex max-w-80 items-center gap-3 border border-rule bg-sheet py-1.5 pr-1.5 pl-3 shadow-lg"
			style={{ left: Math.min(refusal.x + 14, innerWidth - 340), top: Math.max(56, refusal.y - 46) }}
		>
			<p>{text}</p>
			{mend && (
				<Button look="main" onClick={act}>
					{mend.label}
				</Button>
			)}
		</div>
	);
}
