import { type RefObject, useLayoutEffect, useState } from 'react';

/** The size of an element in whole px, kept up to date. */
export function useSize(ref: RefObject<HTMLElement | null>): { readonly width: number; readonly height: number } {
	const [size, setSize] = useState({ width: 0, height: 0 });
	useLayoutEffect(() => {
		const element = ref.current;
		if (!element) return;
		const measure = (): void =>
			setSize({ width: Math.floor(element.clientWidth), height: Math.floor(element.clientHeight) });
		measure();
		const observer = new ResizeObserver(measure);
		observer.observe(element);
		return () => observer.disconnect();
	}, [ref]);
	return size;
}
