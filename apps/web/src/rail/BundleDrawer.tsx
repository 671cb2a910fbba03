import type { Sheet } from '@eppu/core/document';
import type { Bundle } from '@eppu/core/format';
import { type UIEvent, useEffect, useMemo, useRef, useState } from 'react';
import { bundleOf, differs, openTexture, readTexture, type Texture, writeBundle } from '../actions/bundle.ts';
import { pictures } from '../studio/hears.ts';
import { activeSheet, useStudio } from '../studio/store.ts';
import { Button } from '../ui/Button.tsx';
import type { DrawerKind } from './drawer.ts';

/** Px of a row; rows beside the window are not there. */
const ROW = 46;
const BESIDE = 6;

/** A picture drawn as it is, as large as fits in a square. */
function Small({ picture, label }: { readonly picture: Texture | undefined; readonly label: string }) {
	const canvas = useRef<HTMLCanvasElement>(null);
	useEffect(() => {
		const context = canvas.current?.getContext('2d');
		if (!context || !picture) return;
		const { width, height, data } = picture;
		Object.assign(canvas.current as HTMLCanvasElement, { width, height });
		context.putImageData(new ImageData(new Uint8ClampedArray(data), width, height), 0, 0);
	}, [picture]);
	return (
		<canvas
			ref={canvas}
			role="img"
			aria-label={label}
			title={label}
			width={1}
			height={1}
			className="checkered size-9 shrink-0 object-contain"
			style={{ imageRendering: 'pixelated' }}
		/>
	);
}

/** One file of the bundle: the old picture, the new one where it is open, and how it stands. */
function Row({
	bundle,
	file,
	sheet,
	active,
}: {
	readonly bundle: Bundle;
	readonly file: number;
	readonly sheet: Sheet | undefined;
	readonly active: boolean;
}) {
	const known = bundle.files[file];
	const [old, setOld] = useState<Texture | string | null>(null);
	const [, look] = useState(0);
	const texture = known?.kind === 'texture' && known.problem === null;
	useEffect(() => {
		let gone = false;
		if (texture) void readTexture(bundle, file).then((read) => !gone && setOld(read));
		return () => {
			gone = true;
		};
	}, [bundle, file, texture]);
	const picture = sheet && pictures.get(sheet.id);
	useEffect(() => {
		let timer = 0;
		const stop = picture?.watch(() => {
			clearTimeout(timer);
			timer = window.setTimeout(() => look((n) => n + 1), 250);
		});
		return () => {
			stop?.();
			clearTimeout(timer);
		};
	}, [picture]);
	if (!known) return null;
	const problem = known.problem ?? (typeof old === 'string' ? old : null);
	const was = old && typeof old !== 'string' ? old : undefined;
	const state = problem
		? 'kept as it is'
		: !texture
			? 'kept byte for byte'
			: sheet && was
				? differs(sheet, was)
					? 'changed'
					: 'open, as it was'
				: 'as it was';
	const slash = known.path.lastIndexOf('/');
	return (
		<button
			type="button"
			aria-current={active || undefined}
			disabled={!texture || problem !== null}
			title={problem ?? known.path}
			onClick={() => void openTexture(bundle, file)}
			className={`flex h-[46px] w-full items-center gap-2 px-3 text-left ${active ? 'bg-berry/60' : 'hover:bg-bark disabled:hover:bg-transparent'}`}
		>
			{texture && <Small picture={was} label="As it was" />}
			{sheet && picture && state === 'changed' && <Small picture={picture} label="As it is now" />}
			<span className="min-w-0 flex-1 leading-[18px]">
				<span className="block truncate font-semibold">{known.path.slice(slash + 1)}</span>
				<span className="block truncate text-[12px] text-ash">
					{state} · {known.path.slice(0, slash + 1) || '/'}
				</span>
			</span>
		</button>
	);
}

