import { above, bool, finite, list, real, type Shape, strict } from '../shape/index.ts';
export type Vec3 = readonly [number, number, number];

/** A row of a projection: the value at p is r[0]·x + r[1]·y + r[2]·z + r[3]. */
export type Row = readonly [number, number, number, number];

/** A camera around a place: angles in degrees, distance in the model's units. */
export interface Camera {
	readonly target: Vec3;
	/** Around the upright axis; 0 looks along -z, at the front. */
	readonly yaw: number;
	/** Upwards positive, -90..90. */
	readonly pitch: number;
	readonly roll: number;
	readonly distance: number;
	/** Of the height. */
	readonly fov: number;
	/** Parallel rays; at the target the same scale as with perspective. */
	readonly parallel: boolean;
}

/** Places and distances of models of any unit. */
export const placeShape: Shape = list(real(-1e15, 1e15), 3, 3);
export const cameraShape: Shape = strict({
	target: placeShape,
	yaw: finite,
	pitch: finite,
	roll: finite,
	distance: above(0, 1e15),
	fov: real(1, 170),
	parallel: bool,
});

export const homeCamera: Camera = {
	target: [0, 0, 0],
	yaw: 30,
	pitch: 18,
	roll: 0,
	distance: 4,
	fov: 35,
	parallel: false,
};

export interface CameraBasis {
	readonly eye: Vec3;
	readonly right: Vec3;
	readonly up: Vec3;
	readonly forward: Vec3;
}

const radians = (degrees: number): number => (degrees * Math.PI) / 180;

const dot = (a: Vec3, b: Vec3): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

const mix = (a: Vec3, s: number, b: Vec3, t: number): Vec3 => [
	a[0] * s + b[0] * t,
	a[1] * s + b[1] * t,
	a[2] * s + b[2] * t,
];

/** Where the camera stands and how it is turned; right-handed, y upwards. */
export function cameraBasis(camera: Camera): CameraBasis {
	const [sy, cy] = [Math.sin(radians(camera.yaw)), Math.cos(radians(camera.yaw))];
	const [sp, cp] = [Math.sin(radians(camera.pitch)), Math.cos(radians(camera.pitch))];
	const forward: Vec3 = [-sy * cp, -sp, -cy * cp];
	const level: Vec3 = [cy, 0, -sy];
	const rise: Vec3 = [-sy * sp, cp, -cy * sp];
	const [sr, cr] = [Math.sin(radians(camera.roll)), Math.cos(radians(camera.roll))];
	return {
		eye: mix(camera.target, 1, forward, -camera.distance),
		right: mix(level, cr, rise, sr),
		up: mix(rise, cr, level, -sr),
		forward,
	};
}

/**
 * A camera over a viewport as rows: screen x = X/W, y = Y/W in px from the upper left; nearness = N/W grows towards
 * the camera and is affine on the screen. `slack` and `slackShare` say how much nearer something must be to hide.
 */
export interface Projection {
	readonly X: Row;
	readonly Y: Row;
	readonly W: Row;
	readonly N: Row;
	/** Homogeneous eye: w 0 is the direction towards the camera. */
	readonly eye: Row;
	readonly width: number;
	readonly height: number;
	/** Nothing nearer than this W is drawn. */
	readonly nearest: number;
	readonly slack: number;
	readonly slackShare: number;
}

/** Projection of a camera onto a viewport of width by height px. */
export function projectionOf(camera: Camera, width: number, height: number): Projection {
	const { eye, right, up, forward } = cameraBasis(camera);
	const away: Row = [...forward, -dot(forward, eye)];
	const sideways: Row = [...right, -dot(right, eye)];
	const upwards: Row = [...up, -dot(up, eye)];
	const half = height / 2;
	const row = (f: (i: number) => number): Row => [f(0), f(1), f(2), f(3)];
	if (camera.parallel) {
		const scale = half / (camera.distance * Math.tan(radians(camera.fov / 2)));
		const unit: Row = [0, 0, 0, 1];
		return {
			X: row((i) => (width / 2) * (unit[i] as number) + scale * (sideways[i] as number)),
			Y: row((i) => half * (unit[i] as number) - scale * (upwards[i] as number)),
			W: unit,
			N: row((i) => 1e4 * (unit[i] as number) - (away[i] as number) / camera.distance),
			eye: [-forward[0], -forward[1], -forward[2], 0],
			width,
			height,
			nearest: 0.5,
			slack: 0.004,
			slackShare: 0,
		};
	}
	const focal = half / Math.tan(radians(camera.fov / 2));
	return {
		X: row((i) => (width / 2) * (away[i] as number) + focal * (sideways[i] as number)),
		Y: row((i) => half * (away[i] as number) - focal * (upwards[i] as number)),
		W: away,
		N: [0, 0, 0, 1],
		eye: [...eye, 1],
		width,
		height,
		nearest: camera.distance * 0.01,
		slack: 0,
		slackShare: 0.003,
	};
}

/** A plane: points with n·p = at, n a unit vector. */
export interface Plane {
	readonly normal: Vec3;
	readonly at: number;
}

/** The plane that a line on a viewport and the eye lie in; null where the line has no length. */
export function planeThrough(
	camera: Camera,
	width: number,
	height: number,
	from: readonly [number, number],
	to: readonly [number, number],
): Plane | null {
	const { eye, right, up, forward } = cameraBasis(camera);
	const scale = (2 * camera.distance * Math.tan(radians(camera.fov / 2))) / height;
	/** Where a px lies in the plane of the camera's target. */
	const place = ([x, y]: readonly [number, number]): Vec3 =>
		mix(mix(camera.target, 1, right, (x - width / 2) * scale), 1, up, (height / 2 - y) * scale);
	const [a, b] = [place(from), place(to)];
	const along = mix(b, 1, a, -1);
	const away = camera.parallel ? forward : mix(a, 1, eye, -1);
	const n: Vec3 = [
		along[1] * away[2] - along[2] * away[1],
		along[2] * away[0] - along[0] * away[2],
		along[0] * away[1] - along[1] * away[0],
	];
	const size = Math.hypot(...n);
	if (!(size > 1e-12)) return null;
	const normal: Vec3 = [n[0] / size, n[1] / size, n[2] / size];
	return { normal, at: dot(normal, a) };
}

/** The other side of a plane: where a place's mirror image is. */
export function mirrorPlace({ normal, at }: Plane, p: Vec3): Vec3 {
	const by = 2 * (dot(normal, p) - at);
	return mix(p, 1, normal, -by);
}

/**
 * The projection of a place's mirror image: with it a dab lands where the mirrored model would be under the brush.
 * Applied once for each plane it makes all their combinations.
 */
export function mirrored(projection: Projection, { normal, at }: Plane): Projection {
	const row = (r: Row): Row => {
		const along = 2 * (r[0] * normal[0] + r[1] * normal[1] + r[2] * normal[2]);
		return [r[0] - along * normal[0], r[1] - along * normal[1], r[2] - along * normal[2], r[3] + along * at];
	};
	const [ex, ey, ez, ew] = projection.eye;
	const by = 2 * (ex * normal[0] + ey * normal[1] + ez * normal[2] - at * ew);
	return {
		...projection,
		X: row(projection.X),
		Y: row(projection.Y),
		W: row(projection.W),
		N: row(projection.N),
		eye: [ex - by * normal[0], ey - by * normal[1], ez - by * normal[2], ew],
	};
}
