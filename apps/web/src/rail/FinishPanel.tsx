import type { Layer, Sheet } from '@eppu/core/document';
import { type Finish, finishKindOf, finishKinds, type Stitch } from '@eppu/core/finish';
import { XIcon } from '@phosphor-icons/react/dist/csr/X';
import type { LayerChangeOf } from '../actions/layers.ts';
import { addFinish } from '../actions/layers.ts';
import { ModeChoice } from '../stack/BlendChoice.tsx';
import { activeSheet, useStudio } from '../studio/store.ts';
import { Button } from '../ui/Button.tsx';
import { Check } from '../ui/Check.tsx';
import { Choice } from '../ui/Choice.tsx';
import { Dial } from '../ui/Dial.tsx';
import { type DialRow, Dials } from '../ui/Dials.tsx';
import { pictureRows } from './FillPanel.tsx';
import { PictureChoice } from './PictureChoice.tsx';
import { PotButton } from './PotButton.tsx';

const stitchRows: readonly DialRow<Stitch>[] = [
	['inset', 'Inset', 0, 64, 6, ' px'],
	['dash', 'Stitch', 1, 64, 11, ' px'],
	['gap', 'Gap', 0, 64, 6, ' px'],
	['thick', 'Thread', 0.5, 32, 4, ' px'],
	['twist', 'Twist', -90, 90, 12, '°'],
	['shade', 'Shade', 0, 1, 0.7, '%'],
];

interface FinishPanelProps {
	readonly sheet: Sheet;
	readonly layer: Layer;
	readonly change: (what: LayerChangeOf) => void;
}

/** The finishes of a layer: each follows its shape and can be changed at any time. */
export function FinishPanel({ sheet, layer, change }: FinishPanelProps) {
	const finishes = layer.finishes ?? [];
	const put = (id: string, next: Finish | null): void =>
		change({ finishes: finishes.flatMap((each) => (each.id !== id ? [each] : next ? [next] : [])) });
	return (
		<section className="mt-3 border-t border-rule pt-2">
			<h3 className="bay-title mb-1">Finishes</h3>
			{finishes.map((finish) => (
				<div key={finish.id} className="cut mb-2 border border-rule bg-sheet p-2" data-finish={finish.finish}>
					<div className="mb-1 flex items-center gap-2">
						<input
							type="checkbox"
							className="accent-pine"
							checked={finish.on}
							aria-label={`${finishKindOf(finish).words} on`}
							onChange={(event) => put(finish.id, { ...finish, on: event.target.checked })}
						/>
						<span className="flex-1 font-semibold">{finishKindOf(finish).words}</span>
						<ModeChoice
							label={`Blend of ${finishKindOf(finish).words}`}
							value={finish.mode}
							onChange={(mode) => put(finish.id, { ...finish, mode })}
						/>
						<button
							type="button"
							aria-label={`Take ${finishKindOf(finish).words.toLowerCase()} off`}
							onClick={() => put(finish.id, null)}
						>
							<XIcon size={13} />
						</button>
					</div>
					<FinishDials finish={finish} put={(next) => put(finish.id, next)} />
					<Dial
						wide
						label="Opacity"
						unit="%"
						least={0}
						most={1}
						value={finish.opacity}
						usual={1}
						onChange={(opacity) => put(finish.id, { ...finish, opacity })}
					/>
				</div>
			))}
			<div className="flex flex-wrap gap-1">
				{finishKinds.map(({ finish: name, words }) => (
					<Button
						key={name}
						className="!px-2 !py-0 !text-[12px]"
						disabled={finishes.length >= 24}
						onClick={() => void addFinish(sheet, layer, name)}
					>
						+ {words}
					</Button>
				))}
			</div>
		</section>
	);
}

function FinishDials({ finish, put }: { readonly finish: Finish; readonly put: (next: Finish) => void }) {
	const spot = useStudio((state) => state.spot?.spot.island);
	const islands = useStudio((state) => state.desk.guard?.islands);
	const lines = useStudio((state) => state.selections.get(activeSheet(state)?.id ?? '')?.lines);
	switch (finish.finish) {
		case 'outline':
			return (
				<>
					<div className="mb-1 flex flex-wrap items-center gap-2">
						<Choice
							label="Side"
							value={finish.side}
							options={[
								['out', 'Outside'],
								['in', 'Inside'],
								['middle', 'On it'],
							]}
							onChange={(side) => put({ ...finish, side })}
						/>
						<PotButton color={finish.color} label="Colour" onTake={(color) => put({ ...finish, color })} />
						<Check label="Whole texels" value={finish.hard} onChange={(hard) => put({ ...finish, hard })} />
					</div>
					<Dial
						wide
						label="Width"
						unit=" px"
						least={0}
						most={64}
						value={finish.width}
						usual={4}
						onChange={(width) => put({ ...finish, width })}
					/>
				</>
			);
		case 'tint':
			return <PotButton color={finish.color} label="Colour" onTake={(color) => put({ ...finish, color })} />;
		case 'pattern': {
			const { fill } = finish;
			return (
				<>
					<PictureChoice
						label="Picture of the pattern"
						value={fill.picture}
						onChange={(picture) => put({ ...finish, fill: { ...fill, picture } })}
					/>
					{fill.fill === 'picture' && (
						<Dials
							of={fill}
							rows={pictureRows}
							onChange={(change) => put({ ...finish, fill: { ...fill, ...change } })}
						/>
					)}
				</>
			);
		}
		case 'stitch': {
			return (
				<>
					<div className="mb-1 flex flex-wrap items-center gap-2">
						<PotButton color={finish.color} label="Thread" onTake={(color) => put({ ...finish, color })} />
						<Choice
							label="Along"
							value={finish.along === 'shape' ? 'shape' : 'lines' in finish.along ? 'selection' : 'island'}
							options={[
								['shape', 'The shape'],
								['selection', 'The selection'],
								['island', 'Guarded islands'],
							]}
							onChange={(along) =>
								put({
									...finish,
									along:
										along === 'shape'
											? 'shape'
											: along === 'selection'
												? { lines: (lines ?? []).slice(0, 400).map((line) => [...line].slice(0, 20_000)) }
												: [...(islands ?? (spot === undefined ? [] : [spot]))],
								})
							}
						/>
					</div>
					<Dials of={finish} rows={stitchRows} onChange={(change) => put({ ...finish, ...change })} />
				</>
			);
		}
	}
}
