import { type Solid, solidKindOf, solidKinds } from '@eppu/core/solid';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Dialog } from 'radix-ui';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { createFrom, startOfSolid } from '../../actions/newProject.ts';
import { Button } from '../../ui/Button.tsx';
import { Choice } from '../../ui/Choice.tsx';
import { FieldDials } from '../../ui/FieldDials.tsx';
import { ProfileEditor } from './ProfileEditor.tsx';
import { ShapePreview } from './ShapePreview.tsx';

const sizes = ['256', '512', '1024', '2048', '4096'] as const;

/** A project that begins with a shape: which one, how large, seen as it will be. */
export function ShapeDialog({ onClose }: { readonly onClose: () => void }) {
	const navigate = useNavigate();
	const queries = useQueryClient();
	const [solids, setSolids] = useState<Readonly<Record<string, Solid>>>({});
	const [name, setName] = useState<Solid['solid']>('box');
	const [size, setSize] = useState<(typeof sizes)[number]>('1024');
	const solid = solids[name] ?? (solidKindOf({ solid: name }).usual as Solid);
	const kind = solidKindOf(solid);
	const change = (next: Solid): void => setSolids({ ...solids, [next.solid]: next });
	const make = useMutation({
		mutationFn: async () => createFrom(await startOfSolid(solid), kind.words, Number(size)),
		onSuccess: (id) => {
			void queries.invalidateQueries({ queryKey: ['projects'] });
			void navigate(`/project/${id}/paint`);
		},
	});
	return (
		<Dialog.Root open onOpenChange={(open) => !open && onClose()}>
			<Dialog.Portal>
				<Dialog.Overlay className="fixed inset-0 z-40 bg-black/35" />
				<Dialog.Content className="cut fixed top-1/2 left-1/2 z-50 w-[620px] -translate-1/2 border border-rule bg-sheet p-5 shadow-xl">
					<Dialog.Title className="text-[17px] font-bold">Begin with a shape</Dialog.Title>
					<Dialog.Description className="mt-1 text-ash">
						It comes laid out on its sheet; Lay out changes that at any time.
					</Dialog.Description>
					<form
						className="mt-4 grid grid-cols-[260px_1fr] gap-5"
						onSubmit={(event) => {
							event.preventDefault();
							make.mutate();
						}}
					>
						<ShapePreview solid={solid} />
						<div className="grid content-start gap-3">
							<Choice
								label="Shape"
								value={name}
								options={solidKinds.map((each) => [each.solid, each.words] as const)}
								onChange={setName}
							/>
							<div className="grid gap-1.5">
								<FieldDials of={solid} dials={kind.dials} onChange={change} />
							</div>
							{solid.solid === 'lathe' && (
								<ProfileEditor profile={solid.profile} onChange={(profile) => change({ ...solid, profile })} />
							)}
							<div className="grid gap-1">
								<span className="bay-title">Sheet size, texels</span>
								<Choice
									label="Sheet size"
									value={size}
									options={sizes.map((each) => [each, each] as const)}
									onChange={setSize}
								/>
							</div>
							{make.isError && (
								<p role="alert" className="text-lingon">
									{make.error.message}
								</p>
							)}
							<div className="mt-1 flex justify-end gap-2">
								<Button onClick={onClose}>Cancel</Button>
								<Button type="submit" look="main" disabled={make.isPending}>
									{make.isPending ? 'Making it…' : 'Begin painting'}
								</Button>
							</div>
						</div>
					</form>
				</Dialog.Content>
			</Dialog.Portal>
		</Dialog.Root>
	);
}
