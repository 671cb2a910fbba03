/** Light in which the model is looked at; the paint stays as it is. */
export interface PreviewLight {
	readonly name: string;
	readonly words: string;
	/** Where the key stands: a unit vector from the model. */
	readonly toward: readonly [number, number, number];
	readonly key: readonly [number, number, number];
	readonly sky: readonly [number, number, number];
	readonly ground: readonly [number, number, number];
}

const unit = (x: number, y: number, z: number): readonly [number, number, number] => {
	const length = Math.hypot(x, y, z);
	return [x / length, y / length, z / length];
};

/** Times of day to look at the model in, in their order: a new one is a line here. */
export const previewLights: readonly PreviewLight[] = [
	{
		name: 'studio',
		words: 'Plain',
		toward: unit(-0.35, 0.62, 0.7),
		key: [0.62, 0.62, 0.62],
		sky: [0.54, 0.54, 0.54],
		ground: [0.34, 0.34, 0.34],
	},
	{
		name: 'morning',
		words: 'Morning',
		toward: unit(-0.85, 0.38, 0.45),
		key: [0.74, 0.62, 0.46],
		sky: [0.46, 0.52, 0.64],
		ground: [0.34, 0.32, 0.34],
	},
	{
		name: 'noon',
		words: 'Noon',
		toward: unit(0.1, 1, 0.2),
		key: [0.72, 0.7, 0.62],
		sky: [0.56, 0.62, 0.7],
		ground: [0.4, 0.36, 0.3],
	},
	{
		name: 'dusk',
		words: 'Dusk',
		toward: unit(0.9, 0.2, 0.35),
		key: [0.86, 0.48, 0.26],
		sky: [0.4, 0.36, 0.54],
		ground: [0.26, 0.22, 0.32],
	},
	{
		name: 'night',
		words: 'Night',
		toward: unit(-0.4, 0.8, 0.3),
		key: [0.3, 0.38, 0.58],
		sky: [0.16, 0.2, 0.34],
		ground: [0.08, 0.09, 0.16],
	},
];

export const previewLight = (name: string): PreviewLight =>
	previewLights.find((each) => each.name === name) ?? (previewLights[0] as PreviewLight);
