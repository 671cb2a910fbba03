import { PaintBucketIcon } from '@phosphor-icons/react/dist/csr/PaintBucket';
import { mixingNow } from '../actions/pixels.ts';
import { TexelFillBay } from '../bench/PixelBays.tsx';
import { tell } from '../studio/line.ts';
import { activeLayers, drawsTexels, paintsMask, pots, useStudio } from '../studio/store.ts';
import { Choice } from '../ui/Choice.tsx';
import { Dial } from '../ui/Dial.tsx';
import { bay, type ToolKind } from './kind.ts';

function FillBay() {
	const filling = useStudio((state) => state.filling);
	return (
		<div className={bay}>
			<Choice
				label="Fill by"
				value={filling.by}
				options={[
					['island', 'Island'],
					['part', 'Part'],
					['region', 'Region of like colour'],
				]}
				onChange={(by) => useStudio.setState({ filling: { ...filling, by } })}
			/>
			{filling.by === 'region' && (
				<div className="mt-2 w-56">
					<Dial
						label="Reach"
						unit=""
						least={0}
						most={255}
						value={filling.reach}
						usual={24}
						hint="How far colours may differ"
						onChange={(reach) => useStudio.setState({ filling: { ...filling, reach } })}
					/>
				</div>
			)}
			<p className="mt-2 text-[12px] text-ash">
				Click in either view. What is selected is filled alone; a guard keeps it off; bleed is filled along.
			</p>
		</div>
	);
}

export const fill: ToolKind<'fill'> = {
	name: 'fill',
	label: 'Fill',
	asks: 'Fill with colour',
	keys: 'F',
	Icon: PaintBucketIcon,
	hint: 'Fill what is selected, else an island or a part and its bleed, or a whole template sheet',
	Bay: FillBay,
	TexelBay: TexelFillBay,
	press({ pointing, state }) {
		if (!pointing) return;
		const texels = drawsTexels(state);
		tell({
			say: 'fill',
			place: pointing,
			layers: activeLayers(state),
			color: pots(state).front,
			guard: state.desk.guard,
			onMask: paintsMask(state),
			reach: texels ? 0 : state.filling.by === 'region' ? state.filling.reach : null,
			...(texels ? { everywhere: state.filling.everywhere, mixing: mixingNow(state) } : {}),
			by: state.filling.by === 'part' ? 'part' : 'island',
		});
	},
};
