import { type TextureOrder, usualOrders } from '@eppu/core/handoff';
import { useState } from 'react';
import { toast } from 'sonner';
import { takeFromLibrary, useLibrary, useLibraryChange } from '../../server/library.ts';
import { RowInput } from '../../stack/RowInput.tsx';
import { Button } from '../../ui/Button.tsx';
import { Popover } from '../../ui/Popover.tsx';
import { Select } from '../../ui/Select.tsx';

/** Ways of writing that are kept for all projects: those of the house, and the artist's own. */
export function Presets({
	order,
	choose,
}: {
	readonly order: TextureOrder;
	readonly choose: (order: TextureOrder) => void;
}) {
	const own = useLibrary('order');
	const { putJson, remove } = useLibraryChange();
	const [name, setName] = useState('');
	const said = JSON.stringify(order);
	const usual = usualOrders.find(([, each]) => JSON.stringify(each) === said)?.[0];
	const take = async (id: string): Promise<void> => {
		const house = usualOrders.find(([each]) => each === id)?.[1];
		if (house) return choose(house);
		await takeFromLibrary(id, choose);
	};
	return (
		<div className="flex items-center gap-1">
			<div className="min-w-0 flex-1">
				<Select
					label="Preset"
					value={usual ?? ''}
					empty="Preset…"
					kinds={[
						['', usualOrders.map(([each]) => [each, each] as const)],
						['Your own', own.map(({ id, name: each }) => [id, each] as const)],
					]}
					onChange={(id) => void take(id)}
				/>
			</div>
			<Popover
				label="Keep these as a preset"
				trigger="Keep…"
				className="cut-small border border-rule bg-sheet px-1.5 py-0.5"
			>
				<div className="grid gap-2">
					<RowInput
						label="Name of the preset"
						value={name}
						maxLength={120}
						className="cut-small w-full border border-rule bg-sheet px-1.5 py-0.5"
						take={(next) => setName(next)}
						done={() => undefined}
						resting
					/>
					<Button
						look="main"
						onClick={() => {
							putJson('order', name.trim() || 'My preset', order);
							toast('It is kept for all projects.');
						}}
					>
						Keep for all projects
					</Button>
					{own.map(({ id, name: each }) => (
						<div key={id} className="flex items-center gap-2">
							<span className="min-w-0 flex-1 truncate">{each}</span>
							<Button look="bare" className="!px-1.5 !py-0" onClick={() => remove(id)}>
								Take away
							</Button>
						</div>
					))}
				</div>
			</Popover>
		</div>
	);
}
