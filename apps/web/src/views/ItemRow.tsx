import type { Sheet } from '@eppu/core/document';
import { useEffect, useRef } from 'react';
import { showSheet } from '../actions/views.ts';
import { beforeOf } from '../studio/before.ts';
import { pictures } from '../studio/hears.ts';
import { activeSheet, useStudio } from '../studio/store.ts';

/** Screen px a texel. */
const scales = [1, 2, 4] as const;

const grounds = [
	['light', '#e9e4d8'],
	['dark', '#26231e'],
	['patterned', 'repeating-conic-gradient(#6f8655 0 25%, #5d7348 0 50%) 0 0 / 16px 16px'],
] as const;

/** A sheet as it is, at so many px a texel. */
function Item({ sheet, scale }: { readonly sheet: Sheet; readonly scale: number }) {
	const canvas = useRef<HTMLCanvasElement>(null);
	const before = useStudio((state) => state.beforeShown);
	const picture = (before && beforeOf(sheet.id)) || pictures.get(sheet.id);
	useEffect(() => {
		const draw = (): void => {
			const context = canvas.current?.getContext('2d');
			if (!context || !picture) return;
			context.clearRect(0, 0, picture.width, picture.height);
			context.drawImage(picture.canvas, 0, 0);
		};
		draw();
		return picture?.watch(draw);
	}, [picture]);
	return (
		<canvas
			ref={canvas}
			width={sheet.width}
			height={sheet.height}
			className="block shrink-0"
			style={{ width: sheet.width * scale, height: sheet.height * scale, imageRendering: 'pixelated' }}
		/>
	);
}

/** The item at the sizes of a game on light, dark and patterned ground, and among its neighbours. */
export function ItemRow() {
	const sheet = useStudio(activeSheet);
	const sheets = useStudio((state) => state.outline?.project.sheets);
	if (!sheet) return null;
	const neighbours = (sheets ?? []).filter((each) => each.pixel && each.width <= 128 && each.height <= 128);
	const fits = scales.filter((scale) => sheet.width * scale <= 96);
	return (
		<div className="shrink-0 border-t border-black/25">
			<div className="flex overflow-x-auto">
				{grounds.map(([name, ground]) => (
					<div
						key={name}
						title={`On ${name} ground`}
						className="flex min-w-max flex-1 items-end justify-center gap-1.5 p-1.5"
						style={{ background: ground }}
					>
						{(fits.length ? fits : ([1] as const)).map((scale) => (
							<Item key={scale} sheet={sheet} scale={scale} />
						))}
					</div>
				))}
			</div>
			{neighbours.length > 1 && (
				<ul className="flex items-end gap-1 overflow-x-auto bg-[#3b372f] p-1.5" aria-label="Among its neighbours">
					{neighbours.map((each) => (
						<li key={each.id}>
							<button
								type="button"
								title={each.name}
								aria-label={each.name}
								aria-pressed={each.id === sheet.id}
								onClick={() => showSheet(each.id)}
								className={`cut-small p-1 ${each.id === sheet.id ? 'ring-2 ring-berry' : 'hover:bg-white/15'}`}
							>
								<Item sheet={each} scale={each.width <= 32 ? 2 : 1} />
							</button>
						</li>
					))}
				</ul>
			)}
		</div>
	);
}
