/** The mark: a leaf drawn with one stroke. */
export function Mark({ size = 26 }: { readonly size?: number }) {
	return (
		<svg width={size} height={size} viewBox="0 0 32 32" aria-hidden="true">
			<path d="M27 4C13 4 5 12 6 27c14 0 22-8 21-23Z" fill="var(--pine)" />
			<path d="M5 28C9 19 14 13 23 8" fill="none" stroke="var(--berry)" strokeWidth="2.6" strokeLinecap="round" />
		</svg>
	);
}
