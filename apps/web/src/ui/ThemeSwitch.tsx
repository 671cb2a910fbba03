import { MoonIcon } from '@phosphor-icons/react/dist/csr/Moon';
import { SunIcon } from '@phosphor-icons/react/dist/csr/Sun';
import { useState } from 'react';
import { Menu } from './Menu.tsx';
import { setTheme, type Theme, theme } from './theme.ts';

const names: Record<Theme, string> = { birch: 'Birch (light)', kaamos: 'Kaamos (dark)', system: 'As the system' };

export function ThemeSwitch() {
	const [now, setNow] = useState(theme());
	const choose = (next: Theme): void => {
		setTheme(next);
		setNow(next);
	};
	return (
		<Menu
			label="Theme"
			items={(Object.keys(names) as Theme[]).map((each) => ({
				label: names[each],
				chosen: each === now,
				run: () => choose(each),
			}))}
		>
			{document.documentElement.dataset.theme === 'kaamos' ? <MoonIcon size={18} /> : <SunIcon size={18} />}
		</Menu>
	);
}
