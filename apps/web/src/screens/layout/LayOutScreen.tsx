import type { Finding, MeshReport, PartMeasures } from '@eppu/core/report';
import { EyeIcon } from '@phosphor-icons/react/dist/csr/Eye';
import { EyeSlashIcon } from '@phosphor-icons/react/dist/csr/EyeSlash';
import { type ReactNode, useEffect, useMemo, useState } from 'react';
import { setDesk } from '../../studio/desk.ts';
import { question } from '../../studio/line.ts';
import type { ShownModel } from '../../studio/protocol.ts';
import { run } from '../../studio/say.ts';
import { activeSheet, useStudio } from '../../studio/store.ts';
import { Choice } from '../../ui/Choice.tsx';
import { Dial } from '../../ui/Dial.tsx';
import { BothViews } from '../../views/BothViews.tsx';
import { shades } from './shading.ts';
import { TemplatePanel } from './TemplatePanel.tsx';

/** What the studio tells of a model on its sheets; asked anew where models or sheets change. */
function useReport(model: ShownModel | undefined): MeshReport | null {
	const [report, setReport] = useState<MeshReport | null>(null);
	const status = useStudio((state) => state.status);
	const project = useStudio((state) => state.outline?.project);
	const says = JSON.stringify([project?.models, project?.sheets.map(({ id, width, height }) => [id, width, height])]);
	useEffect(() => {
		let gone = false;
		if (model && status === 'open')
			void question<'report'>({ say: 'report', model: model.id }).then((told) => !gone && setReport(told));
		return () => {
			gone = true;
		};
	}, [model, status, says]);
	return report;
}

/** Lay out: what a model is like on its sheets, part by part, shown on both views. */
export function LayOutScreen() {
	const models = useStudio((state) => state.models);
	const [at, setAt] = useState(0);
	const model = models[at] ?? models[0];
	const report = useReport(model);
	const [shadeName, setShade] = useState('islands');
	const [lit, setLit] = useState<{ readonly name: string; readonly faces: Uint32Array } | null>(null);
	const [unfold, setUnfold] = useState(0);
	const shade = shades.find(({ name }) => name === shadeName) ?? shades[0];
	const colors = useMemo(
		() => (model && report ? (shade?.colors(model, report) ?? null) : null),
		[model, report, shade],
	);
	useEffect(() => {
		useStudio.setState({ shading: { model: model?.id ?? '', colors, lit: lit?.faces ?? null, unfold } });
		return () => useStudio.setState({ shading: null });
	}, [model, colors, lit, unfold]);
	useEffect(() => setLit(null), [report]);
	const light = (name: string, faces: () => Uint32Array): void =>
		setLit(lit?.name === name ? null : { name, faces: faces() });
	return (
		<main className="flex min-h-0 flex-1 flex-col">
			<div className="flex min-h-0 flex-1">
				<aside
					className="flex w-[300px] shrink-0 flex-col overflow-y-auto border-r border-rule"
					aria-label="Parts and findings"
				>
					{models.length > 1 && (
						<Block title="Model">
							<Choice
								label="Model"
								value={String(at)}
								options={models.map((_, i) => [String(i), `Model ${i + 1}`] as const)}
								onChange={(value) => setAt(Number(value))}
							/>
						</Block>
					)}
					{model && report ? (
						<>
							<Parts model={model} report={report} lit={lit?.name ?? null} light={light} />
							<Findings findings={report.findings} lit={lit?.name ?? null} light={light} />
						</>
					) : (
						<p className="p-4 text-ash" role="status">
							{model ? 'Looking at the model…' : 'This project has no model: its sheets are painted over a template.'}
						</p>
					)}
				</aside>
				<BothViews />
			</div>
			<section aria-label="Shading" className="flex min-h-[74px] items-center gap-5 border-t border-rule px-4 py-2">
				<div>
					<h2 className="bay-title mb-1.5">Colour the faces by</h2>
					<Choice
						label="Colour the faces by"
						value={shadeName}
						options={shades.map(({ name, words }) => [name, words] as const)}
						onChange={setShade}
					/>
				</div>
				{shade && shade.legend.length > 0 && (
					<ul className="flex flex-wrap items-center gap-x-4 gap-y-1 text-[12px]" aria-label="What the colours mean">
						{shade.legend.map(([color, words]) => (
							<li key={words} className="flex items-center gap-1.5">
								<span className="size-3.5 border border-soot/40" style={{ background: color }} aria-hidden="true" />
								{words}
							</li>
						))}
					</ul>
				)}
				{model && <TemplatePanel />}
				{model && (
					<div className="ml-auto w-[230px] shrink-0">
						<h2 className="bay-title mb-1.5">Lay the model flat</h2>
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
					</div>
				)}
			</section>
		</main>
	);
}

interface Lighting {
	readonly lit: string | null;
	/** Points faces out on both views; the same again does no more. */
	readonly light: (name: string, faces: () => Uint32Array) => void;
}

function Block({ title, children }: { readonly title: string; readonly children: ReactNode }) {
	return (
		<section className="border-b border-rule px-3 py-3" aria-label={title}>
			<h2 className="bay-title mb-2">{title}</h2>
			{children}
		</section>
	);
}

