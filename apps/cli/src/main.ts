/** The command line: what a build machine needs of Eppu, with no browser. */
import { parseArgs } from 'node:util';
import { CliError } from './commands.ts';
import type { Done, Progress, Typed, Verb } from './verb.ts';
import { verbs } from './verbs.ts';
import { whenChanged } from './watch.ts';

const help = `${verbs.map((verb) => verb.help).join('\n')}

All of them: --data FILE the data file, usually data/eppu.db or what EPPU_DATA names; --json what was done as JSON;
--quiet nothing but what went wrong; --progress how far it is, beside what is printed.
What writes of a project: --watch again whenever the project is changed, until it is stopped.`;

const shared = {
	out: 'text',
	data: 'text',
	json: 'switch',
	quiet: 'switch',
	progress: 'switch',
	watch: 'switch',
} as const;

/** What was typed after a command; an option that it does not have is told. */
function typedFor(verb: Verb, args: readonly string[]): { readonly on: string | undefined; readonly values: Typed } {
	const options = Object.fromEntries(
		Object.entries({ ...shared, ...verb.options }).map(([name, kind]) => [
			name,
			{ type: kind === 'switch' ? ('boolean' as const) : ('string' as const) },
		]),
	);
	const { values, positionals } = parseArgs({ args: [...args], allowPositionals: true, options });
	return { on: positionals[0], values: values as Typed };
}

function print({ lines, json, notes = [], failed }: Done, { json: asJson, quiet }: Typed): void {
	if (asJson) console.log(JSON.stringify(json, null, '\t'));
	else if (!quiet || failed) for (const line of lines) console.log(line);
	if (!asJson) for (const note of notes) console.error(note);
	if (failed) process.exitCode = 1;
}

async function main([name, ...args]: readonly string[]): Promise<void> {
	const verb = verbs.find((each) => each.verb === name);
	if (!verb) {
		console.error(help);
		process.exitCode = 2;
		return;
	}
	const { on, values } = typedFor(verb, args);
	if ((verb.on && !on) || (verb.writes && typeof values.out !== 'string')) {
		console.error(verb.help);
		process.exitCode = 2;
		return;
	}
	const progress: Progress = values.progress ? (words) => console.error(words) : () => undefined;
	const typed = { ...values, out: String(values.out ?? '') };
	const work = async (): Promise<void> => print(await verb.run(on ?? '', typed, progress), values);
	if (!values.watch) return work();
	if (!verb.again) throw new CliError(`"${verb.verb}" is done once: --watch is for what writes of a project.`);
	await whenChanged(on ?? '', typeof values.data === 'string' ? values.data : undefined, work, (words) =>
		console.error(words),
	);
}

try {
	await main(process.argv.slice(2));
} catch (error) {
	if (!(error instanceof CliError) && (error as { code?: string }).code?.startsWith('ERR_PARSE_ARGS') !== true)
		throw error;
	console.error((error as Error).message);
	process.exitCode = 2;
}
