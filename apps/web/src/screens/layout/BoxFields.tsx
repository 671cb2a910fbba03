import type { FigureBox } from '@eppu/core/figure';
import { Button } from '../../ui/Button.tsx';
import { Select } from '../../ui/Select.tsx';
import { field, NumberFields } from './NumberFields.tsx';

type Three = readonly [number, number, number];

/** What is said of one box. */
export function BoxFields({
	box,
	others,
	onChange,
}: {
	readonly box: FigureBox;
	readonly others: readonly FigureBox[];
	readonly onChange: (box: FigureBox) => void;
}) {
	const { joint, on, inflate, ...rest } = box;
	const put = (change: Partial<FigureBox>): void => onChange({ ...box, ...change });
	const around = ['across', 'up', 'forwards'];
	return (
		<div className="grid content-start gap-2.5">
			<label className="grid gap-0.5">
				<span className="bay-title">Name</span>
				<input
					className={field}
					value={box.name}
					maxLength={120}
					onChange={(event) => put({ name: event.target.value })}
				/>
			</label>
			<NumberFields
				label="Size"
				least={1}
				values={box.size}
				words={['wide', 'high', 'deep']}
				onChange={(size) => put({ size: size as unknown as Three })}
			/>
			<NumberFields
				label="The middle of its foot"
				step={0.5}
				values={box.at}
				words={around}
				onChange={(at) => put({ at: at as unknown as Three })}
			/>
			<NumberFields
				label="On the sheet"
				least={0}
				values={[...box.place, inflate ?? 0]}
				words={['from the left', 'from the top', 'larger by']}
				step={1}
				onChange={([x, y, more]) =>
					onChange({
						...rest,
						...(joint ? { joint } : {}),
						...(on === undefined ? {} : { on }),
						place: [x as number, y as number],
						...(more ? { inflate: more } : {}),
					})
				}
			/>
			<div className="grid gap-0.5">
				<span className="bay-title">Hangs on</span>
				<Select
					label="Hangs on"
					value={on ?? ''}
					options={[['', 'Nothing'], ...others.map(({ name }) => [name, name] as const)]}
					onChange={(name) => {
						const { on: _was, ...free } = box;
						onChange(name ? { ...free, on: name } : free);
					}}
				/>
			</div>
			{joint ? (
				<>
					<NumberFields
						label="Where it turns"
						step={0.5}
						values={joint}
						words={around}
						onChange={(next) => put({ joint: next as unknown as Three })}
					/>
					<Button
						className="justify-self-start !px-2 !py-0 !text-[12px]"
						onClick={() => {
							const { joint: _was, ...free } = box;
							onChange(free);
						}}
					>
						Turn at its top
					</Button>
				</>
			) : (
				<Button
					className="justify-self-start !px-2 !py-0 !text-[12px]"
					onClick={() => put({ joint: [box.at[0], box.at[1] + box.size[1], box.at[2]] })}
				>
					Turn elsewhere than at its top
				</Button>
			)}
		</div>
	);
}
