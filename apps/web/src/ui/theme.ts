/** Birch by day, Kaamos in the dark: the system's wish unless the artist set one. */
export type Theme = 'birch' | 'kaamos' | 'system';

const key = 'eppu-theme';
const dark = matchMedia('(prefers-color-scheme: dark)');

export const theme = (): Theme => (localStorage.getItem(key) as Theme | null) ?? 'system';

export function setTheme(next: Theme): void {
	localStorage.setItem(key, next);
	applyTheme();
}

export function applyTheme(): void {
	const now = theme();
	document.documentElement.dataset.theme = now === 'kaamos' || (now === 'system' && dark.matches) ? 'kaamos' : 'birch';
}

dark.addEventListener('change', applyTheme);