/** The textures of the project's bundle: looked for, opened one after the other, written back. */
export function BundleDrawer() {
	const project = useStudio((state) => state.outline?.project);
	const sheet = useStudio(activeSheet);
	const asset = project?.bundle;
	const [bundle, setBundle] = useState<Bundle | string | null>(null);
	const [asked, setAsked] = useState('');
	const [top, setTop] = useState(0);
	const [said, setSaid] = useState<string | null>(null);
	const list = useRef<HTMLDivElement>(null);
	useEffect(() => {
		if (!project || !asset) return;
		void bundleOf(project.id, asset).then(setBundle, (error: Error) => setBundle(error.message));
	}, [project?.id, asset?.hash]);
	const found = useMemo(() => {
		if (!bundle || typeof bundle === 'string') return [];
		const words = asked.toLowerCase().split(/\s+/).filter(Boolean);
		return bundle.files.flatMap(({ path }, file) =>
			words.every((word) => path.toLowerCase().includes(word)) ? [file] : [],
		);
	}, [bundle, asked]);
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
	const paths = new Map(project.sheets.flatMap((each) => (each.path ? [[each.path, each] as const] : [])));
	const textures = found.filter(
		(file) =>
			typeof bundle !== 'string' && bundle?.files[file]?.kind === 'texture' && bundle.files[file]?.problem === null,
	);
	const step = (by: 1 | -1): void => {
		if (!bundle || typeof bundle === 'string' || !textures.length) return;
		const now = textures.findIndex((file) => bundle.files[file]?.path === sheet?.path);
		const next = textures[(now + by + textures.length) % textures.length] as number;
		void openTexture(bundle, next);
		const row = found.indexOf(next);
		list.current?.scrollTo({ top: Math.max(0, row * ROW - 120) });
	};
	const from = Math.max(0, Math.floor(top / ROW) - BESIDE);
	const shown = found.slice(from, from + Math.ceil((list.current?.clientHeight ?? 700) / ROW) + 2 * BESIDE);
	return (
		<>
			<h2 className="truncate px-4 pt-3 pb-2 text-[15px] font-bold" title={asset.name}>
				{asset.name}
			</h2>
			{typeof bundle === 'string' ? (
				<p role="alert" className="px-4 text-lingon">
					{bundle}
				</p>
			) : !bundle ? (
				<p className="px-4 text-ash">Reading the bundle…</p>
			) : (
				<>
					<div className="grid gap-1.5 px-4 pb-2">
						<input
							aria-label="Look for textures"
							placeholder="Look for…"
							value={asked}
							onChange={(event) => {
								setAsked(event.target.value);
								setTop(0);
								list.current?.scrollTo({ top: 0 });
							}}
							onKeyDown={(event) => event.stopPropagation()}
							className="cut-small w-full border border-rule bg-paper px-2 py-0.5"
						/>
						<div className="flex items-center gap-1">
							<span className="flex-1 text-[12px] text-ash">
								{found.length} of {bundle.files.length}
							</span>
							<Button className="!px-2 !py-0 !text-[12px]" disabled={!textures.length} onClick={() => step(-1)}>
								Before
							</Button>
							<Button className="!px-2 !py-0 !text-[12px]" disabled={!textures.length} onClick={() => step(1)}>
								Next
							</Button>
						</div>
					</div>
					<div
						ref={list}
						className="min-h-0 flex-1 overflow-y-auto border-y border-rule"
						onScroll={(event: UIEvent<HTMLDivElement>) => setTop(event.currentTarget.scrollTop)}
					>
						<div style={{ height: found.length * ROW }} className="relative">
							<div style={{ transform: `translateY(${from * ROW}px)` }}>
								{shown.map((file) => {
									const own = paths.get(bundle.files[file]?.path ?? '');
									return (
										<Row
											key={file}
											bundle={bundle}
											file={file}
											sheet={own}
											active={own !== undefined && own === sheet}
										/>
									);
								})}
							</div>
						</div>
					</div>
					<div className="px-4 py-2">
						<Button look="main" onClick={() => void writeBundle(bundle, project, asset.name).then(setSaid)}>
							Write the bundle
						</Button>
						<p role="status" className="mt-1 min-h-5 text-[12px]">
							{said}
						</p>
					</div>
				</>
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
