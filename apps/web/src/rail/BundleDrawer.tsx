import type { Asset, Project } from '@eppu/core/document';
import type { Bundle } from '@eppu/core/format';
import { pathHas, type Recolor, recolorsFor } from '@eppu/core/pixel';
import { type UIEvent, useEffect, useMemo, useRef, useState } from 'react';
import { bundleOf, openTexture, texturesOf, writeBundle } from '../actions/bundle.ts';
import { activeSheet, useStudio } from '../studio/store.ts';
import { Button } from '../ui/Button.tsx';
import { BundleColorsSection } from './BundleColors.tsx';
import { BundleRow } from './BundleRow.tsx';
import type { DrawerKind } from './drawer.ts';

/** Px of a row; rows beside the window are not there. */
const ROW = 46;
const BESIDE = 6;

const small = '!px-2 !py-0 !text-[12px]';

/** Files of a bundle, those in the window alone; `seen` is the row that is to be in view. */
function Rows({
	bundle,
	project,
	files,
	pending,
	seen,
}: {
	readonly bundle: Bundle;
	readonly project: Project;
	readonly files: readonly number[];
	/** What is only tried. */
	readonly pending: Recolor | null;
	readonly seen: { readonly row: number };
}) {
	const sheet = useStudio(activeSheet);
	const [top, setTop] = useState(0);
	const list = useRef<HTMLDivElement>(null);
	useEffect(() => {
		list.current?.scrollTo({ top: Math.max(0, seen.row * ROW - 120) });
	}, [seen]);
	const paths = new Map(project.sheets.flatMap((each) => (each.path ? [[each.path, each] as const] : [])));
	/** The changes that a texture shows: a sheet has those that were made already. */
	const shownAs = useMemo(() => {
		const [made, tried] = [project.recolors ?? [], pending ? [pending] : []];
		const known = new Map<string, readonly Recolor[]>();
		return (path: string, open: boolean): readonly Recolor[] => {
			const key = `${open} ${path}`;
			let own = known.get(key);
			if (!own) known.set(key, (own = recolorsFor(path, open ? tried : [...made, ...tried])));
			return own;
		};
	}, [project.recolors, pending]);
	const from = Math.max(0, Math.floor(top / ROW) - BESIDE);
	const shown = files.slice(from, from + Math.ceil((list.current?.clientHeight ?? 700) / ROW) + 2 * BESIDE);
	return (
		<div
			ref={list}
			className="min-h-0 flex-1 overflow-y-auto border-y border-rule"
			onScroll={(event: UIEvent<HTMLDivElement>) => setTop(event.currentTarget.scrollTop)}
		>
			<div style={{ height: files.length * ROW }} className="relative">
				<div style={{ transform: `translateY(${from * ROW}px)` }}>
					{shown.map((file) => {
						const path = bundle.files[file]?.path ?? '';
						const own = paths.get(path);
						return (
							<BundleRow
								key={file}
								bundle={bundle}
								file={file}
								sheet={own}
								active={own !== undefined && own === sheet}
								recolors={shownAs(path, own !== undefined)}
								tried={pending !== null && pathHas(path, pending.only)}
							/>
						);
					})}
				</div>
			</div>
		</div>
	);
}

/** An open bundle: looked through, recoloured, written back. */
function OpenBundle({
	bundle,
	asset,
	project,
}: {
	readonly bundle: Bundle;
	readonly asset: Asset;
	readonly project: Project;
}) {
	const path = useStudio((state) => activeSheet(state)?.path);
	const [asked, setAsked] = useState('');
	const [said, setSaid] = useState<string | null>(null);
	const [counting, setCounting] = useState(false);
	const [pending, setPending] = useState<Recolor | null>(null);
	const [seen, setSeen] = useState({ row: 0 });
	const [found, textures] = useMemo(() => {
		const files = bundle.files.flatMap(({ path }, file) => (pathHas(path, asked) ? [file] : []));
		const all = new Set(texturesOf(bundle));
		return [files, files.filter((file) => all.has(file))] as const;
	}, [bundle, asked]);
	const step = (by: 1 | -1): void => {
		const now = textures.findIndex((file) => bundle.files[file]?.path === path);
		const next = textures[(now + by + textures.length) % textures.length] as number;
		void openTexture(bundle, next);
		setSeen({ row: found.indexOf(next) });
	};
	return (
		<>
			<div className="grid gap-1.5 px-4 pb-2">
				<input
					aria-label="Look for textures"
					placeholder="Look for…"
					value={asked}
					onChange={(event) => {
						setAsked(event.target.value);
						setSeen({ row: 0 });
					}}
					onKeyDown={(event) => event.stopPropagation()}
					className="cut-small w-full border border-rule bg-paper px-2 py-0.5"
				/>
				<div className="flex items-center gap-1">
					<span className="flex-1 text-[12px] text-ash">
						{found.length} of {bundle.files.length}
					</span>
					<Button
						className={`${small} ${counting ? '!bg-pine !text-on-pine' : ''}`}
						aria-pressed={counting}
						onClick={() => setCounting(!counting)}
					>
						All colours
					</Button>
					<Button className={small} disabled={!textures.length} onClick={() => step(-1)}>
						Before
					</Button>
					<Button className={small} disabled={!textures.length} onClick={() => step(1)}>
						Next
					</Button>
				</div>
			</div>
			<Rows bundle={bundle} project={project} files={found} pending={pending} seen={seen} />
			{counting && (
				<BundleColorsSection bundle={bundle} files={textures} asked={asked} project={project} pend={setPending} />
			)}
			<div className="border-t border-rule px-4 py-2">
				<Button look="main" onClick={() => void writeBundle(bundle, project, asset.name).then(setSaid)}>
					Write the bundle
				</Button>
				<p role="status" className="mt-1 min-h-5 text-[12px]">
					{said}
				</p>
			</div>
		</>
	);
}

/** The textures of the project's bundle. */
export function BundleDrawer() {
	const project = useStudio((state) => state.outline?.project);
	const asset = project?.bundle;
	const [bundle, setBundle] = useState<Bundle | string | null>(null);
	useEffect(() => {
		if (!project || !asset) return;
		void bundleOf(project.id, asset).then(setBundle, (error: Error) => setBundle(error.message));
	}, [project?.id, asset?.hash]);
	if (!project) return null;
	if (!asset)
		return (
			<>
				<h2 className="px-4 pt-3 pb-2 text-[15px] font-bold">Bundle</h2>
				<p className="px-4 text-ash">
					This project has no bundle. Drop a ZIP of PNG textures on the projects page to open one.
				</p>
			</>
		);
	return (
		<>
			<h2 className="truncate px-4 pt-3 pb-2 text-[15px] font-bold" title={asset.name}>
				{asset.name}
			</h2>
			{typeof bundle === 'string' ? (
				<p role="alert" className="px-4 text-lingon">
					{bundle}
				</p>
			) : bundle ? (
				<OpenBundle bundle={bundle} asset={asset} project={project} />
			) : (
				<p className="px-4 text-ash">Reading the bundle…</p>
			)}
		</>
	);
}

export const bundleDrawer: DrawerKind = {
	name: 'bundle',
	label: 'Bundle',
	asks: 'Bundle drawer',
	Drawer: BundleDrawer,
	beside: true,
};
