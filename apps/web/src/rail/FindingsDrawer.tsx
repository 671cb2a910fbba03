import { type Found, findAll, pixelChecks } from '@eppu/core/check';
import { colorsOfTexels, pixelColors } from '@eppu/core/pixel';
import { useEffect, useState } from 'react';
import { pictures } from '../studio/hears.ts';
import { edit } from '../studio/say.ts';
import { activeSheet, type StudioState, useStudio } from '../studio/store.ts';
import { Button } from '../ui/Button.tsx';
import { Dial } from '../ui/Dial.tsx';
import type { DrawerKind } from './drawer.ts';

/** How long a picture rests before it is checked anew, ms. */
const REST = 250;

/** What the checks find on the active sheet as it is now. */
function look(state: StudioState): readonly Found[] {
	const sheet = activeSheet(state);
	const picture = sheet && pictures.get(sheet.id);
	const project = state.outline?.project;
	if (!sheet || !picture || !project) return [];
	const others = project.sheets.filter(({ id, pixel }) => pixel && id !== sheet.id);
	const set = new Set(
		others.flatMap(({ id }) => {
			const other = pictures.get(id);
			return other ? colorsOfTexels(other.data).colors.map(([color]) => color) : [];
		}),
	);
	const checked = { picture, palette: pixelColors(project.palette), set: others.length ? set : null };
	return findAll(checked, state.thresholds);
}

/** What is found on the active sheet, told anew when its picture rests. */
function useFindings(): readonly Found[] {
	const sheet = useStudio(activeSheet);
	const palette = useStudio((state) => state.outline?.project.palette);
	const thresholds = useStudio((state) => state.thresholds);
	const picture = sheet ? pictures.get(sheet.id) : undefined;
	const [found, setFound] = useState<readonly Found[]>([]);
	useEffect(() => {
		let timer = 0;
		const again = (): void => setFound(look(useStudio.getState()));
		again();
		const stop = picture?.watch(() => {
			clearTimeout(timer);
			timer = window.setTimeout(again, REST);
		});
		return () => {
			stop?.();
			clearTimeout(timer);
		};
	}, [picture, palette, thresholds]);
	return found;
}

/** What the checks of a pixel sheet find, where, and what mends it. */
export function FindingsDrawer() {
	const pixel = useStudio((state) => activeSheet(state)?.pixel === true);
	const thresholds = useStudio((state) => state.thresholds);
	const found = useFindings();
	useEffect(() => () => useStudio.setState({ pointedOut: null }), []);
	const point = (place: Found['finding']['place']): void => useStudio.setState({ pointedOut: place });
	return (
		<>
			<h2 className="px-4 pt-3 pb-2 text-[15px] font-bold">Findings</h2>
			<div className="min-h-0 flex-1 overflow-y-auto px-4 pb-4">
				{!pixel ? (
					<p className="text-ash">These checks are of pixel sheets. Make this one so under “Texels” over the sheet.</p>
				) : found.length === 0 ? (
					<p className="text-ash">{pixelChecks.length} checks find nothing to mend.</p>
				) : (
					<ul className="grid gap-2">
						{found.map(({ check, finding }, i) => (
							<li
								key={`${check.name}${i}`}
								className="cut border border-rule bg-paper px-2.5 py-1.5"
								onPointerEnter={() => point(finding.place)}
								onPointerLeave={() => point(null)}
							>
								<h3 className="bay-title">{check.label}</h3>
								<p className="mt-0.5">{finding.text}</p>
								<div className="mt-1.5 flex gap-1">
									{finding.place && (
										<Button className="!px-2 !py-0 !text-[12px]" onClick={() => point(finding.place)}>
											Show where
										</Button>
									)}
									{finding.mend && (
										<Button
											className="!px-2 !py-0 !text-[12px]"
											look="main"
											onClick={() => {
												point(null);
												if (finding.mend) edit(finding.mend.edit);
											}}
										>
											{finding.mend.label}
										</Button>
									)}
								</div>
							</li>
						))}
					</ul>
				)}
				{pixel && (
					<section className="mt-4">
						<h3 className="bay-title mb-1">From where on</h3>
						<div className="grid gap-1">
							{pixelChecks.flatMap(({ name, label, threshold }) =>
								threshold
									? [
											<div key={name}>
												<p className="text-[12px] text-ash">{label}</p>
												<Dial
													label={threshold.label}
													unit={threshold.percent ? '%' : ''}
													percent={threshold.percent ?? false}
													least={threshold.least}
													most={threshold.most}
													usual={threshold.usual}
													value={thresholds[name] ?? threshold.usual}
													hint={label}
													onChange={(value) =>
														useStudio.setState({
															thresholds: { ...thresholds, [name]: threshold.most > 10 ? Math.round(value) : value },
														})
													}
												/>
											</div>,
										]
									: [],
							)}
						</div>
					</section>
				)}
			</div>
		</>
	);
}

export const findingsDrawer: DrawerKind = {
	name: 'findings',
	label: 'Findings',
	asks: 'Findings drawer',
	Drawer: FindingsDrawer,
	beside: true,
};
