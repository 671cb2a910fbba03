import type { Model } from '@eppu/core/document';
import { type Figure, type FigurePose, placesIn } from '@eppu/core/figure';
import { useQueries } from '@tanstack/react-query';
import { type RefObject, useEffect } from 'react';
import { figureOf, pose } from '../actions/preview.ts';
import { useStudio } from '../studio/store.ts';
import type { ModelScene } from './modelScene.ts';
import { onPress } from './onPress.ts';

/** A model that is a figure of boxes. */
export interface Posable {
	readonly model: string;
	readonly figure: Figure;
}

const none: readonly Model[] = [];

/** The figures of boxes among the project's models. */
export function useFigures(): readonly Posable[] {
	const project = useStudio((state) => state.outline?.project.id) ?? '';
	const models = useStudio((state) => state.outline?.project.models) ?? none;
	return useQueries({
		queries: models.map(({ asset }) => ({
			queryKey: ['figure', project, asset.hash],
			queryFn: () => figureOf(project, asset),
			staleTime: Number.POSITIVE_INFINITY,
		})),
		combine: (results) =>
			results.flatMap(({ data }, i) => {
				const model = models[i];
				return data && model ? [{ model: model.id, figure: data }] : [];
			}),
	});
}

/** The poses that figures have, each name once. */
export const posesOf = (figures: readonly Posable[]): string[] => [
	...new Set(figures.flatMap(({ figure }) => (figure.poses ?? []).map(({ name }) => name))),
];

/** Has figures stand or move in the pose that was chosen, until somebody presses the model. */
export function usePoses(scene: RefObject<ModelScene | null>, models: readonly unknown[]): void {
	const posing = useStudio((state) => state.posing);
	const figures = useFigures();
	useEffect(() => {
		if (posing === null) return;
		const began = performance.now();
		const moved = figures.flatMap(({ model, figure }) => {
			const found = figure.poses?.find(({ name }) => name === posing);
			return found ? [{ model, figure, pose: found }] : [];
		});
		let frame = 0;
		const show = (now: number): void => {
			for (const { model, figure, pose } of moved)
				scene.current?.pose(model, placesIn(figure, pose, (now - began) / 1000));
			const moves = moved.some(({ pose }: { readonly pose: FigurePose }) => pose.swing !== undefined);
			if (moves) frame = requestAnimationFrame(show);
		};
		show(began);
		const stop = onPress(() => pose(null));
		return () => {
			cancelAnimationFrame(frame);
			stop();
			for (const { model } of moved) scene.current?.pose(model, null);
		};
	}, [posing, figures, models]);
}
