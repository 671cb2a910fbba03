import { KnifeIcon } from '@phosphor-icons/react/dist/csr/Knife';
import type { ToolKind } from './kind.ts';
import { ScrapeOptions } from './ScrapeOptions.tsx';

export const mend: ToolKind<'mend'> = {
	name: 'mend',
	label: 'Mend',
	asks: 'Mend the coats',
	keys: 'Shift+X',
	Icon: KnifeIcon,
	hint: 'Bring coats back that were scraped',
	title: 'Mend the coats',
	under: 'scrape',
	Options: ScrapeOptions,
	stroke: () => 'mend',
};
