import { type DragEvent, useState } from 'react';
import { choosePictures, useLibrary, useLibraryChange } from '../server/library.ts';
import { setDesk } from '../studio/desk.ts';
import { useStudio } from '../studio/store.ts';
import { Button } from '../ui/Button.tsx';
import { Dial } from '../ui/Dial.tsx';
import type { DrawerKind } from './drawer.ts';
import { Reference } from './Reference.tsx';

const sizes = { least: 100, most: 640, usual: 260 } as const;

/** Pictures to look at and to take colours from: those of this project, and those of all. */
export function ReferencesDrawer() {
	const all = useLibrary('reference');
	const pinned = useLibrary('pinned');
	const mine = useStudio((state) => state.desk.references);
	const { addPictures, changeKind, remove } = useLibraryChange();
	const [size, setSize] = useState<number>(sizes.usual);
	const own = pinned.filter(({ id }) => mine.includes(id));
	const pin = (ids: readonly string[]): void =>
		setDesk({ references: [...new Set([...useStudio.getState().desk.references, ...ids])] });
	const take = async (files: Iterable<File>): Promise<void> => pin(await addPictures('pinned', files));
	const dropped = (event: DragEvent): void => {
		event.preventDefault();
		void take(event.dataTransfer.files);
	};
	return (
		<div className="flex min-h-0 flex-1 flex-col" onDragOver={(event) => event.preventDefault()} onDrop={dropped}>
			<h2 className="px-4 pt-3 pb-1 text-[15px] font-bold">References</h2>
			<p className="px-4 pb-2 text-[12px] text-ash">
				Drop pictures here. A press on one takes its colour into the front pot; the right button drags it.
			</p>
			{own.length + all.length > 1 && (
				<div className="px-4 pb-2">
					<Dial
						label="Size"
						unit=" px"
						least={sizes.least}
						most={sizes.most}
						usual={sizes.usual}
						value={size}
						onChange={setSize}
					/>
				</div>
			)}
			<div className="min-h-0 flex-1 overflow-y-auto px-4" data-board style={{ columnWidth: size, columnGap: 12 }}>
				{own.map((item) => (
					<Reference
						key={item.id}
						{...item}
						forAll={false}
						onShare={() => changeKind(item, 'reference')}
						onDrop={() => remove(item.id)}
					/>
				))}
				{all.map((item) => (
					<Reference
						key={item.id}
						{...item}
						forAll
						onShare={() => {
							pin([item.id]);
							changeKind(item, 'pinned');
						}}
						onDrop={() => remove(item.id)}
					/>
				))}
			</div>
			<div className="px-4 py-3">
				<Button className="w-full" onClick={async () => void take(await choosePictures(true))}>
					Add pictures…
				</Button>
			</div>
		</div>
	);
}

export const referencesDrawer: DrawerKind = {
	name: 'references',
	label: 'References',
	asks: 'References drawer',
	Drawer: ReferencesDrawer,
	beside: true,
};
