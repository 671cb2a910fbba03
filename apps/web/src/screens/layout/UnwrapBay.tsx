import { type UnwrapWay, unwrapKindOf, unwrapKinds } from '@eppu/core/unwrap';
import { useState } from 'react';
import { Button } from '../../ui/Button.tsx';
import { FieldChoices, FieldDials } from '../../ui/FieldDials.tsx';
import { Select } from '../../ui/Select.tsx';
import type { Proposing } from './useProposal.ts';

/** Faces laid flat: which way, how, and which of them. */
export function UnwrapBay({
	proposing,
	faces,
	chosen,
}: {
	readonly proposing: Proposing;
	/** Null for all. */
	readonly faces: Uint32Array | null;
	readonly chosen: string;
}) {
	const [ways, setWays] = useState<Readonly<Record<string, UnwrapWay>>>({});
	const [name, setName] = useState<string>('automatic');
	const way = ways[name] ?? (unwrapKindOf({ way: name }).usual as UnwrapWay);
	const kind = unwrapKindOf(way);
	const words = `Unwrap ${faces ? chosen : 'all'}: ${kind.words.toLowerCase()}`;
	const change = (next: UnwrapWay): void => {
		setWays({ ...ways, [next.way]: next });
		if (proposing.proposal) proposing.again({ way: next, words });
	};
	return (
		<section aria-label="Unwrap" className="grid w-[204px] shrink-0 xl:w-[236px] content-start gap-1.5">
			<h2 className="bay-title">Unwrap {faces ? chosen : 'all faces'}</h2>
			<div className="flex gap-1.5">
				<Select
					label="Way to unwrap"
					title={kind.hint}
					value={name}
					options={unwrapKinds.map((each) => [each.way, each.words] as const)}
					onChange={(next) => {
						setName(next);
						const known = ways[next] ?? (unwrapKindOf({ way: next }).usual as UnwrapWay);
						if (proposing.proposal) proposing.again({ way: known, words });
					}}
				/>
				<Button
					look="main"
					disabled={proposing.busy}
					title={kind.hint}
					onClick={() => proposing.ask({ way, faces, words })}
				>
					Unwrap
				</Button>
			</div>
			<FieldDials of={way} dials={kind.dials} onChange={change} />
			<FieldChoices of={way} choices={kind.choices} onChange={change} />
		</section>
	);
}
