import { join } from 'node:path';
import { CliError } from './commands.ts';
import { callBack, sendOut, type TakenSaving, takeSavings, whatIsOut } from './exchange.ts';
import { savingWays, standIn } from './standIn.ts';
import type { Verb } from './verb.ts';
import { untilStopped } from './watch.ts';

/** How what is out stands, in words. */
const awayWords = {
	away: 'away',
	saving: 'is being written',
	gone: 'its file is gone',
	strange: 'it is no whole picture',
};

/** What goes out to other editors, and what they save of it. */
export const exchangeVerbs: readonly Verb[] = [
	{
		verb: 'send',
		help: `eppu send PROJECT [options]                a sheet into the exchange folder, for another editor; --sheet NAME,
  --layer NAME or --mask NAME only that, as PNG`,
		on: true,
		writes: false,
		again: false,
		options: { sheet: 'text', layer: 'text', mask: 'text' },
		async run(project, typed) {
			const { notes, ...out } = await sendOut({ ...typed, project });
			return { lines: [join(out.folder, out.file)], json: out, notes };
		},
	},
	{
		verb: 'away',
		help: 'eppu away PROJECT [--call-back FILE]       what is out at other editors; or one file called back',
		on: true,
		writes: false,
		again: false,
		options: { 'call-back': 'text' },
		async run(project, { data, 'call-back': file }) {
			if (typeof file === 'string') {
				const { kept } = await callBack({ project, data, file });
				const words = kept ? 'called back; it holds what was not taken in, and stays in the folder' : 'called back';
				return { lines: [`${file}: ${words}`], json: { file, kept } };
			}
			const out = await whatIsOut({ project, data });
			const lines = out.map(
				({ file: name, state, waiting }) => `${name}: ${awayWords[state]}, ${waiting.length} to take in`,
			);
			return { lines, json: out, failed: out.some(({ state }) => state === 'gone' || state === 'strange') };
		},
	},
	{
		verb: 'receive',
		help: `eppu receive PROJECT [--follow]            what other editors saved of it, each saving as one revision; nothing is lost
  --follow         goes on, and takes each saving within a second, until it is stopped`,
		on: true,
		writes: false,
		again: false,
		options: { follow: 'switch' },
		async run(project, { data, follow, quiet }) {
			const all: TakenSaving[] = [];
			const words = ({ file, changed, refused, waits }: TakenSaving): string =>
				`${file}: ${refused ?? waits ?? (changed ? 'taken in' : 'nothing in it differs from what is here')}`;
			await takeSavings({ project, data, until: follow ? untilStopped() : undefined }, (taken) => {
				all.push(taken);
				if (follow && !quiet) console.error([words(taken), ...taken.notes].join('\n'));
			});
			return {
				lines: follow ? [] : all.map(words),
				json: all,
				notes: follow ? [] : all.flatMap(({ notes }) => notes),
				failed: all.some(({ refused }) => refused !== undefined),
			};
		},
	},
	{
		verb: 'stand-in',
		help: `eppu stand-in FILE [options]               paints on a file of the exchange folder and saves it, as another editor would
  --way NAME       in-place (usual), rename or slow; --seed N what is painted; --forgets without our attributes`,
		on: true,
		writes: false,
		again: false,
		options: { way: 'text', seed: 'text', forgets: 'switch' },
		async run(file, { way, seed, forgets }) {
			const named = savingWays.find((each) => each === (way ?? 'in-place'));
			if (!named) throw new CliError(`--way takes ${savingWays.join(', ')}; not "${way}".`);
			const { length } = await standIn({ file, way: named, seed: Number(seed ?? 1), keeps: !forgets });
			return { lines: [`${file}: saved, ${length} bytes`], json: { file, bytes: length } };
		},
	},
];
