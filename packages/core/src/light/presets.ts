import type { BlendMode } from '../composite/index.ts';
import type { Lamp, Rig, StrokesOf } from './rig.ts';

/** Light to begin with; bakes are put in where it is laid. */
export interface LightPreset {
	readonly name: string;
	readonly hint: string;
	readonly mode: BlendMode;
	readonly opacity: number;
	readonly rig: Rig;
}

const lamp = (
	name: string,
	turn: number,
	rise: number,
	color: string,
	strength: number,
	change: Partial<Lamp> = {},
): Lamp => ({
	id: name.toLowerCase(),
	name,
	on: true,
	turn,
	rise,
	color,
	strength,
	soft: 0.35,
	key: name === 'Key',
	...change,
});

const strokes: StrokesOf = { size: 5, length: 3, turn: 0, edge: 0.7, contrast: 0.35, seed: 1 };

/** Neither light nor shade, to be told apart from. */
const none: Rig = {
	lamps: [],
	sky: { color: '#ffffff', strength: 0 },
	ground: { color: '#ffffff', strength: 0 },
	shadow: { color: '#8a86b8', strength: 0, warmth: 0, chroma: 1 },
	occlusion: { color: '#4a4058', strength: 0, warmth: 0, chroma: 1, bake: null },
	edges: { color: '#fff2d8', strength: 0, bake: null },
	hollows: { color: '#5a4a5e', strength: 0, bake: null },
	rise: { color: '#8b7a86', strength: 0, from: 0, to: 0.6 },
	steps: 0,
	soft: 0.5,
	strokes,
};

const lit = (change: Partial<Rig>): Rig => ({ ...none, ...change });

