import { SHEET_SIDE } from '@eppu/core/document';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Dialog } from 'radix-ui';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { createPixels } from '../../actions/newProject.ts';
import { Button } from '../../ui/Button.tsx';
import { Choice } from '../../ui/Choice.tsx';

const sizes = ['8', '16', '24', '32', '48', '64', '128', '256', '512'] as const;
const most = 512;

const side = (typed: string): number | null => {
	const v = Number(typed);
	return Number.isInteger(v) && v >= SHEET_SIDE.least && v <= most ? v : null;
};

/** A project that begins with a blank pixel sheet, of any sides. */
export function PixelDialog({ onClose }: { readonly onClose: () => void }) {
	const navigate = useNavigate();
	const queries = useQueryClient();
	const [name, setName] = useState('Pixel sheet');
	const [width, setWidth] = useState('32');
	const [height, setHeight] = useState('32');
	const [w, h] = [side(width), side(height)];
	const make = useMutation({
		mutationFn: () => createPixels(name, w as number, h as number),
		onSuccess: (id) => {
			void queries.invalidateQueries({ queryKey: ['projects'] });
			void navigate(`/project/${id}/paint`);
		},
	});
	const field = 'cut w-20 border border-rule bg-paper px-2 py-1 text-right';
	return (
		<Dialog.Root open onOpenChange={(open) => !open && onClose()}>
			<Dialog.Portal>
				<Dialog.Overlay className="fixed inset-0 z-40 bg-black/35" />
				<Dialog.Content className="cut fixed top-1/2 left-1/2 z-50 w-[440px] -translate-1/2 border border-rule bg-sheet p-5 shadow-xl">
					<Dialog.Title className="text-[17px] font-bold">Begin a pixel sheet</Dialog.Title>
					<Dialog.Description className="mt-1 text-ash">
						Every texel is there or not, in a colour of the palette; the item is seen in the hand beside it.
					</Dialog.Description>
					<form
						className="mt-4 grid gap-3"
						onSubmit={(event) => {
							event.preventDefault();
							if (w && h) make.mutate();
						}}
					>
						<label className="grid gap-1">
							<span className="bay-title">Name</span>
							<input
								value={name}
								maxLength={120}
								onChange={(event) => setName(event.target.value)}
								className="cut border border-rule bg-paper px-3 py-1.5"
							/>
						</label>
						<fieldset className="grid gap-1.5">
							<legend className="bay-title mb-1">Size, texels</legend>
							<Choice
								label="Size"
								value={width === height ? (width as (typeof sizes)[number]) : ('' as (typeof sizes)[number])}
								options={sizes.map((each) => [each, each] as const)}
								onChange={(next) => {
									setWidth(next);
									setHeight(next);
								}}
							/>
							<div className="flex items-center gap-2">
								<input
									aria-label="Width"
									inputMode="numeric"
									value={width}
									onChange={(event) => setWidth(event.target.value)}
									className={field}
								/>
								<span>by</span>
								<input
									aria-label="Height"
									inputMode="numeric"
									value={height}
									onChange={(event) => setHeight(event.target.value)}
									className={field}
								/>
								{!(w && h) && (
									<span role="alert" className="text-lingon">
										{SHEET_SIDE.least} to {most} each
									</span>
								)}
							</div>
						</fieldset>
						{make.isError && (
							<p role="alert" className="text-lingon">
								{make.error.message}
							</p>
						)}
						<div className="mt-1 flex justify-end gap-2">
							<Button onClick={onClose}>Cancel</Button>
							<Button type="submit" look="main" disabled={make.isPending || !w || !h}>
								{make.isPending ? 'Making it…' : 'Begin drawing'}
							</Button>
						</div>
					</form>
				</Dialog.Content>
			</Dialog.Portal>
		</Dialog.Root>
	);
}
