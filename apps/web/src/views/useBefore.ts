import { type RefObject, useEffect } from 'react';
import { useStudio } from '../studio/store.ts';
import type { ModelScene } from './modelScene.ts';
import { onPress } from './onPress.ts';

/** Shows pixel sheets on the model as they were when this visit began, while that is asked for. */
export function useBefore(scene: RefObject<ModelScene | null>, models: readonly unknown[]): void {
	const before = useStudio((state) => state.beforeShown);
	useEffect(() => {
		if (!before) return;
		scene.current?.before(true);
		const stop = onPress(() => useStudio.setState({ beforeShown: false }));
		return () => {
			stop();
			scene.current?.before(false);
		};
	}, [before, models]);
}