/** The lights that ship. */
export const lightPresets: readonly LightPreset[] = [
	{
		name: 'Warm',
		hint: 'A warm key from the upper left, a cool fill, a bounce from below',
		mode: 'multiply',
		opacity: 1,
		rig: lit({
			lamps: [
				lamp('Key', -40, 48, '#ffe9c2', 0.62),
				lamp('Fill', 110, 15, '#9fb4e0', 0.2, { soft: 0.8 }),
				lamp('Bounce', 10, -70, '#d89a66', 0.14, { soft: 0.7 }),
			],
			sky: { color: '#cfd6ee', strength: 0.44 },
			ground: { color: '#b59a86', strength: 0.36 },
			shadow: { color: '#9c94c8', strength: 0.35, warmth: 0, chroma: 1 },
			occlusion: { color: '#54405c', strength: 0.85, warmth: 0, chroma: 1, bake: null },
			rise: { color: '#b39aa0', strength: 0.5, from: 0, to: 0.7 },
		}),
	},
	{
		name: 'Cool',
		hint: 'A clear, cool key and warm shadow',
		mode: 'multiply',
		opacity: 1,
		rig: lit({
			lamps: [lamp('Key', 35, 50, '#dbe9ff', 0.6), lamp('Fill', -120, 20, '#e6b58c', 0.18, { soft: 0.8 })],
			sky: { color: '#c4d4f4', strength: 0.46 },
			ground: { color: '#9a93a6', strength: 0.38 },
			shadow: { color: '#b08f9a', strength: 0.3, warmth: 0, chroma: 1 },
			occlusion: { color: '#4a3f55', strength: 0.85, warmth: 0, chroma: 1, bake: null },
			rise: { color: '#9aa0b8', strength: 0.4, from: 0, to: 0.6 },
		}),
	},
	{
		name: 'Noon',
		hint: 'Straight from above, hard and pale',
		mode: 'multiply',
		opacity: 1,
		rig: lit({
			lamps: [
				lamp('Key', 0, 84, '#fff8e4', 0.6, { soft: 0.15 }),
				lamp('Bounce', 0, -85, '#c8b48c', 0.2, { soft: 0.7 }),
			],
			sky: { color: '#d6e2f6', strength: 0.5 },
			ground: { color: '#b0a284', strength: 0.4 },
			shadow: { color: '#93a0cc', strength: 0.4, warmth: 0, chroma: 1 },
			occlusion: { color: '#46445e', strength: 0.9, warmth: 0, chroma: 1, bake: null },
		}),
	},
	{
		name: 'Dusk',
		hint: 'A low orange sun against a violet sky',
		mode: 'multiply',
		opacity: 1,
		rig: lit({
			lamps: [
				lamp('Key', -75, 14, '#ffb678', 0.7, { soft: 0.25 }),
				lamp('Rim', 140, 30, '#8f88d8', 0.35, { soft: 0.2 }),
			],
			sky: { color: '#a79ccc', strength: 0.48 },
			ground: { color: '#6f628c', strength: 0.4 },
			shadow: { color: '#7a6cae', strength: 0.5, warmth: 0, chroma: 1 },
			occlusion: { color: '#3a2c4c', strength: 0.9, warmth: 0, chroma: 1, bake: null },
			rise: { color: '#7d6a96', strength: 0.5, from: 0, to: 0.6 },
		}),
	},
	{
		name: 'Lantern',
		hint: 'A small warm light low in front, night around it',
		mode: 'multiply',
		opacity: 1,
		rig: lit({
			lamps: [
				lamp('Key', 20, -8, '#ffca7a', 0.8, { soft: 0.3 }),
				lamp('Rim', -150, 40, '#5f7fc0', 0.35, { soft: 0.15 }),
			],
			sky: { color: '#6f7cae', strength: 0.42 },
			ground: { color: '#5c4a58', strength: 0.42 },
			shadow: { color: '#545c96', strength: 0.5, warmth: 0, chroma: 1 },
			occlusion: { color: '#2c2438', strength: 0.9, warmth: 0, chroma: 1, bake: null },
		}),
	},
	{
		name: 'Under leaves',
		hint: 'Green from above, broken; warm from the ground',
		mode: 'multiply',
		opacity: 1,
		rig: lit({
			lamps: [
				lamp('Key', -20, 62, '#f0f6c4', 0.6, { soft: 0.2 }),
				lamp('Bounce', 30, -60, '#c29a6a', 0.2, { soft: 0.7 }),
			],
			sky: { color: '#b4d2a4', strength: 0.46 },
			ground: { color: '#9c8468', strength: 0.4 },
			shadow: { color: '#6f9a8c', strength: 0.45, warmth: 0, chroma: 1 },
			occlusion: { color: '#38443c', strength: 0.85, warmth: 0, chroma: 1, bake: null },
			steps: 3,
			soft: 0.4,
			strokes: { ...strokes, size: 7, length: 2, contrast: 0.7 },
		}),
	},
	{
		name: 'Soft from above',
		hint: 'Lighter where it looks up, darker where it looks down: ties all below it together',
		mode: 'soft-light',
		opacity: 0.6,
		rig: lit({
			sky: { color: '#e8e6f2', strength: 1 },
			ground: { color: '#3c3440', strength: 1 },
			shadow: { ...none.shadow, strength: 0 },
			strokes: null,
		}),
	},
	{
		name: 'Edges picked out',
		hint: 'Only what stands out, lighter, as a brush picks it out',
		mode: 'screen',
		opacity: 0.55,
		rig: lit({
			edges: { color: '#ffe6b8', strength: 1, bake: null },
			strokes: null,
		}),
	},
	{
		name: 'Hollows only',
		hint: 'Only what is hidden, darker',
		mode: 'multiply',
		opacity: 1,
		rig: lit({
			sky: { color: '#ffffff', strength: 1 },
			ground: { color: '#ffffff', strength: 1 },
			occlusion: { color: '#5a4a66', strength: 1, warmth: 0, chroma: 1, bake: null },
			strokes: null,
		}),
	},
];
