import { type LaidMesh, meshBounds } from '@eppu/core/mesh';
import { cameraBasis, framing, homeCamera } from '@eppu/core/projection';
import { useEffect, useRef } from 'react';

const SIDE = 260;
type Vec = readonly [number, number, number];
const dot = (a: Vec, b: Vec): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
/** Where the light comes from, so that its sides are told apart. */
const KEY: Vec = [-0.36, 0.72, 0.6];

/** A mesh as it will be: its faces drawn from far to near, some of them told apart. */
export function MeshPreview({
	mesh: { positions, indices },
	label,
	open = false,
	yaw = 32,
	told,
}: {
	readonly mesh: Pick<LaidMesh, 'positions' | 'indices'>;
	readonly label: string;
	/** Seen from behind too. */
	readonly open?: boolean;
	/** Degrees that it is turned. */
	readonly yaw?: number;
	/** Faces of a run that is told apart. */
	readonly told?: { readonly firstFace: number; readonly faces: number } | undefined;
}) {
	const canvas = useRef<HTMLCanvasElement>(null);
	useEffect(() => {
		const context = canvas.current?.getContext('2d');
		if (!context) return;
		const bounds = meshBounds({ positions, normals: null, indices, parts: [] });
		const camera = framing({ ...homeCamera, yaw, pitch: 22 }, bounds.center, bounds.radius, 1, 1);
		const { eye, right, up, forward } = cameraBasis(camera);
		const focal = 1 / Math.tan((camera.fov * Math.PI) / 360);
		const ratio = devicePixelRatio;
		Object.assign(canvas.current as HTMLCanvasElement, { width: SIDE * ratio, height: SIDE * ratio });
		context.setTransform(ratio, 0, 0, ratio, 0, 0);
		const point = (v: number): Vec => [0, 1, 2].map((k) => positions[v * 3 + k] as number) as unknown as Vec;
		const from = (p: Vec): Vec => [p[0] - eye[0], p[1] - eye[1], p[2] - eye[2]];
		const faces = Array.from({ length: indices.length / 3 }, (_, face) => {
			const corners = [0, 1, 2].map((k) => point(indices[face * 3 + k] as number)) as [Vec, Vec, Vec];
			const [a, b, c] = corners;
			const [e, f]: [Vec, Vec] = [
				[b[0] - a[0], b[1] - a[1], b[2] - a[2]],
				[c[0] - a[0], c[1] - a[1], c[2] - a[2]],
			];
			const n: Vec = [e[1] * f[2] - e[2] * f[1], e[2] * f[0] - e[0] * f[2], e[0] * f[1] - e[1] * f[0]];
			const long = Math.hypot(...n) || 1;
			const far = corners.reduce((sum, p) => sum + dot(from(p), forward), 0);
			const own = told !== undefined && face >= told.firstFace && face < told.firstFace + told.faces;
			return { corners, far, light: dot(n, KEY) / long, seen: dot(n, from(a)) < 0, own };
		});
		context.fillStyle = getComputedStyle(document.documentElement).getPropertyValue('--view');
		context.fillRect(0, 0, SIDE, SIDE);
		for (const { corners, light, seen, own } of faces.sort((a, b) => b.far - a.far)) {
			if (!seen && !open) continue;
			const tone = Math.round(120 + 100 * Math.max(0, light));
			context.fillStyle = own ? `rgb(${tone} ${tone * 0.72} ${tone * 0.3})` : `rgb(${tone} ${tone - 8} ${tone - 22})`;
			context.strokeStyle = context.fillStyle;
			context.lineWidth = 0.7;
			context.beginPath();
			for (const [i, p] of corners.entries()) {
				const d = from(p);
				const z = dot(d, forward);
				const [x, y] = [
					SIDE / 2 + (dot(d, right) / z) * focal * (SIDE / 2),
					SIDE / 2 - (dot(d, up) / z) * focal * (SIDE / 2),
				];
				if (i === 0) context.moveTo(x, y);
				else context.lineTo(x, y);
			}
			context.closePath();
			context.fill();
			context.stroke();
		}
	}, [positions, indices, open, yaw, told]);
	return (
		<canvas
			ref={canvas}
			role="img"
			aria-label={label}
			className="cut block border border-rule"
			style={{ width: SIDE, height: SIDE }}
		/>
	);
}
