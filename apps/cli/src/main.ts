/** The command line: what a build machine needs of Eppu, with no browser. */
import { parseArgs } from 'node:util';
import { bakeProject } from './bake.ts';
import { recolorBundle, writeProjectBundle } from './bundle.ts';
import {
	CliError,
	checkData,
	exportProject,
	listProjects,
	type ModelReport,
	reportProject,
	templateProject,
} from './commands.ts';
import { writeGrids } from './grid.ts';
import { unwrapModel } from './unwrap.ts';

const help = `eppu list                                  the projects that are kept here
eppu export PROJECT --out DIR [options]    the sheets of a project (its name or id) as PNG
  --sheet NAME     only this sheet
  --size N         width in texels, the sheet's own or smaller
  --pattern TEXT   file name, with {project}, {sheet} and {size}; usually {project}-{sheet}
  --smaller        fewer bytes for the same texels; takes some seconds a sheet
  --jobs N         threads that compute; usually 1, for large sheets one a core and four at the most
  --data FILE      the data file, usually data/eppu.db or what EPPU_DATA names
eppu template PROJECT --out DIR [options]  what lies where on its sheets, to paint over elsewhere; with --sheet, --size,
  --svg            lines that stay sharp at any size
eppu report PROJECT [--json] [--data FILE] what its models are like on their sheets: findings and figures
eppu unwrap MODEL --out FILE [options]     a model file (OBJ, GLB, PLY) laid out anew, written as OBJ or GLB
  --way NAME       automatic (usual), angle, flat, box, cylinder or sphere
  --seams N        0 the fewest seams to 100 the least stretch, of the automatic way
  --size N, --margin N   the sheet and what stays free between islands, texels
eppu bake PROJECT|MODEL --out DIR [options]  its bakes as PNG; --sheet NAME, --bake NAME only these
  --kind NAME      one that need not be there: occlusion, edges, hollows, curvature, thickness, height, facing, pieces,
                   normals, ids; of a model file always, with --size N for its sheet
  --depth N        8 (usual) or 16 bits a channel
eppu bundle PROJECT --out FILE             its bundle (ZIP) with the textures that were changed; all else byte for byte
eppu recolor ZIP --palette FILE --out FILE the textures of a bundle brought onto a palette (tokens, hex list, PNG strip)
  --way NAME       near (usual) or light: each colour to the nearest, or by lightness
  --only TEXT      only textures with this in their path
eppu grid PROJECT --out DIR [--size N]     its colour grids as PNG, 16 to 1024 texels, and the models on them (GLB, OBJ)
eppu check FILE                            verifies a data file: its integrity, hashes, that all tiles fit`;

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

try {
	const { values, positionals } = parseArgs({
		allowPositionals: true,
		options: {
			out: { type: 'string' },
			sheet: { type: 'string' },
			size: { type: 'string' },
			pattern: { type: 'string' },
			data: { type: 'string' },
			smaller: { type: 'boolean' },
			jobs: { type: 'string' },
			json: { type: 'boolean' },
			svg: { type: 'boolean' },
			way: { type: 'string' },
			seams: { type: 'string' },
			margin: { type: 'string' },
			bake: { type: 'string' },
			kind: { type: 'string' },
			depth: { type: 'string' },
			palette: { type: 'string' },
			only: { type: 'string' },
		},
	});
	const [verb, project] = positionals;
	if (verb === 'list') for (const card of listProjects(values.data)) console.log(`${card.id}  ${card.name}`);
	else if (verb === 'check' && project) {
		const problems = await checkData(project);
		for (const problem of problems) console.error(problem);
		if (problems.length === 0) console.log(`${project} is whole.`);
		else process.exitCode = 1;
	} else if (verb === 'report' && project) {
		const reports = await reportProject(project, values.data);
		console.log(values.json ? JSON.stringify(reports, null, '\t') : reports.map(reportText).join('\n\n'));
	} else if (verb === 'template' && project && values.out) {
		for (const file of await templateProject({ ...values, project, out: values.out })) console.log(file);
	} else if (verb === 'bake' && project && values.out) {
		for (const file of await bakeProject({ ...values, of: project, out: values.out })) console.log(file);
	} else if (verb === 'bundle' && project && values.out) {
		const { changed, files } = await writeProjectBundle({ project, out: values.out, data: values.data });
		console.log(`${values.out}: ${changed.length} of ${files} files changed`);
		for (const path of changed) console.log(`  ${path}`);
	} else if (verb === 'grid' && project && values.out) {
		for (const file of await writeGrids({ ...values, project, out: values.out })) console.log(file);
	} else if (verb === 'recolor' && project && values.out && values.palette) {
		const { palette, way, only, out } = values;
		const { changed, files } = await recolorBundle({ bundle: project, palette, out, way, only });
		console.log(`${out}: ${changed.length} of ${files} files changed`);
	} else if (verb === 'unwrap' && project && values.out) {
		const { pieces, angleStretch, areaStretch, sheets } = await unwrapModel({
			...values,
			model: project,
			out: values.out,
		});
		const off = (stretch: number): string => `${((stretch - 1) * 100).toFixed(1)} %`;
		console.log(
			`${values.out}: ${pieces} islands, ${Math.round((sheets[0]?.fill ?? 0) * 100)} % of the sheet covered, angles off by ${off(angleStretch)}, areas by ${off(areaStretch)}`,
		);
	} else if (verb === 'export' && project && values.out)
		for (const file of await exportProject({
			project,
			out: values.out,
			sheet: values.sheet,
			size: values.size,
			pattern: values.pattern,
			data: values.data,
			smaller: values.smaller,
			jobs: values.jobs,
		}))
			console.log(file);
	else {
		console.error(help);
		process.exitCode = 2;
	}
} catch (error) {
	if (!(error instanceof CliError) && (error as { code?: string }).code?.startsWith('ERR_PARSE_ARGS') !== true)
		throw error;
	console.error((error as Error).message);
	process.exitCode = 2;
}
