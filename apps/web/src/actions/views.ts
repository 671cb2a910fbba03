import type { Id } from '@eppu/core/document';
import { framing } from '@eppu/core/projection';
import { lookAlone, setDesk } from '../studio/desk.ts';
import { activeSheet, modelShown, twoViews, useStudio, type ViewLayout } from '../studio/store.ts';
import type { ShownModel } from '../studio/told.ts';
import { onActive } from './active.ts';
import type { AppCommand } from './command.ts';
import { turnAround } from './preview.ts';

const get = useStudio.getState;
const set = useStudio.setState;

export const straightSides = ['front', 'right', 'back', 'left', 'top', 'bottom'] as const;

/** One of the six straight views, with parallel rays. */
export function straight(side: (typeof straightSides)[number]): void {
	const i = straightSides.indexOf(side);
	const [yaw, pitch] = [[0, 90, 180, -90, 0, 0][i] as number, [0, 0, 0, 0, 90, -90][i] as number];
	setDesk({ camera: { ...get().desk.camera, yaw, pitch, roll: 0, parallel: true } });
}

function frameModel(model: ShownModel | undefined): void {
	const view = document.querySelector('[data-view="model"]');
	if (model && view)
		setDesk({ camera: framing(get().desk.camera, model.center, model.radius, view.clientWidth, view.clientHeight) });
}

/** Shows a sheet, and the model that lies on it. */
export function showSheet(sheet: Id): void {
	const before = modelShown(get());
	setDesk({ sheet });
	const now = modelShown(get());
	if (now?.id !== before?.id) frameModel(now);
}

export function showModel(model: ShownModel): void {
	const sheet = model.parts[0]?.sheet;
	if (sheet === undefined || modelShown(get())?.id === model.id) return;
	set({ modelPicked: model.id });
	showSheet(sheet);
	frameModel(model);
}

function frame(): void {
	frameModel(modelShown(get()));
	const sheet = activeSheet(get());
	if (sheet) {
		const { [sheet.id]: _gone, ...places } = get().desk.places;
		setDesk({ places });
	}
}

const layouts: readonly ViewLayout[] = ['both', 'model', 'sheet'];

export const viewCommands: readonly AppCommand[] = [
	{
		id: 'overlays',
		label: 'Hide all overlays',
		keys: 'V',
		held: true,
		run: () => set({ overlaysHidden: !get().overlaysHidden }),
	},
	{
		id: 'values',
		label: 'See values only',
		keys: 'Shift+V',
		held: true,
		run: () => set({ valuesOnly: !get().valuesOnly }),
	},
	{
		id: 'before',
		label: 'See a pixel sheet as it was when this visit began',
		keys: 'O',
		held: true,
		run: () => set({ beforeShown: !get().beforeShown }),
	},
	{
		id: 'carry-light',
		label: 'Over the model: carry the light of the preview round',
		keys: 'L',
		held: true,
		run: () => undefined,
	},
	{ id: 'turntable', label: 'Turn the model round by itself, or stop it', run: () => turnAround(!get().turning) },
	{
		id: 'views',
		label: 'Views: both, model, sheet',
		keys: 'Tab',
		run: () =>
			set({ layout: twoViews(get()) ? (layouts[(layouts.indexOf(get().layout) + 1) % 3] as ViewLayout) : 'sheet' }),
	},
	{ id: 'pan', label: 'Drag: move the view', keys: 'Space', held: true, run: () => undefined },
	{ id: 'frame', label: 'Frame what is worked on', keys: 'Home', run: frame },
	...straightSides.map((side, i) => ({
		id: `straight-${side}`,
		label: `Straight view: ${side}`,
		keys: `Alt+${i + 1}`,
		run: () => straight(side),
	})),
	{
		id: 'perspective',
		label: 'Perspective',
		keys: 'Alt+0',
		run: () => setDesk({ camera: { ...get().desk.camera, parallel: false } }),
	},
	{
		id: 'solo',
		label: 'See the active layer alone, or all again',
		run: () => onActive((sheet, layer) => lookAlone(sheet.id, layer.id, 'layer')),
	},
];
