import type { Id } from '@eppu/core/document';
import type { CarriedSheet } from '@eppu/core/engine';

type Fate = 'enlarged' | 'shrunk' | 'bare';

const words: Readonly<Record<Fate, string>> = {
	enlarged: 'was made larger and is softer',
	shrunk: 'was made smaller',
	bare: 'is new and bare',
};
/** Parts that are named; of more the rest is counted. */
const MOST_NAMES = 4;

const texels = (n: number): string => `${n.toLocaleString('en')} ${n === 1 ? 'texel' : 'texels'}`;
const named = (names: readonly string[]): string => {
	const rest = names.length - MOST_NAMES;
	return rest > 1 ? `${names.slice(0, MOST_NAMES).join(', ')} and ${rest} more` : names.join(', ');
};

/** What became of the paint where models came to lie otherwise, in words: how much of it, and where; empty says nothing. */
export function carriedWords(
	report: readonly CarriedSheet[],
	sheets: readonly { readonly id: Id; readonly name: string }[],
): { readonly went: string; readonly lost: string } {
	const sum = (of: Fate): number => report.reduce((n, each) => n + each[of], 0);
	const all = report.reduce((n, each) => n + each.exact + each.kept, sum('enlarged') + sum('shrunk'));
	const whole = Math.max(1, all + sum('bare'));
	const told = (['enlarged', 'shrunk', 'bare'] as const).flatMap((fate) => {
		const share = sum(fate) / whole;
		if (share <= 0.01) return [];
		// Parts that have a twentieth of it at the least: where it is to be looked at.
		const where = report
			.flatMap(({ parts }) => parts)
			.filter((part) => part[fate] > sum(fate) / 20)
			.sort((one, other) => other[fate] - one[fate])
			.map(({ name }) => name);
		return `${Math.max(1, Math.round(100 * share))}% of it ${words[fate]}${where.length ? ` (${named([...new Set(where)])})` : ''}`;
	});
	const lost = report.flatMap((each) =>
		each.lost.map(({ layer, texels: n, at: { x, y, width, height } }) => {
			const place = `${Math.round(x + width / 2)}, ${Math.round(y + height / 2)}`;
			return `${texels(n)} of "${layer}" (around ${place} of "${sheets.find(({ id }) => id === each.sheet)?.name ?? ''}" as it lay)`;
		}),
	);
	return {
		went: all ? `The paint went along${told.length ? `: ${told.join(', ')}` : ', as it was'}.` : '',
		lost: lost.length
			? `Beside the islands ${lost.join(', ')} had no surface to go with and are gone. Undo (Ctrl+Z) brings them back.`
			: '',
	};
}
