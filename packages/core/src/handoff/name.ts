import { safeName } from '../format/index.ts';

/** What a file's name is made of. */
export interface NameValues {
	readonly project: string;
	readonly sheet: string;
	readonly layer: string;
	readonly width: number;
	readonly height: number;
}

/** A file's name without its ending, by a pattern (see `nameParts`); what file systems may refuse becomes a hyphen. */
export function nameBy(pattern: string, { project, sheet, layer, width, height }: NameValues): string {
	const values: Readonly<Record<string, string>> = {
		project: safeName(project),
		sheet: safeName(sheet),
		layer: safeName(layer),
		size: String(Math.max(width, height)),
		width: String(width),
		height: String(height),
	};
	return pattern.replace(/\{(\w+)\}/g, (part, name: string) => values[name] ?? part).trim();
}

/** Names in their order, each only once: the second of a kind ends with -2. Upper and lower case are one, as on many disks. */
export function freeNames(names: readonly string[]): string[] {
	const taken = new Set<string>();
	return names.map((name) => {
		let free = name;
		for (let n = 2; taken.has(free.toLowerCase()); n++) free = `${name}-${n}`;
		taken.add(free.toLowerCase());
		return free;
	});
}
