import { type Ref, type SVGProps, useImperativeHandle, useRef } from 'react';

/** A unit circle's place on the screen: [a, b, c, d, e, f] of an SVG matrix. */
export type MarkMatrix = readonly [number, number, number, number, number, number];

export interface BrushMarkHandle {
	set(matrix: MarkMatrix | null): void;
}

const Outline = ({ square, ...how }: SVGProps<SVGElement> & { readonly square: boolean }) =>
	square ? (
		<rect x="-1" y="-1" width="2" height="2" {...(how as SVGProps<SVGRectElement>)} />
	) : (
		<circle r="1" {...(how as SVGProps<SVGCircleElement>)} />
	);

/** The outline of a tip of a radius at x, y: an ellipse where it is not round. */
export function tipMatrix(radius: number, roundness: number, degrees: number, x: number, y: number): MarkMatrix {
	const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
	return [radius * c, radius * s, -radius * roundness * s, radius * roundness * c, x, y];
}

/**
 * The brush's outline over a view, set without going through React: it must not lag behind the hand.
 * Its picture is a px wide and paints beyond it, so that a move makes only the outline's own surroundings anew.
 */
export function BrushMark({
	ref,
	partner = false,
	broken = false,
	square = null,
}: {
	readonly ref: Ref<BrushMarkHandle>;
	readonly partner?: boolean;
	/** The brush has nothing to paint there. */
	readonly broken?: boolean;
	/** Whole texels are covered, and get this colour; a round tip where it is null. */
	readonly square?: string | null;
}) {
	const group = useRef<SVGGElement>(null);
	useImperativeHandle(ref, () => ({
		set(matrix) {
			const g = group.current;
			if (!g) return;
			g.style.display = matrix?.every(Number.isFinite) ? '' : 'none';
			if (matrix) g.setAttribute('transform', `matrix(${matrix.join(' ')})`);
		},
	}));
	return (
		<svg
			className="pointer-events-none absolute top-0 left-0 size-px overflow-visible"
			aria-hidden="true"
			data-mark={partner ? 'partner' : 'own'}
		>
			<g ref={group} style={{ display: 'none' }} fill="none">
				{square !== null && <rect x="-1" y="-1" width="2" height="2" fill={square} />}
				<Outline
					square={square !== null}
					stroke="#26231e"
					strokeOpacity="0.75"
					strokeWidth={partner ? 3.5 : 3}
					vectorEffect="non-scaling-stroke"
				/>
				<Outline
					square={square !== null}
					stroke={partner ? '#e9a23b' : '#ffffff'}
					strokeWidth={partner ? 2 : 1.3}
					strokeDasharray={broken ? '3 4' : undefined}
					vectorEffect="non-scaling-stroke"
				/>
			</g>
		</svg>
	);
}
