import type { Model } from '@eppu/core/document';
import type { Bake } from '@eppu/core/light';
import { modelShown, type StudioState } from './store.ts';

const none: readonly Bake[] = [];

/** The model that is shown, as the document has it. */
export function modelHeld(state: StudioState): Model | undefined {
	const id = modelShown(state)?.id;
	return state.outline?.project.models.find((each) => each.id === id);
}

/** The bakes of the model that is shown. */
export const bakesOf = (state: StudioState): readonly Bake[] => modelHeld(state)?.bakes ?? none;
