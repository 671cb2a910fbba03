import { SHEET_SIDE, type Sheet } from '@eppu/core/document';
import { useState } from 'react';
import { changeSheet, possibleSide } from '../../actions/layouts.ts';
import { Button } from '../../ui/Button.tsx';

const field = 'cut-small w-full border border-rule bg-paper px-2 py-1';

/** Name, size and bleed of a sheet; its paint goes along to another size. */
export function SheetForm({ sheet, onClose }: { readonly sheet: Sheet; readonly onClose: () => void }) {
	const [name, setName] = useState(sheet.name);
	const [width, setWidth] = useState(String(sheet.width));
	const [height, setHeight] = useState(String(sheet.height));
	const [bleed, setBleed] = useState(String(sheet.bleed));
	const side = (typed: string, is: number): number => {
		const n = Number.parseInt(typed, 10);
		return Number.isFinite(n) ? possibleSide(n) : is;
	};
	const save = (): void => {
		changeSheet(sheet, {
			name: name.trim() || sheet.name,
			width: side(width, sheet.width),
			height: side(height, sheet.height),
			bleed: Math.max(0, Math.min(64, Number.parseInt(bleed, 10) || 0)),
		});
		onClose();
	};
	return (
		<form
			className="mb-2.5 grid gap-2"
			aria-label={`Sheet ${sheet.name}`}
			onSubmit={(event) => {
				event.preventDefault();
				save();
			}}
			onKeyDown={(event) => {
				event.stopPropagation();
				if (event.key === 'Escape') onClose();
			}}
		>
			<label className="grid gap-0.5 text-[12px]">
				Name
				<input
					autoFocus
					className={field}
					value={name}
					maxLength={120}
					onChange={(event) => setName(event.target.value)}
				/>
			</label>
			<div className="grid grid-cols-3 gap-2">
				{(
					[
						['Width', width, setWidth],
						['Height', height, setHeight],
						['Bleed', bleed, setBleed],
					] as const
				).map(([label, value, set]) => (
					<label key={label} className="grid gap-0.5 text-[12px]">
						{label}
						<input
							className={`${field} tabular-nums`}
							inputMode="numeric"
							value={value}
							onChange={(event) => set(event.target.value)}
						/>
					</label>
				))}
			</div>
			<p className="text-[12px] text-ash">
				Sides of {SHEET_SIDE.least} to {SHEET_SIDE.most} texels. What is painted goes along.
			</p>
			<div className="flex gap-2">
				<Button type="submit" look="main">
					Set
				</Button>
				<Button onClick={onClose}>Cancel</Button>
			</div>
		</form>
	);
}
