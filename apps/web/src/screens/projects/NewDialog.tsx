import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Dialog } from 'radix-ui';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { createFrom, fittingSide, type NewStart, nameOf } from '../../actions/newProject.ts';
import { Button } from '../../ui/Button.tsx';

const sizes = [256, 512, 1024, 2048, 4096];

/** Name and sheet size of a project that is to be made; sensible as they stand, so Enter makes it. */
export function NewDialog({ start, onClose }: { readonly start: NewStart; readonly onClose: () => void }) {
	const navigate = useNavigate();
	const queries = useQueryClient();
	const own = start.kind === 'picture' ? ([fittingSide(start.width), fittingSide(start.height)] as const) : null;
	const [name, setName] = useState(nameOf(start));
	const [size, setSize] = useState<number | 'own'>(own ? 'own' : 1024);
	const make = useMutation({
		mutationFn: async (stage: 'paint' | 'lay-out') => {
			const [width, height] = size === 'own' && own ? own : [Number(size), Number(size)];
			return { id: await createFrom(start, name, width, height), stage };
		},
		onSuccess: ({ id, stage }) => {
			void queries.invalidateQueries({ queryKey: ['projects'] });
			void navigate(`/project/${id}/${stage}`);
		},
	});
	return (
		<Dialog.Root open onOpenChange={(open) => !open && onClose()}>
			<Dialog.Portal>
				<Dialog.Overlay className="fixed inset-0 z-40 bg-black/35" />
				<Dialog.Content className="cut fixed top-1/2 left-1/2 z-50 w-[400px] -translate-1/2 border border-rule bg-sheet p-5 shadow-xl">
					<Dialog.Title className="text-[17px] font-bold">
						{start.kind === 'model' ? 'Paint a model' : 'Paint over a template'}
					</Dialog.Title>
					<Dialog.Description className="mt-1 text-ash">
						{start.kind === 'model'
							? `${start.name}: ${(start.mesh.indices.length / 3).toLocaleString('en')} faces in ${start.mesh.parts.length} ${start.mesh.parts.length === 1 ? 'part' : 'parts'}.`
							: `${start.name}: ${start.width} by ${start.height} px. It lies over the sheet as a guide and is never part of the texture.`}
					</Dialog.Description>
					{start.kind === 'model' && start.notes.length > 0 && (
						<ul className="mt-3 grid max-h-40 list-disc gap-1 overflow-y-auto border-l-4 border-berry py-0.5 pl-7">
							{start.notes.map((note) => (
								<li key={note}>{note}</li>
							))}
						</ul>
					)}
					<form
						className="mt-4 grid gap-3"
						onSubmit={(event) => {
							event.preventDefault();
							make.mutate(start.kind === 'picture' ? 'lay-out' : 'paint');
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
						<fieldset className="grid gap-1">
							<legend className="bay-title">Sheet size, texels</legend>
							<div className="flex flex-wrap gap-1.5">
								{own && (
									<Button
										aria-pressed={size === 'own'}
										look={size === 'own' ? 'main' : 'plain'}
										onClick={() => setSize('own')}
									>
										{own[0]} × {own[1]}
									</Button>
								)}
								{sizes.map((each) => (
									<Button
										key={each}
										aria-pressed={size === each}
										look={size === each ? 'main' : 'plain'}
										onClick={() => setSize(each)}
									>
										{each}
									</Button>
								))}
							</div>
						</fieldset>
						{make.isError && (
							<p role="alert" className="text-lingon">
								{make.error.message}
							</p>
						)}
						<div className="mt-1 flex justify-end gap-2">
							<Button onClick={onClose}>Cancel</Button>
							{start.kind === 'picture' && (
								<Button disabled={make.isPending} onClick={() => make.mutate('paint')}>
									Begin painting
								</Button>
							)}
							<Button type="submit" look="main" disabled={make.isPending}>
								{make.isPending ? 'Making it…' : start.kind === 'picture' ? 'Find its islands' : 'Begin painting'}
							</Button>
						</div>
					</form>
				</Dialog.Content>
			</Dialog.Portal>
		</Dialog.Root>
	);
}
