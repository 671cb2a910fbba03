import { type Ref, useImperativeHandle, useRef } from 'react';

export interface LineMarkHandle {
	/** Screen px of the view; null takes it away. */
	set(line: readonly [number, number, number, number] | null): void;
}

/** A straight stroke shown before it is made. */
export function LineMark({ ref }: { readonly ref: Ref<LineMarkHandle> }) {
	const group = useRef<SVGGElement>(null);
	useImperativeHandle(ref, () => ({
		set(line) {
			const g = group.current;
			if (!g) return;
			g.style.display = line ? '' : 'none';
			if (line)
				for (const each of g.children)
					['x1', 'y1', 'x2', 'y2'].forEach((name, i) => void each.setAttribute(name, String(line[i])));
		},
	}));
	return (
		<svg className="pointer-events-none absolute inset-0 size-full overflow-hidden" aria-hidden="true">
			<g ref={group} style={{ display: 'none' }}>
				<line stroke="#26231e" strokeWidth="3" strokeOpacity="0.7" />
				<line stroke="#ffffff" strokeWidth="1.3" />
			</g>
		</svg>
	);
}
