import { defaultTip, shippedTips, type Tip, tipOfShipped } from '@eppu/core/stroke';
import { useState } from 'react';
import { choosePictures, takeFromLibrary, useLibrary, useLibraryChange } from '../server/library.ts';
import { setDesk } from '../studio/desk.ts';
import { tell } from '../studio/line.ts';
import { usePreview } from '../studio/looks.ts';
import { useStudio } from '../studio/store.ts';
import { Button } from '../ui/Button.tsx';
import { DropCross, KeptList } from './KeptList.tsx';

function Sample({
	tip,
	label,
	chosen,
	onChoose,
	onDrop,
}: {
	readonly tip: Tip;
	readonly label: string;
	readonly chosen: boolean;
	readonly onChoose: () => void;
	readonly onDrop?: () => void;
}) {
	const url = usePreview({ ...tip, size: 24 }, 126, 40, '#55504a');
	return (
		<div className="relative">
			<button
				type="button"
				onClick={onChoose}
				aria-pressed={chosen}
				className={`cut-small block w-full overflow-hidden border text-left ${chosen ? 'border-2 border-pine' : 'border-rule hover:border-ash'}`}
			>
				<span className="block h-[40px] bg-[#f3efe7]">
					{url && <img src={url} alt="" className="mx-auto h-[40px]" />}
				</span>
				<span className="block truncate px-1.5 py-0.5 text-[12px]">{label}</span>
			</button>
			{onDrop && <DropCross label={label} onDrop={onDrop} />}
		</div>
	);
}

/** All tips, each with a stroke of its own: shipped ones, pictures of the artist's own, and tips kept with their dials. */
export function TipChooser() {
	const tip = useStudio((state) => state.desk.tip);
	const own = useLibrary('tip');
	const presets = useLibrary('preset');
	const { addPictures, putJson, remove } = useLibraryChange();
	const take = (next: Tip): void => setDesk({ tip: next });
	const takeOwn = (id: string): void => {
		tell({ say: 'need', picture: id });
		take({ ...defaultTip, edge: 1, spacing: 0.12, shape: id, size: tip.size });
	};
	const bring = async (): Promise<void> => {
		const ids = await addPictures('tip', await choosePictures(true));
		if (ids[0]) takeOwn(ids[0]);
	};
	const [name, setName] = useState('');
	const keep = (): void => {
		putJson('preset', name.trim().slice(0, 120), tip);
		setName('');
	};
	return (
		<>
			<div className="grid grid-cols-4 gap-1.5">
				{shippedTips.map(({ name, label }) => (
					<Sample
						key={name}
						tip={tipOfShipped(name, 24)}
						label={label}
						chosen={tip.shape === name}
						onChoose={() => take(tipOfShipped(name, tip.size))}
					/>
				))}
				{own.map(({ id, name }) => (
					<Sample
						key={id}
						tip={{ ...defaultTip, edge: 1, spacing: 0.12, shape: id }}
						label={name}
						chosen={tip.shape === id}
						onChoose={() => takeOwn(id)}
						onDrop={() => remove(id)}
					/>
				))}
			</div>
			{presets.length > 0 && (
				<>
					<h3 className="bay-title mt-3 mb-1">Kept tips</h3>
					<KeptList
						className="grid grid-cols-2 gap-x-3"
						items={presets}
						onDrop={remove}
						onTake={({ id }) =>
							takeFromLibrary<Tip>(id, (tip) => {
								tell({ say: 'need', picture: tip.shape });
								take(tip);
							})
						}
					/>
				</>
			)}
			<div className="mt-3 flex gap-2">
				<Button onClick={() => void bring()}>Picture as a tip…</Button>
				<span className="flex-1" />
				<input
					aria-label="Name to keep this tip under"
					placeholder="Name for this tip"
					maxLength={120}
					className="cut-small w-40 border border-rule bg-paper px-2"
					value={name}
					onChange={(event) => setName(event.target.value)}
					onKeyDown={(event) => {
						event.stopPropagation();
						if (event.key === 'Enter' && name.trim()) keep();
					}}
				/>
				<Button disabled={!name.trim()} onClick={keep}>
					Keep this tip
				</Button>
			</div>
		</>
	);
}
