import { bakeProject } from './bake.ts';
import { writeBuildUps, writePalette } from './besides.ts';
import { recolorBundle, writeProjectBundle } from './bundle.ts';
import { CliError, checkData, listProjects, type ModelReport, reportProject, templateProject } from './commands.ts';
import { exchangeVerbs } from './exchangeVerbs.ts';
import { findingsOf } from './findings.ts';
import { writeGrids } from './grid.ts';
import { beginProject, takeFile, writeLayers, writeModels, writeShowPage, writeWhole } from './handoff.ts';
import { reliefOf } from './relief.ts';
import { exportProject } from './textures.ts';
import { unwrapModel } from './unwrap.ts';
import type { Done, Verb } from './verb.ts';

const files = (list: readonly string[], notes: readonly string[] = []): Done => ({
	lines: list,
	json: { files: list, notes },
	notes,
});

const reportText = ({ model, findings, parts, fill }: ModelReport): string =>
	[
		model,
		...parts.map(
			({ name, faces, islands, density, stretch }) =>
				`  ${name}: ${faces} faces, ${islands} islands, ${density.toFixed(1)} texels a unit, stretch ${stretch.toFixed(2)}`,
		),
		...Object.entries(fill).map(([sheet, share]) => `  sheet ${sheet}: ${Math.round(share * 100)} % covered`),
		...(findings.length ? findings.map(({ words, todo }) => `- ${words} ${todo}`) : ['- Nothing to tell.']),
	].join('\n');

const off = (stretch: number): string => `${((stretch - 1) * 100).toFixed(1)} %`;
const changedLines = (out: string, changed: readonly string[], all: number): string[] => [
	`${out}: ${changed.length} of ${all} files changed`,
];

