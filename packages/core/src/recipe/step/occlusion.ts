import { among, one, real, whole } from '../../shape/index.ts';
import { type SourceKind, sourceShape } from './kind.ts';

/** How much of the sky the model hides from its own surface: 1 where all is hidden, deep in hollows. */
export interface Occlusion {
	readonly step: 'occlusion';
	/** How far what hides counts, in hundredths of the model. */
	readonly reach: number;
	/** What is farther counts for the less, or all alike. */
	readonly falls: 'off' | 'alike';
	/** Half the angle of the cone that is looked into, degrees. */
	readonly spread: number;
	/** Rays a texel: more are smoother and slower. */
	readonly rays: number;
	/** All of the model hides, or only what the texel's own part hides from itself. */
	readonly by?: 'model' | 'part';
	/** The ground that the model stands on hides too, or nothing below it. */
	readonly ground?: 'none' | 'level';
}

export const occlusion: SourceKind<Occlusion> = {
	step: 'occlusion',
	words: 'Ambient occlusion',
	takes: 'source',
	dear: true,
	shape: sourceShape(
		{
			step: one('occlusion'),
			reach: real(0.5, 400),
			falls: among(['off', 'alike']),
			spread: real(5, 90),
			rays: whole(4, 1024),
			by: among(['model', 'part']),
			ground: among(['none', 'level']),
		},
		['by', 'ground'],
	),
	usual: { step: 'occlusion', reach: 30, falls: 'off', spread: 90, rays: 64, by: 'model', ground: 'none' },
	dials: [
		{ of: 'reach', label: 'Distance', least: 1, most: 200, unit: '%', ratio: true },
		{ of: 'spread', label: 'Spread', least: 10, most: 90, unit: '°' },
		{ of: 'rays', label: 'Rays', least: 16, most: 256, whole: true, ratio: true },
	],
	choices: [
		{
			of: 'falls',
			label: 'With distance',
			options: [
				['off', 'Falls off'],
				['alike', 'Counts alike'],
			],
		},
		{
			of: 'by',
			label: 'Hidden by',
			options: [
				['model', 'The model'],
				['part', 'Its own part'],
			],
		},
		{
			of: 'ground',
			label: 'Ground below',
			options: [
				['none', 'None'],
				['level', 'Level'],
			],
		},
	],
	field({ reach, falls, spread, rays, by, ground }, { surface }, only) {
		const of = { reach, fades: falls === 'off', spread, rays, own: by === 'part', ground: ground === 'level' };
		return surface?.hidden(of, only) ?? null;
	},
};
