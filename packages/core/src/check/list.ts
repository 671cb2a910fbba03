import { alike } from './alike.ts';
import { half } from './half.ts';
import { inFrame } from './inFrame.ts';
import type { Check, Checked, Finding } from './kind.ts';
import { offPalette } from './offPalette.ts';
import { ofSet } from './ofSet.ts';
import { outlineLight } from './outlineLight.ts';
import { stray } from './stray.ts';
import { thickness } from './thickness.ts';
import { tones } from './tones.ts';

/** Every check of a pixel sheet: a new one is a line here. */
export const pixelChecks: readonly Check[] = [
	half,
	offPalette,
	alike,
	outlineLight,
	thickness,
	inFrame,
	tones,
	ofSet,
	stray,
];

export interface Found {
	readonly check: Check;
	readonly finding: Finding;
}

/** All that is found, check after check. `thresholds` are the artist's own, by the check's name. */
export function findAll(checked: Checked, thresholds: Readonly<Record<string, number>> = {}): Found[] {
	return pixelChecks.flatMap((check) =>
		check.find(checked, thresholds[check.name] ?? check.threshold?.usual ?? 0).map((finding) => ({ check, finding })),
	);
}
