import type { Bake } from '@eppu/core/light';
import { useEffect, useState } from 'react';
import { finerMesh } from '../../actions/models.ts';
import { question } from '../../studio/line.ts';
import { useStudio } from '../../studio/store.ts';
import { Button } from '../../ui/Button.tsx';
import { Choice } from '../../ui/Choice.tsx';
import { Dial } from '../../ui/Dial.tsx';

/** The finer mesh that a bake is of, if it is of one. */
export function FinerBay({ bake, put }: { readonly bake: Bake; readonly put: (bake: Bake) => void }) {
	const [reading, setReading] = useState(false);
	const { finer } = bake;
	const bring = async (): Promise<void> => {
		setReading(true);
		const asset = await finerMesh();
		setReading(false);
		if (asset) put({ ...bake, finer: { cage: finer?.cage ?? 3, match: finer?.match ?? 'near', asset } });
	};
	return (
		<section aria-label="Finer mesh" className="grid w-[216px] shrink-0 content-start gap-1.5 text-[12px]">
			<h2 className="bay-title">Of a finer mesh</h2>
			<div className="flex gap-1.5">
				<Button disabled={reading} onClick={() => void bring()}>
					{reading ? 'Reading…' : finer ? 'Another…' : 'From a file…'}
				</Button>
				{finer && <Button onClick={() => put({ ...bake, finer: null })}>Of the model again</Button>}
			</div>
			{finer ? (
				<>
					<p className="truncate text-ash" title={finer.asset.name}>
						{finer.asset.name}
					</p>
					<Dial
						wide
						label="Cage"
						value={finer.cage}
						least={0.05}
						most={25}
						ratio
						usual={3}
						unit="%"
						hint="How far outside and inside of the model it is looked for; where it is not met the bake is empty, and striped where it is seen alone"
						onChange={(cage) => put({ ...bake, finer: { ...finer, cage } })}
					/>
					<Missed bake={bake} />
					<Choice
						label="What of it is met"
						value={finer.match}
						options={[
							['near', 'What is nearest'],
							['parts', 'Parts by name'],
						]}
						onChange={(match) => put({ ...bake, finer: { ...finer, match } })}
					/>
				</>
			) : (
				<p className="text-ash">In the same place as the model; its shape is baked onto the model’s sheets.</p>
			)}
		</section>
	);
}

/** How much of the model met nothing of the finer mesh, once that is computed. */
function Missed({ bake }: { readonly bake: Bake }) {
	const busy = useStudio((state) => state.computing !== null);
	const [share, setShare] = useState<number | null>(null);
	const finer = JSON.stringify(bake.finer);
	useEffect(() => {
		let gone = false;
		setShare(null);
		if (!busy)
			void question<'missed'>({ say: 'missed', bake: bake.id }).then((found) => {
				if (!gone) setShare(found);
			});
		return () => {
			gone = true;
		};
	}, [bake.id, finer, busy]);
	if (!share) return null;
	const words = share < 0.01 ? 'Less than 1%' : `${Math.round(share * 100)}%`;
	return (
		<p role="status" className="text-lingon">
			{words} of the model met nothing: see it alone for where.
		</p>
	);
}
