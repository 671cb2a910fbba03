import type { MeshReport } from '@eppu/core/report';
import { useEffect, useMemo, useRef, useState } from 'react';
import { addCommands } from '../../actions/command.ts';
import { question } from '../../studio/line.ts';
import { activeSheet, modelShown, sheetIn, useStudio } from '../../studio/store.ts';
import type { ShownModel } from '../../studio/told.ts';
import { Dial } from '../../ui/Dial.tsx';
import { Select } from '../../ui/Select.tsx';
import { BothViews } from '../../views/BothViews.tsx';
import { ArrangeBay } from './ArrangeBay.tsx';
import { Findings } from './Findings.tsx';
import { type LayOutNow, layOutCommands } from './layOutCommands.ts';
import { Models } from './Models.tsx';
import { PickBay, type Takes } from './PickBay.tsx';
import { ProposalBar } from './ProposalBar.tsx';
import { Sheets } from './Sheets.tsx';
import { cutAt } from './seamPartner.ts';
import { islandColors, type Shade, shades } from './shading.ts';
import { TemplateBlock } from './TemplateBlock.tsx';
import { TemplatePanel } from './TemplatePanel.tsx';
import { UnwrapBay } from './UnwrapBay.tsx';
import { useByHand } from './useByHand.ts';
import { useChosen } from './useChosen.ts';
import { type Proposing, useProposal } from './useProposal.ts';
import { useTemplate } from './useTemplate.ts';

/** What the studio tells of a model on its sheets; asked anew where models or sheets change. */
function useReport(model: ShownModel | undefined): MeshReport | null {
	const [told, setTold] = useState<{ readonly of: string; readonly report: MeshReport | null } | null>(null);
	const status = useStudio((state) => state.status);
	const project = useStudio((state) => state.outline?.project);
	const says = JSON.stringify([project?.models, project?.sheets.map(({ id, width, height }) => [id, width, height])]);
	const id = model?.id;
	useEffect(() => {
		let gone = false;
		if (id !== undefined && status === 'open')
			void question<'report'>({ say: 'report', model: id }).then((report) => !gone && setTold({ of: id, report }));
		return () => {
			gone = true;
		};
	}, [id, status, says]);
	const report = told?.of === id ? told?.report : null;
	// Of the version before, where a model was exchanged, it would name parts that are not here.
	const fits =
		report?.parts.length === model?.parts.length && report?.faces.density.length === (model?.indices.length ?? 0) / 3;
	return fits ? (report ?? null) : null;
}

/** The cut that the hand points at in either view, with the edge that it goes on in. */
function useCut(model: ShownModel | undefined): Uint32Array | null {
	const spot = useStudio((state) => state.spot?.spot ?? null);
	const sheet = useStudio((state) => (spot ? sheetIn(state, spot.sheet) : undefined));
	const found = model && spot && sheet ? cutAt(model, spot, sheet) : null;
	const last = useRef<Uint32Array | null>(null);
	// The same cut is the same list, so that the views are not drawn anew with every move.
	if (last.current?.join() !== found?.join()) last.current = found;
	return last.current;
}

