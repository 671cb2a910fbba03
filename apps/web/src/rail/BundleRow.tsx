import type { Sheet } from '@eppu/core/document';
import type { Bundle } from '@eppu/core/format';
import { type Recolor, recoloredBy } from '@eppu/core/pixel';
import { useEffect, useMemo, useRef, useState } from 'react';
import { isOther, openTexture, readTexture, type Texture } from '../actions/bundle.ts';
import { pictures } from '../studio/hears.ts';

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
export function BundleRow({
	bundle,
	file,
	sheet,
	active,
	recolors,
	tried,
}: {
	readonly bundle: Bundle;
	readonly file: number;
	readonly sheet: Sheet | undefined;
	readonly active: boolean;
	/** Changes of colour that it has, and those that are only tried. */
	readonly recolors: readonly Recolor[];
	/** The last of them is only tried. */
	readonly tried: boolean;
}) {
	const known = bundle.files[file];
	const [old, setOld] = useState<Texture | string | null>(null);
	const [looked, look] = useState(0);
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
	const was = old && typeof old !== 'string' ? old : undefined;
	const now = useMemo(() => {
		const from = picture ? { width: picture.width, height: picture.height, data: picture.data } : was;
		return from && recoloredBy(from, recolors);
	}, [picture, was, recolors, looked]);
	if (!known) return null;
	const other = was !== undefined && now !== undefined && isOther(now, was);
	const problem = known.problem ?? (typeof old === 'string' ? old : null);
	const state = problem
		? 'kept as it is'
		: !texture
			? 'kept byte for byte'
			: other
				? tried
					? 'would be changed'
					: sheet
						? 'changed'
						: 'recoloured'
				: sheet
					? 'open, as it was'
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
			{other && !problem && <Small picture={now} label="As it is now" />}
			<span className="min-w-0 flex-1 leading-[18px]">
				<span className="block truncate font-semibold">{known.path.slice(slash + 1)}</span>
				<span className={`block truncate text-[12px] ${active ? '' : 'text-ash'}`}>
					{state} · {known.path.slice(0, slash + 1) || '/'}
				</span>
			</span>
		</button>
	);
}