const row = (pressed: boolean): string =>
	`cut w-full border px-2.5 py-1.5 text-left ${pressed ? 'border-berry bg-berry-soft' : 'border-rule bg-sheet hover:border-ash'}`;

/** Parts by the sheet that they lie on, with their figures. */
function Parts({ model, report, lit, light }: { readonly model: ShownModel; readonly report: MeshReport } & Lighting) {
	const sheets = useStudio((state) => state.outline?.project.sheets ?? []);
	const active = useStudio((state) => activeSheet(state)?.id);
	return sheets.map((sheet, number) => {
		const parts = model.parts.flatMap((part, i) => (part.sheet === sheet.id ? [i] : []));
		if (!parts.length) return null;
		return (
			<Block key={sheet.id} title={`Sheet ${sheet.name}`}>
				<div className="mb-2 flex items-baseline justify-between gap-2 text-[12px] text-ash">
					<span>
						{sheet.width} × {sheet.height} · {Math.round((report.fill[number] ?? 0) * 100)}% covered
					</span>
					<button
						type="button"
						className="cut-small border border-rule px-1.5 disabled:border-transparent"
						disabled={active === sheet.id}
						onClick={() => setDesk({ sheet: sheet.id })}
					>
						{active === sheet.id ? 'Shown' : 'Show it'}
					</button>
				</div>
				<ul className="grid gap-1.5">
					{parts.map((i) => {
						const measures = report.parts[i] as PartMeasures;
						const part = model.parts[i] as ShownModel['parts'][number];
						const name = `part ${i}`;
						return (
							<li key={name} className="relative">
								<PartEyes model={model} part={i} name={measures.name} />
								<button
									type="button"
									aria-pressed={lit === name}
									className={row(lit === name)}
									onClick={() =>
										light(name, () => Uint32Array.from({ length: part.faces }, (_, k) => part.firstFace + k))
									}
								>
									<span className="block truncate pr-20 font-semibold">{measures.name}</span>
									<span className="block text-[12px] text-ash tabular-nums">
										{measures.faces} faces, {measures.islands} {measures.islands === 1 ? 'island' : 'islands'},{' '}
										{figure(measures.density)} texels a unit
									</span>
									{measures.stretch >= 1.15 && (
										<span className="block text-[12px] text-ash tabular-nums">
											Texels {measures.stretch.toFixed(1)} times as long as wide
										</span>
									)}
								</button>
							</li>
						);
					})}
				</ul>
			</Block>
		);
	});
}

/** Shows and hides a part, and has it seen alone. */
function PartEyes({ model, part, name }: { readonly model: ShownModel; readonly part: number; readonly name: string }) {
	const parts = useStudio((state) => state.outline?.project.models.find(({ id }) => id === model.id)?.parts ?? []);
	const shown = parts.map((each) => each.shown);
	const here = shown[part] === true;
	const alone = here && shown.filter(Boolean).length === 1;
	const show = (next: readonly boolean[]): void => run({ do: 'parts.show', model: model.id, shown: next });
	return (
		<span className="absolute top-1.5 right-2 flex items-center gap-1">
			{shown.length > 1 && (
				<button
					type="button"
					aria-pressed={alone}
					aria-label={`Only ${name}`}
					title={alone ? 'Show all parts again' : 'Hide all other parts'}
					className={`cut-small px-1.5 text-[12px] ${alone ? 'bg-pine text-on-pine' : 'bg-bark hover:bg-bark-deep'}`}
					onClick={() => show(shown.map((_, i) => alone || i === part))}
				>
					Only
				</button>
			)}
			<button
				type="button"
				aria-pressed={here}
				aria-label={`${name} shown`}
				title={here ? 'Hide this part' : 'Show this part'}
				onClick={() => show(shown.map((each, i) => (i === part ? !each : each)))}
			>
				{here ? <EyeIcon size={16} /> : <EyeSlashIcon size={16} />}
			</button>
		</span>
	);
}

const figure = (n: number): string => (n >= 100 ? Math.round(n).toLocaleString('en') : n.toPrecision(2));

/** What may be wrong, worst first; nothing of it keeps anybody from going on. */
function Findings({ findings, lit, light }: { readonly findings: readonly Finding[] } & Lighting) {
	return (
		<Block title="What to know of this model">
			{findings.length === 0 && <p className="text-ash">Nothing: it can be painted as it is.</p>}
			<ul className="grid gap-1.5">
				{findings.map((finding) => (
					<li key={finding.words}>
						<button
							type="button"
							aria-pressed={lit === finding.words}
							className={row(lit === finding.words)}
							onClick={() => light(finding.words, () => finding.faces)}
						>
							{finding.grave && <span className="block text-[12px] font-bold text-lingon">Costs paint</span>}
							<span className="block">{finding.words}</span>
							<span className="mt-0.5 block text-[12px] text-ash">{finding.todo}</span>
						</button>
					</li>
				))}
			</ul>
		</Block>
	);
}
