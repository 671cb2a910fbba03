import type { Command } from './command.ts';
import { type Id, layerOf, type Project, sheetOf } from './project.ts';

/** Why paint cannot land, said in place, with a one-click way out where there is one. */
export interface Refusal {
	readonly code: 'no-sheet' | 'no-layer' | 'hidden' | 'locked' | 'wash' | 'off-model' | 'guarded' | 'no-picture';
	readonly text: string;
	readonly mend:
		| { readonly label: string; readonly command: Command }
		| { readonly label: string; readonly addLayer: Id }
		| { readonly label: string; readonly liftGuard: true }
		| null;
}

/** The reason why a layer takes no paint now, or null where it does. */
export function whyNotPaint(project: Project, sheetId: Id, layerId: Id | undefined): Refusal | null {
	const sheet = sheetOf(project, sheetId);
	if (!sheet) return { code: 'no-sheet', text: 'There is no sheet under the brush.', mend: null };
	const layer = layerOf(sheet, layerId);
	if (!layer)
		return {
			code: 'no-layer',
			text: `No layer of "${sheet.name}" is chosen to paint on.`,
			mend: { label: 'Add a layer', addLayer: sheet.id },
		};
	const change = (label: string, change_: { shown?: boolean; locked?: boolean }) => ({
		label,
		command: { do: 'layer.change', sheet: sheet.id, layer: layer.id, change: change_ } as const,
	});
	if (!layer.shown)
		return {
			code: 'hidden',
			text: `"${layer.name}" is hidden, so paint would not be seen.`,
			mend: change('Show it', { shown: true }),
		};
	if (layer.locked)
		return { code: 'locked', text: `"${layer.name}" is locked.`, mend: change('Unlock it', { locked: false }) };
	if (layer.kind === 'wash')
		return {
			code: 'wash',
			text: `"${layer.name}" is a wash: one colour, shaped by its mask. Strokes need a paint layer.`,
			mend: { label: 'Add a layer above', addLayer: sheet.id },
		};
	return null;
}