/** Lay out: how a model lies on its sheets, shown on both views, and laid out otherwise. */
export function LayOutScreen() {
	const sheet = useStudio(activeSheet);
	/** Without a model, the islands of the template are what is laid out. */
	const bare = useStudio((state) => state.outline?.project.models.length === 0);
	const reading = useTemplate(bare ? sheet : undefined);
	const model = useStudio(modelShown);
	const report = useReport(model);
	const proposing = useProposal(model?.id);
	const [takes, setTakes] = useState<Takes>('islands');
	const { chosen, light, press, clear } = useChosen(model, takes);
	const byHand = useByHand(proposing, model?.id, chosen?.faces ?? null);
	const [shadeName, setShade] = useState('islands');
	const [unfold, setUnfold] = useState(0);
	// What is only proposed is told apart by its islands: the figures are of how the model lies now.
	const shade = (proposing.proposal ? null : shades.find(({ name }) => name === shadeName)) ?? (shades[0] as Shade);
	const colors = useMemo(() => {
		if (!model) return null;
		if (bare) return islandColors(model);
		return report?.faces.density.length ? shade.colors(model, report) : null;
	}, [model, report, shade, bare]);
	const marks = useStudio((state) => state.marks.get(model?.id ?? '') ?? null);
	const cut = useCut(model);
	const now = useRef<LayOutNow>(null);
	now.current = { proposing, chosen, setShade, setUnfold };
	const laid = model !== undefined && !bare;
	useEffect(() => (laid ? addCommands(layOutCommands(() => now.current as LayOutNow)) : undefined), [laid]);
	useEffect(() => {
		useStudio.setState({
			shading: {
				model: model?.id ?? '',
				colors,
				checker: shade.checker === true,
				lit: chosen?.faces ?? null,
				marks,
				cut,
				unfold,
				press,
				grab: byHand.grab,
				drag: byHand.drag,
			},
		});
		return () => useStudio.setState({ shading: null });
	}, [model, colors, shade, chosen, marks, cut, unfold, press, byHand]);
	return (
		<main className="flex min-h-0 flex-1 flex-col">
			<div className="flex min-h-0 flex-1">
				<aside
					className="flex w-[300px] shrink-0 flex-col overflow-y-auto border-r border-rule"
					aria-label="Parts and findings"
				>
					{model && !bare && <Models />}
					{bare && sheet?.guide && <TemplateBlock sheet={sheet} reading={reading} />}
					{bare && !sheet?.guide && (
						<p className="p-4 text-ash" role="status">
							This project has no model, and its sheet no template.
						</p>
					)}
					{bare ? null : model && report ? (
						<>
							<Sheets model={model} report={report} lit={chosen?.name ?? null} light={light} />
							<Findings findings={report.findings} lit={chosen?.name ?? null} light={light} />
						</>
					) : (
						<p className="p-4 text-ash" role="status">
							Looking at the model…
						</p>
					)}
				</aside>
				<div className="relative flex min-w-0 flex-1">
					<BothViews />
					<ProposalBar {...proposing} />
				</div>
			</div>
			{model && !bare && (
				<div className="flex min-h-[134px] items-start gap-4 overflow-x-auto border-t border-rule px-3 py-2.5 xl:gap-5 xl:px-4">
					<PickBay
						takes={takes}
						setTakes={setTakes}
						model={model}
						chosen={chosen?.words ?? null}
						island={chosen?.island ?? null}
						clear={clear}
						byHand={byHand}
						proposing={proposing}
					/>
					<Bays proposing={proposing} faces={chosen?.faces ?? null} words={chosen?.words ?? ''} />
					<section aria-label="Shading" className="grid min-w-[150px] flex-1 content-start xl:min-w-[190px] gap-1.5">
						<h2 className="bay-title">Colour the faces by</h2>
						<div className="w-[150px]">
							<Select
								label="Colour the faces by"
								value={shade.name}
								options={shades.map(({ name, words }) => [name, words] as const)}
								onChange={setShade}
							/>
						</div>
						<Legend shade={shade} />
					</section>
					<section aria-label="Lay flat" className="grid w-[150px] shrink-0 content-start gap-2 xl:w-[190px]">
						<h2 className="bay-title">Lay the model flat</h2>
						<Dial
							label="Unfold"
							value={unfold}
							least={0}
							most={1}
							usual={0}
							unit="%"
							hint="Each piece travels to its place on the sheet"
							onChange={setUnfold}
						/>
						<div>
							<TemplatePanel />
						</div>
					</section>
				</div>
			)}
		</main>
	);
}

function Bays({
	proposing,
	faces,
	words,
}: {
	readonly proposing: Proposing;
	readonly faces: Uint32Array | null;
	readonly words: string;
}) {
	const what = { proposing, faces, chosen: words };
	return (
		<>
			<UnwrapBay {...what} />
			<ArrangeBay {...what} />
		</>
	);
}

function Legend({ shade }: { readonly shade: Shade }) {
	if (shade.legend.length === 0) return null;
	return (
		<ul className="flex flex-wrap items-center gap-x-3 gap-y-0.5 text-[12px]" aria-label="What the colours mean">
			{shade.legend.map(([color, words]) => (
				<li key={words} className="flex items-center gap-1.5">
					<span className="size-3 border border-soot/40" style={{ background: color }} aria-hidden="true" />
					{words}
				</li>
			))}
		</ul>
	);
}
