import type { ExchangeWhat } from '@eppu/core/handoff';
import { useState } from 'react';
import { callBack, sendOut } from '../../actions/exchange.ts';
import { activeLayer, activeSheet, useStudio } from '../../studio/store.ts';
import type { OutThere } from '../../studio/told.ts';
import { Button } from '../../ui/Button.tsx';
import { SheetView } from '../../views/SheetView.tsx';
import { Bay, Frame } from './Frame.tsx';
import type { Writing } from './useWriting.ts';

const stateWords: Readonly<Record<OutThere['state'], string>> = {
	away: 'Away: each saving comes back',
	saving: 'It is being saved…',
	gone: 'Its file is not in the folder: save it there again, or call it back',
	strange: 'What is in its file is no picture that can be read: save it again',
};

function Out({ out }: { readonly out: OutThere }) {
	return (
		<li className="cut flex items-center gap-2 border border-rule bg-sheet px-2 py-1">
			<span className="min-w-0 flex-1">
				<span className="block truncate font-semibold" title={out.file}>
					{out.file}
				</span>
				<span className={out.state === 'gone' || out.state === 'strange' ? 'text-lingon' : 'text-ash'}>
					{out.waiting.length ? `${out.waiting.length} to take in` : stateWords[out.state]}
				</span>
			</span>
			<Button className="!px-2 !py-0" onClick={() => void callBack(out)}>
				Call back
			</Button>
		</li>
	);
}

/** What is out at another editor: sent with one press, and back by itself whenever it is saved there. */
export function ExchangeOutput(_: { readonly writing: Writing }) {
	const sheet = useStudio(activeSheet);
	const layer = useStudio(activeLayer);
	const exchange = useStudio((state) => state.exchange);
	const [said, setSaid] = useState('');
	const [busy, setBusy] = useState(false);
	if (!sheet) return null;
	const send = async (what: ExchangeWhat): Promise<void> => {
		setBusy(true);
		setSaid(await sendOut(what));
		setBusy(false);
	};
	const short = (name: string): string => (name.length > 16 ? `${name.slice(0, 15)}…` : name);
	return (
		<Frame middle={<SheetView />}>
			<Bay title="Send" wide="w-[230px]">
				<Button look="main" disabled={busy} onClick={() => void send({ of: 'sheet', sheet: sheet.id })}>
					Send “{short(sheet.name)}” with its layers
				</Button>
				{layer && 'surface' in layer && (
					<Button disabled={busy} onClick={() => void send({ of: 'layer', sheet: sheet.id, layer: layer.id })}>
						Send the layer “{short(layer.name)}”
					</Button>
				)}
				{layer?.mask && !layer.mask.recipe?.length && (
					<Button disabled={busy} onClick={() => void send({ of: 'mask', sheet: sheet.id, layer: layer.id })}>
						Send the mask of “{short(layer.name)}”
					</Button>
				)}
			</Bay>
			<Bay title="Out there" wide="w-[380px]">
				{exchange?.out.length ? (
					<ul className="grid max-h-28 gap-1 overflow-y-auto">
						{exchange.out.map((out) => (
							<Out key={out.id} out={out} />
						))}
					</ul>
				) : (
					<p className="text-ash">
						Nothing is out. What you send is put into the folder below; open it in another editor and save it there: it
						is here within a second, as one step.
					</p>
				)}
			</Bay>
			<Bay title="Folder" wide="w-[300px]">
				<p className="break-all" title="On the machine that Eppu runs on">
					{exchange?.folder ?? 'The server is away.'}
				</p>
				<p role="status">{said}</p>
			</Bay>
		</Frame>
	);
}
