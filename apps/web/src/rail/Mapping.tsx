import type { Hex, Palette } from '@eppu/core/color';
import { type ColorPair, colorMapping } from '@eppu/core/pixel';
import { useEffect, useMemo, useState } from 'react';
import { useStudio } from '../studio/store.ts';
import { Button } from '../ui/Button.tsx';
import { Choice } from '../ui/Choice.tsx';

/** What a palette would make of the colours that are used, each also by hand: seen before it is done. */
export function Mapping({
	used,
	palette,
	change,
	seen,
	words = (count) => `Change ${count} ${count === 1 ? 'colour' : 'colours'}`,
}: {
	readonly used: readonly Hex[];
	readonly palette: Palette;
	readonly change: (pairs: readonly ColorPair[]) => void;
	/** Told what would become of the colours. */
	readonly seen?: (pairs: readonly ColorPair[]) => void;
	readonly words?: (count: number) => string;
}) {
	const front = useStudio((state) => state.desk.front);
	const [way, setWay] = useState<'near' | 'light'>('near');
	const [byHand, setByHand] = useState<ReadonlyMap<Hex, Hex>>(new Map());
	const pairs = useMemo(() => {
		const found = new Map(colorMapping(used, palette.colors, way));
		for (const from of used) {
			const own = byHand.get(from);
			if (own) found.set(from, own);
		}
		return [...found];
	}, [used, palette, way, byHand]);
	const wanted = pairs.filter(([from, to]) => from !== to);
	useEffect(() => {
		seen?.(wanted);
	}, [pairs]);
	return (
		<section className="mt-4">
			<h3 className="bay-title mb-1">Onto the palette</h3>
			<Choice
				label="How colours are matched"
				value={way}
				options={[
					['near', 'Nearest'],
					['light', 'By lightness'],
				]}
				onChange={setWay}
			/>
			{pairs.length === 0 ? (
				<p className="mt-1.5 text-ash">Every colour is in the palette.</p>
			) : (
				<>
					<ul
						className="mt-1.5 flex max-h-36 flex-wrap gap-1.5 overflow-y-auto"
						aria-label="What becomes of each colour"
					>
						{pairs.map(([from, to]) => (
							<li key={from}>
								<button
									type="button"
									className="flex items-center"
									title={`${from} becomes ${to}: press to have it become the front pot, ${front}`}
									onClick={() => setByHand(new Map(byHand).set(from, front))}
								>
									<span className="size-5 rounded-l border border-black/20" style={{ background: from }} />
									<span
										className={`size-5 rounded-r border ${byHand.has(from) ? 'border-ink' : 'border-black/20'}`}
										style={{ background: to }}
									/>
								</button>
							</li>
						))}
					</ul>
					<div className="mt-1.5 flex flex-wrap gap-1">
						<Button disabled={wanted.length === 0} onClick={() => change(wanted)}>
							{words(wanted.length)}
						</Button>
						{byHand.size > 0 && <Button onClick={() => setByHand(new Map())}>None by hand</Button>}
					</div>
				</>
			)}
		</section>
	);
}
