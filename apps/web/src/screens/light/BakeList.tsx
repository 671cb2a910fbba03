import type { Sheet } from '@eppu/core/document';
import { type Bake, bakeKindOf, toneBake } from '@eppu/core/light';
import { EyeIcon } from '@phosphor-icons/react/dist/csr/Eye';
import { EyeSlashIcon } from '@phosphor-icons/react/dist/csr/EyeSlash';
import { PlusIcon } from '@phosphor-icons/react/dist/csr/Plus';
import { useEffect, useState } from 'react';
import { addBake, sheetsOf, usualBakes } from '../../actions/light.ts';
import { bakesOf, modelHeld } from '../../studio/bakes.ts';
import { useStudio } from '../../studio/store.ts';
import { Menu } from '../../ui/Menu.tsx';
import { Block, lightRow } from '../layout/Block.tsx';

const id = (): string => crypto.randomUUID();

/** Bakes as they are first made, in the order in which they are offered: a new one is a line here. */
const newBakes: readonly (() => Bake)[] = [
	usualBakes.occlusion,
	usualBakes.edges,
	usualBakes.hollows,
	() => toneBake(id(), 'Curvature', 'curvature', { of: 'both', width: 3 }),
	() => toneBake(id(), 'Thickness', 'thickness'),
	() => toneBake(id(), 'Facing up', 'facing', { spread: 90 }),
	() => toneBake(id(), 'Height', 'height', { from: 0, to: 1 }),
	() => toneBake(id(), 'A tone for each piece', 'pieces'),
	() => ({ id: id(), name: 'Normals', bake: 'normals' }),
	() => ({ id: id(), name: 'Ids', bake: 'ids', by: 'part', seed: 1 }),
	() => ({ id: id(), name: 'Vertex colours', bake: 'vertex' }),
	() => ({
		id: id(),
		name: 'Map from elsewhere',
		bake: 'map',
		picture: 'none',
		channel: 'tone',
		bytes: 'plain',
		turned: false,
	}),
];

/** "just now", "4 min ago". */
function ago(at: number, now: number): string {
	const minutes = Math.floor((now - at) / 60_000);
	return minutes < 1 ? 'just now' : minutes < 60 ? `${minutes} min ago` : `${Math.floor(minutes / 60)} h ago`;
}

/** The time, looked at again now and then. */
function useNow(): number {
	const [now, setNow] = useState(Date.now);
	useEffect(() => {
		const timer = setInterval(() => setNow(Date.now()), 20_000);
		return () => clearInterval(timer);
	}, []);
	return now;
}

/** How far a bake is, how large, and when it was made. */
function useBakeState(bake: Bake, sheets: readonly Sheet[]): { readonly words: string; readonly share: number | null } {
	const computing = useStudio((state) => state.computing);
	const at = useStudio((state) => state.bakedAt.get(bake.id));
	const now = useNow();
	const own = computing?.bakes.filter((each) => each.bake === bake.id) ?? [];
	const left = own.reduce((sum, each) => sum + each.left, 0);
	const all = own.reduce((sum, each) => sum + each.all, 0);
	const bits = bakeKindOf(bake).format === 'deep' ? '16 bits' : 'colours';
	const size = `${sheets.map(({ width, height }) => (width === height ? width : `${width}×${height}`)).join(' + ')}, ${bits}`;
	if (left > 0)
		return {
			words: `${size} · ${computing?.halted ? 'stopped at' : 'baking'} ${Math.round(100 - (left / all) * 100)}%`,
			share: 1 - left / all,
		};
	return { words: at ? `${size} · ${ago(at, now)}` : `${size} · ready`, share: null };
}

/** The bakes of the model: what each is, how far it is; seen alone, added, chosen. */
export function BakeList({
	chosen,
	choose,
	seen,
	see,
}: {
	readonly chosen: string | null;
	readonly choose: (bake: string) => void;
	readonly seen: string | null;
	readonly see: (bake: string | null) => void;
}) {
	const bakes = useStudio(bakesOf);
	const model = useStudio(modelHeld);
	const sheets = sheetsOf(model);
	return (
		<Block
			title="Bakes"
			action={
				model && (
					<Menu
						label="Add a bake"
						items={newBakes.map((make) => ({
							label: make().name,
							run: () => {
								const added = addBake(make());
								if (added) choose(added);
							},
						}))}
					>
						<PlusIcon size={16} />
					</Menu>
				)
			}
		>
			{bakes.length === 0 && (
				<p className="text-[12px] text-ash">
					{model
						? 'Pictures of the model’s shape that light and mask recipes read. Light that wants one makes it by itself.'
						: 'Bakes are made of a model; this sheet has none.'}
				</p>
			)}
			<ul className="flex flex-col gap-1.5">
				{bakes.map((bake) => (
					<BakeRow
						key={bake.id}
						bake={bake}
						sheets={sheets}
						chosen={bake.id === chosen}
						choose={() => choose(bake.id)}
						seen={bake.id === seen}
						see={() => see(bake.id === seen ? null : bake.id)}
					/>
				))}
			</ul>
		</Block>
	);
}

function BakeRow({
	bake,
	sheets,
	chosen,
	choose,
	seen,
	see,
}: {
	readonly bake: Bake;
	readonly sheets: readonly Sheet[];
	readonly chosen: boolean;
	readonly choose: () => void;
	readonly seen: boolean;
	readonly see: () => void;
}) {
	const { words, share } = useBakeState(bake, sheets);
	return (
		<li className="relative">
			<button type="button" aria-pressed={chosen} onClick={choose} className={`${lightRow(chosen)} pr-9`}>
				<span className="block truncate font-semibold">{bake.name}</span>
				<span className="block truncate text-[12px] text-ash">{words}</span>
				{share !== null && (
					<span className="absolute inset-x-2 bottom-[3px] h-[3px] overflow-hidden rounded-full bg-bark">
						<span className="block h-full bg-pine" style={{ width: `${share * 100}%` }} />
					</span>
				)}
			</button>
			<button
				type="button"
				aria-pressed={seen}
				aria-label={`See ${bake.name} alone`}
				title="See it alone on both views"
				onClick={see}
				className={`cut-small absolute top-2 right-2 p-1 ${seen ? 'bg-pine text-on-pine' : 'hover:bg-bark'}`}
			>
				{seen ? <EyeIcon size={15} /> : <EyeSlashIcon size={15} />}
			</button>
		</li>
	);
}
