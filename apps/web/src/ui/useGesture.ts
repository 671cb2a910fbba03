import { useEffect, useRef } from 'react';

/** A name that is the same from a press to its release: what is changed in between is one step. */
export function useGesture(): () => string {
	const name = useRef('');
	useEffect(() => {
		const end = (): void => {
			name.current = '';
		};
		addEventListener('pointerup', end);
		addEventListener('keyup', end);
		return () => {
			removeEventListener('pointerup', end);
			removeEventListener('keyup', end);
		};
	}, []);
	return () => {
		if (!name.current) name.current = crypto.randomUUID();
		return name.current;
	};
}
