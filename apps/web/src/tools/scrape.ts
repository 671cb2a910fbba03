import { KnifeIcon } from '@phosphor-icons/react/dist/csr/Knife';
import type { ToolKind } from './kind.ts';
import { ScrapeOptions } from './ScrapeOptions.tsx';

export const scrape: ToolKind<'scrape'> = {
	name: 'scrape',
	on: 'soft',
	label: 'Scrape',
	asks: 'Scrape through the coats',
	keys: 'X',
	Icon: KnifeIcon,
	hint: 'Cut through the coats: deeper in the middle of the tip; Shift+X mends',
	title: 'Scrape the coats',
	Options: ScrapeOptions,
	stroke: () => 'scrape',
};
