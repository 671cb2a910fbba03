/**
 * A figure of boxes that a pixel sheet is worn on: plain JSON, so that anybody can write one. Lengths are texels; x goes to
 * the right of whoever looks at its front, y up, z towards them.
 */
export interface Figure {
	readonly figure: 1;
	readonly name: string;
	/** How large its sheet is. */
	readonly sheet: readonly [width: number, height: number];
	readonly boxes: readonly FigureBox[];
	readonly poses?: readonly FigurePose[];
}

/** Texels that make one of a model's own units. */
export const TEXELS_A_UNIT = 16;

export interface FigureBox {
	readonly name: string;
	readonly size: readonly [width: number, height: number, depth: number];
	/** The middle of its foot. */
	readonly at: readonly [x: number, y: number, z: number];
	/**
	 * Where its sides lie on the sheet: the upper left texel of a cross that has the top and the foot above, and below them
	 * its side at the left hand of whoever looks, its front, its other side and its back.
	 */
	readonly place: readonly [x: number, y: number];
	/** A second coat: so much larger on all sides than its texels. */
	readonly inflate?: number;
	/** Where it turns; the middle of its top where it is left out. */
	readonly joint?: readonly [x: number, y: number, z: number];
	/** The box that it hangs on, and goes along with. */
	readonly on?: string;
}

/** Degrees that boxes turn at their joints, by their names: about x, then y, then z. */
export type Turns = Readonly<Record<string, readonly [x: number, y: number, z: number]>>;

/** How a figure stands, or moves over and over. */
export interface FigurePose {
	readonly name: string;
	readonly turns: Turns;
	/** How far they swing to both sides of that, and the seconds of one swing. */
	readonly swing?: Turns;
	readonly beat?: number;
}

export type FigureResult =
	| { readonly ok: true; readonly figure: Figure }
	| { readonly ok: false; readonly text: string };

/** Boxes of one figure. */
export const MOST_BOXES = 64;
/** Texels along a side of a box or of a sheet. */
const MOST_POSES = 32;
const MOST_SIDE = 512;

const isNumber = (v: unknown): v is number => typeof v === 'number' && Number.isFinite(v) && Math.abs(v) <= 4096;
const isWhole = (v: unknown, least: number): v is number =>
	isNumber(v) && Number.isInteger(v) && v >= least && v <= MOST_SIDE;

/** The texels of a sheet that a box's cross takes: x, y, width, height. */
export const crossOf = ({ size: [w, h, d], place: [x, y] }: FigureBox): readonly [number, number, number, number] => [
	x,
	y,
	2 * (w + d),
	h + d,
];

function boxProblem(box: Partial<FigureBox>, [width, height]: Figure['sheet']): string | null {
	const { name, size, at, place, inflate, joint, on } = box;
	if (typeof name !== 'string' || !name.trim() || name.length > 120) return 'a box without a name';
	const list = (value: unknown, long: number, fits: (v: unknown) => boolean): boolean =>
		Array.isArray(value) && value.length === long && value.every(fits);
	if (!list(size, 3, (v) => isWhole(v, 1))) return `"${name}": its size is three whole numbers from 1 on`;
	if (!list(at, 3, isNumber)) return `"${name}": where it stands is three numbers`;
	if (!list(place, 2, (v) => isWhole(v, 0))) return `"${name}": its place on the sheet is two whole numbers`;
	if (inflate !== undefined && (!isNumber(inflate) || inflate < 0 || inflate > 8))
		return `"${name}": it is larger by 0 to 8 texels`;
	if (joint !== undefined && !list(joint, 3, isNumber)) return `"${name}": its joint is three numbers`;
	if (on !== undefined && typeof on !== 'string') return `"${name}": what it hangs on is the name of a box`;
	const [x, y, w, h] = crossOf(box as FigureBox);
	return x + w > width || y + h > height ? `"${name}": its sides do not fit on the sheet` : null;
}

/** Reads a figure from JSON; what does not fit is told in plain words. */
export function readFigure(text: string, file: string): FigureResult {
	const no = (why: string): FigureResult => ({ ok: false, text: `${file} is no figure that can be worn: ${why}.` });
	let value: Partial<Figure>;
	try {
		value = JSON.parse(text) as Partial<Figure>;
	} catch {
		return no('it is not JSON');
	}
	if (typeof value !== 'object' || value === null || value.figure !== 1) return no('it does not say "figure": 1');
	const { name, sheet, boxes } = value;
	if (typeof name !== 'string' || !name.trim() || name.length > 120) return no('it has no name');
	if (!Array.isArray(sheet) || sheet.length !== 2 || !sheet.every((v) => isWhole(v, 8)))
		return no(`its sheet is two whole numbers from 8 to ${MOST_SIDE}`);
	if (!Array.isArray(boxes) || boxes.length === 0 || boxes.length > MOST_BOXES)
		return no(`it has 1 to ${MOST_BOXES} boxes`);
	const names = new Set<string>();
	for (const box of boxes as Partial<FigureBox>[]) {
		const problem = boxProblem(box ?? {}, sheet as unknown as Figure['sheet']);
		if (problem) return no(problem);
		if (names.has(box.name as string)) return no(`two boxes are called "${box.name}"`);
		names.add(box.name as string);
	}
	const problem = hangingProblem(boxes as FigureBox[], names) ?? posesProblem(value.poses, names);
	return problem ? no(problem) : { ok: true, figure: value as Figure };
}

/** Every box hangs on one that is there, and none on itself, however far round. */
function hangingProblem(boxes: readonly FigureBox[], names: ReadonlySet<string>): string | null {
	const above = new Map(boxes.map(({ name, on }) => [name, on]));
	for (const { name, on } of boxes) {
		if (on !== undefined && !names.has(on)) return `"${name}" hangs on "${on}", and no box is called that`;
		let up = on;
		for (let steps = 0; up !== undefined; up = above.get(up))
			if (steps++ > boxes.length) return `"${name}" hangs on itself`;
	}
	return null;
}

function posesProblem(poses: unknown, names: ReadonlySet<string>): string | null {
	if (poses === undefined) return null;
	if (!Array.isArray(poses) || poses.length > MOST_POSES) return `its poses are a list of up to ${MOST_POSES}`;
	for (const pose of poses as Partial<FigurePose>[]) {
		if (typeof pose?.name !== 'string' || !pose.name.trim() || pose.name.length > 120) return 'a pose without a name';
		for (const turns of [pose.turns, pose.swing ?? {}]) {
			if (typeof turns !== 'object' || turns === null)
				return `"${pose.name}": its turns are degrees by the names of boxes`;
			for (const [box, turn] of Object.entries(turns)) {
				if (!names.has(box)) return `"${pose.name}" turns "${box}", and no box is called that`;
				if (!Array.isArray(turn) || turn.length !== 3 || !turn.every(isNumber))
					return `"${pose.name}": "${box}" turns by three numbers`;
			}
		}
		if (pose.beat !== undefined && (!isNumber(pose.beat) || pose.beat < 0.1 || pose.beat > 60))
			return `"${pose.name}": one swing takes 0.1 to 60 seconds`;
	}
	return null;
}

/** A figure as its file. */
export const figureText = (figure: Figure): string => `${JSON.stringify(figure, null, '\t')}\n`;
