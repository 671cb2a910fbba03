import { MOST_NESTED } from '../composite/index.ts';
import { readingCircle } from './circle.ts';
import type { Desk } from './desk.ts';
import { desk, light, palette, preset, project, recipe } from './gen/validators.js';
import { depthOf, eachLayer } from './layerTree.ts';
import type { Project } from './types.ts';

interface Problem {
	readonly instancePath: string;
	readonly message?: string;
}

type Validator = ((value: unknown) => boolean) & { errors?: readonly Problem[] | null };

const problem = (validate: Validator, what: string, value: unknown): string | null => {
	if (validate(value)) return null;
	const first = validate.errors?.[0];
	return `The ${what} is not well formed${first ? `: ${first.instancePath || 'it'} ${first.message ?? 'does not fit'}` : ''}.`;
};

/** What is wrong with a value that should be a project, or null where it is one. */
export const projectProblem = (value: unknown): string | null => {
	try {
		return problem(project as Validator, 'project', value) ?? meaningProblem(value as Project);
	} catch (error) {
		// Groups within groups by the thousand end the stack before any count of them could be told.
		if (error instanceof RangeError) return 'The project is not well formed: it is nested too deep.';
		throw error;
	}
};

/** What is wrong with a project of the right shape. */
const meaningProblem = ({ sheets, models }: Project): string | null => {
	const ids = sheets.flatMap((sheet) => [sheet.id, ...[...eachLayer(sheet.layers)].map((layer) => layer.id)]);
	if (new Set(ids).size !== ids.length) return 'The project is not well formed: two sheets or layers share an id.';
	if (sheets.some((sheet) => depthOf(sheet.layers) > MOST_NESTED))
		return `The project is not well formed: groups stand more than ${MOST_NESTED} deep within each other.`;
	for (const sheet of sheets) {
		const circle = readingCircle(sheet);
		if (circle) return `The project is not well formed: "${circle}" is made from what it makes itself.`;
	}
	const lost = models.flatMap((model) => model.parts).find((part) => !sheets.some((sheet) => sheet.id === part.sheet));
	return lost ? `The project is not well formed: part "${lost.name}" lies on a sheet that it does not have.` : null;
};

/** What is wrong with a value that should be a desk, or null where it is one. */
export const desksProblem = (value: unknown): string | null => problem(desk as Validator, 'desk', value as Desk);

/** What is wrong with a value that should be a tip kept as a preset, or null where it is one. */
export const presetProblem = (value: unknown): string | null => problem(preset as Validator, 'tip', value);

/** What is wrong with a value that should be a mask recipe kept as a preset, or null where it is one. */
export const recipeProblem = (value: unknown): string | null => problem(recipe as Validator, 'recipe', value);

/** What is wrong with a value that should be a light kept as a preset, or null where it is one. */
export const lightProblem = (value: unknown): string | null => problem(light as Validator, 'light', value);

/** What is wrong with a value that should be a palette, or null where it is one. */
export const paletteProblem = (value: unknown): string | null => problem(palette as Validator, 'palette', value);

/** The innermost thing with a name along a path of a document, and what of it the path leads to. */
function placeWords(value: unknown, path: string): string {
	let at = value as Record<string, unknown> | undefined;
	let name = '';
	let what = '';
	for (const key of path.split('/').slice(1)) {
		if (typeof at?.name === 'string') name = at.name;
		if (!/^\d+$/.test(key)) what = key;
		at = at?.[key] as Record<string, unknown> | undefined;
	}
	return `${what || 'This'}${name ? ` of "${name}"` : ''}`;
}

/** Why a project cannot be as a change would make it, in the artist's words, or null where it can. */
export const changeProblem = (value: Project): string | null => {
	const found = projectProblem(value);
	const first = (project as Validator).errors?.[0];
	if (!found || !first) return found;
	return `${placeWords(value, first.instancePath)} cannot be so: it ${first.message ?? 'does not fit'}.`;
};