/** All that the command line does: a new one is a line here. */
export const verbs: readonly Verb[] = [
	{
		verb: 'list',
		help: 'eppu list                                  the projects that are kept here',
		on: false,
		writes: false,
		again: false,
		options: {},
		async run(_on, { data }) {
			const cards = listProjects(data);
			return {
				lines: cards.map(({ id, name }) => `${id}  ${name}`),
				json: cards.map(({ id, name, revision }) => ({ id, name, revision })),
			};
		},
	},
	{
		verb: 'export',
		help: `eppu export PROJECT --out DIR [options]    pictures of a project (its name or id)
  --of KIND        sheet (usual), layer, group, mask, bake or relief; --sheet NAME only of this sheet
  --file KIND      png (usual) or webp; --quality 1-100 for WebP that is not exact
  --channels KIND  rgba (usual), rgb, gray or indexed; --ground #rrggbb under clear texels, --premultiplied
  --bleed N        texels that colour goes on beyond what is painted, or all
  --size N[,N..]   texels of the longer side, 1 to 8192; the sheet's own where it is left out
  --pattern TEXT   file name, with {project} {sheet} {layer} {size} {width} {height}; / makes folders
  --preset NAME    as a preset says; --zip NAME all in one ZIP
  --smaller        fewer bytes for the same texels; takes some seconds a sheet
  --jobs N         threads that compute; usually 1, for large sheets one a core and four at the most`,
		on: true,
		writes: true,
		again: true,
		options: {
			sheet: 'text',
			of: 'text',
			file: 'text',
			quality: 'text',
			channels: 'text',
			ground: 'text',
			premultiplied: 'switch',
			bleed: 'text',
			size: 'text',
			pattern: 'text',
			preset: 'text',
			zip: 'text',
			smaller: 'switch',
			jobs: 'text',
		},
		run: async (project, typed, progress) =>
			files(
				await exportProject({
					...typed,
					project,
					progress: (done, all, name) => progress(`${done + 1} of ${all}: ${name}`),
				}),
			),
	},
	{
		verb: 'models',
		help: `eppu models PROJECT --out DIR [options]    its models with what is painted on them
  --as KIND        glb (usual), gltf, obj or ply; --textures inside, beside or none, --size N texels of their longer side
  --model NAME     only this model; --parts shown, or names with commas; --scale N, --up z, --lit without the unlit look`,
		on: true,
		writes: true,
		again: true,
		options: {
			model: 'text',
			as: 'text',
			textures: 'text',
			parts: 'text',
			size: 'text',
			scale: 'text',
			up: 'text',
			lit: 'switch',
		},
		run: async (project, typed) => files(await writeModels({ ...typed, project })),
	},
	{
		verb: 'layers',
		help: 'eppu layers PROJECT --out DIR [--sheet NAME]  its layers as OpenRaster, for another editor',
		on: true,
		writes: true,
		again: true,
		options: { sheet: 'text' },
		async run(project, typed) {
			const { files: list, notes } = await writeLayers({ ...typed, project });
			return files(list, notes);
		},
	},
	{
		verb: 'take',
		help: 'eppu take PROJECT --from FILE [--sheet NAME]  layers of an OpenRaster file into a sheet; what nobody changed stays',
		on: true,
		writes: false,
		again: false,
		options: { from: 'text', sheet: 'text' },
		async run(project, { from, sheet, data }) {
			if (typeof from !== 'string') throw new CliError('Name the file with --from.');
			const done = await takeFile({ project, file: from, data, sheet: typeof sheet === 'string' ? sheet : undefined });
			const words = done.changed ? 'taken in' : 'nothing in it differs from what is here';
			return { lines: [`${done.sheet}: ${words}`], json: done, notes: done.notes };
		},
	},
	...exchangeVerbs,
	{
		verb: 'page',
		help: `eppu page PROJECT --out DIR [options]      one HTML file that shows the work: --title TEXT, --words TEXT, --turns N`,
		on: true,
		writes: true,
		again: true,
		options: { title: 'text', words: 'text', turns: 'text' },
		run: async (project, typed, progress) =>
			files(await writeShowPage({ ...typed, project, progress: (done) => progress(`${Math.round(done * 100)} %`) })),
	},
	{
		verb: 'project',
		help: 'eppu project PROJECT --out DIR             all of it as one open ZIP',
		on: true,
		writes: true,
		again: true,
		options: {},
		run: async (project, typed) => files(await writeWhole({ ...typed, project })),
	},
	{
		verb: 'begin',
		help: 'eppu begin FILE                            a new project from an OpenRaster file or a project’s open ZIP',
		on: true,
		writes: false,
		again: false,
		options: {},
		async run(file, { data }) {
			const made = await beginProject(file, data);
			return { lines: [`${made.id}  ${made.name}`], json: made, notes: made.notes };
		},
	},
	{
		verb: 'template',
		help: `eppu template PROJECT --out DIR [options]  what lies where on its sheets, to paint over elsewhere; with --sheet, --size,
  --svg            lines that stay sharp at any size`,
		on: true,
		writes: true,
		again: true,
		options: { sheet: 'text', size: 'text', svg: 'switch' },
		run: async (project, typed) => files(await templateProject({ ...typed, project })),
	},
	{
		verb: 'palette',
		help: `eppu palette PROJECT --out DIR [options]   its palette and ramps, for other programs; with
  --as KIND        json (design tokens, usual), txt (hex colours) or png (a strip)`,
		on: true,
		writes: true,
		again: true,
		options: { as: 'text' },
		run: async (project, typed) => files(await writePalette({ ...typed, project })),
	},
	{
		verb: 'build-up',
		help: 'eppu build-up PROJECT --out DIR            each sheet after each of its layers, as one PNG; with --sheet',
		on: true,
		writes: true,
		again: true,
		options: { sheet: 'text' },
		run: async (project, typed) => files(await writeBuildUps({ ...typed, project })),
	},
	{
		verb: 'report',
		help: 'eppu report PROJECT                        what its models are like on their sheets: findings and figures',
		on: true,
		writes: false,
		again: false,
		options: {},
		async run(project, { data }) {
			const reports = await reportProject(project, data);
			return { lines: [reports.map(reportText).join('\n\n')], json: reports };
		},
	},
	{
		verb: 'findings',
		help: 'eppu findings PROJECT                      what the checks find; where they find anything it ends with 1',
		on: true,
		writes: false,
		again: false,
		options: {},
		async run(project, { data }) {
			const found = await findingsOf(project, data);
			const lines = found.map(({ of, words, todo }) => `${of}: ${words}${todo ? ` ${todo}` : ''}`);
			return { lines: found.length ? lines : ['The checks find nothing.'], json: found, failed: found.length > 0 };
		},
	},
	{
		verb: 'unwrap',
		help: `eppu unwrap MODEL --out FILE [options]     a model file (OBJ, GLB, PLY) laid out anew, written as OBJ or GLB
  --way NAME       automatic (usual), angle, flat, box, cylinder or sphere
  --seams N        0 the fewest seams to 100 the least stretch, of the automatic way
  --size N, --margin N   the sheet and what stays free between islands, texels`,
		on: true,
		writes: true,
		again: false,
		options: { way: 'text', seams: 'text', size: 'text', margin: 'text' },
		async run(model, typed) {
			const { pieces, angleStretch, areaStretch, sheets } = await unwrapModel({ ...typed, model });
			const fill = Math.round((sheets[0]?.fill ?? 0) * 100);
			return {
				lines: [
					`${typed.out}: ${pieces} islands, ${fill} % of the sheet covered, angles off by ${off(angleStretch)}, areas by ${off(areaStretch)}`,
				],
				json: { files: [typed.out], pieces, fill: sheets[0]?.fill ?? 0, angleStretch, areaStretch },
			};
		},
	},
	{
		verb: 'bake',
		help: `eppu bake PROJECT|MODEL --out DIR [options]  its bakes as PNG; --sheet NAME, --bake NAME only these
  --kind NAME      one that need not be there: occlusion, edges, hollows, curvature, thickness, height, facing, pieces,
                   normals, ids; of a model file always, with --size N for its sheet
  --depth N        8 (usual) or 16 bits a channel`,
		on: true,
		writes: true,
		again: true,
		options: { sheet: 'text', bake: 'text', kind: 'text', size: 'text', depth: 'text' },
		run: async (of, typed) => files(await bakeProject({ ...typed, of })),
	},
	{
		verb: 'relief',
		help: `eppu relief PROJECT --out DIR [options]     what stands out on its sheets as PNG; --sheet NAME only of this one
  --look NAME      heights (usual; mid-grey is level), normals, normals-down (green down) or normals-object
  --depth N        16 (usual) or 8 bits a channel`,
		on: true,
		writes: true,
		again: true,
		options: { sheet: 'text', look: 'text', depth: 'text' },
		run: async (project, typed) => files(await reliefOf({ ...typed, project })),
	},
	{
		verb: 'bundle',
		help: 'eppu bundle PROJECT --out FILE             its bundle (ZIP) with the textures that were changed; all else byte for byte',
		on: true,
		writes: true,
		again: true,
		options: {},
		async run(project, { out, data }) {
			const { changed, files: all } = await writeProjectBundle({ project, out, data });
			return {
				lines: [...changedLines(out, changed, all), ...changed.map((path) => `  ${path}`)],
				json: { files: [out], changed },
			};
		},
	},
	{
		verb: 'recolor',
		help: `eppu recolor ZIP --palette FILE --out FILE the textures of a bundle brought onto a palette (tokens, hex list, PNG strip)
  --way NAME       near (usual) or light: each colour to the nearest, or by lightness
  --only TEXT      only textures with this in their path`,
		on: true,
		writes: true,
		again: false,
		options: { palette: 'text', way: 'text', only: 'text' },
		async run(bundle, typed) {
			const { changed, files: all } = await recolorBundle({ ...typed, bundle, palette: String(typed.palette ?? '') });
			return { lines: changedLines(typed.out, changed, all), json: { files: [typed.out], changed } };
		},
	},
	{
		verb: 'grid',
		help: 'eppu grid PROJECT --out DIR [--size N]     its colour grids as PNG, 16 to 1024 texels, and the models on them (GLB, OBJ)',
		on: true,
		writes: true,
		again: true,
		options: { size: 'text' },
		run: async (project, typed) => files(await writeGrids({ ...typed, project })),
	},
	{
		verb: 'check',
		help: 'eppu check FILE                            verifies a data file: its integrity, hashes, that all tiles fit',
		on: true,
		writes: false,
		again: false,
		options: {},
		async run(file) {
			const problems = await checkData(file);
			return {
				lines: problems.length ? problems : [`${file} is whole.`],
				json: { problems },
				failed: problems.length > 0,
			};
		},
	},
];
