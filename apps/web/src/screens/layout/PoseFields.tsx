import type { FigureBox, FigurePose, Turns } from '@eppu/core/figure';
import { Button } from '../../ui/Button.tsx';
import { field, NumberFields } from './NumberFields.tsx';

const axes = ['nods', 'looks round', 'leans'];

/** Turns with those of one box changed; none where all are nothing. */
function withTurn(all: Turns | undefined, name: string, turn: readonly number[]): Turns {
	const { [name]: _was, ...rest } = all ?? {};
	return turn.some((v) => v !== 0) ? { ...rest, [name]: turn as unknown as Turns[string] } : rest;
}

/** How one box stands in a pose, and how it swings. */
export function PoseFields({
	pose,
	box,
	onChange,
	onRemove,
}: {
	readonly pose: FigurePose;
	readonly box: FigureBox;
	readonly onChange: (pose: FigurePose) => void;
	readonly onRemove: () => void;
}) {
	const { swing, beat, ...still } = pose;
	const swings = (next: Turns): void =>
		onChange(Object.keys(next).length ? { ...still, swing: next, beat: beat ?? 1 } : still);
	return (
		<div className="grid content-start gap-2.5">
			<label className="grid gap-0.5">
				<span className="bay-title">Name of the pose</span>
				<input
					className={field}
					value={pose.name}
					maxLength={120}
					onChange={(event) => onChange({ ...pose, name: event.target.value })}
				/>
			</label>
			<NumberFields
				label={`How ${box.name || 'the box'} turns, degrees`}
				step={5}
				values={pose.turns[box.name] ?? [0, 0, 0]}
				words={axes}
				onChange={(turn) => onChange({ ...pose, turns: withTurn(pose.turns, box.name, turn) })}
			/>
			<NumberFields
				label="How far it swings to both sides, degrees"
				step={5}
				values={swing?.[box.name] ?? [0, 0, 0]}
				words={axes}
				onChange={(turn) => swings(withTurn(swing, box.name, turn))}
			/>
			{swing && (
				<NumberFields
					label="A swing there and back takes"
					step={0.1}
					least={0.1}
					values={[beat ?? 1]}
					words={['seconds']}
					onChange={([next]) => onChange({ ...pose, beat: next as number })}
				/>
			)}
			<Button className="justify-self-start !px-2 !py-0 !text-[12px]" onClick={onRemove}>
				Take the pose away
			</Button>
		</div>
	);
}
