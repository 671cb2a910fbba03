import type { ComponentType } from 'react';
import { BakesOutput } from './BakesOutput.tsx';
import { BuildUpOutput } from './BuildUpOutput.tsx';
import { ExchangeOutput } from './ExchangeOutput.tsx';
import { LayersOutput } from './LayersOutput.tsx';
import { ModelsOutput } from './ModelsOutput.tsx';
import { PageOutput } from './PageOutput.tsx';
import { PaletteOutput } from './PaletteOutput.tsx';
import { ProjectOutput } from './ProjectOutput.tsx';
import { TemplatesOutput } from './TemplatesOutput.tsx';
import { TexturesOutput } from './TexturesOutput.tsx';
import type { Writing } from './useWriting.ts';

/** Something that leaves for elsewhere. */
export interface Output {
	readonly kind: string;
	readonly name: string;
	/** What it is for, in a few words. */
	readonly words: string;
	readonly Panel: ComponentType<{ readonly writing: Writing }>;
}

/** All that is handed off: a new one is a line here. */
export const outputs: readonly Output[] = [
	{ kind: 'textures', name: 'Textures', words: 'PNG or WebP for the game', Panel: TexturesOutput },
	{ kind: 'models', name: 'Models', words: 'GLB, glTF, OBJ, PLY, painted', Panel: ModelsOutput },
	{ kind: 'layers', name: 'Layers', words: 'For another editor, and back', Panel: LayersOutput },
	{ kind: 'exchange', name: 'Exchange', words: 'Open elsewhere, back at each saving', Panel: ExchangeOutput },
	{ kind: 'build-up', name: 'Build-up', words: 'A sheet, layer by layer', Panel: BuildUpOutput },
	{ kind: 'bakes', name: 'Bakes and relief', words: 'Pictures of the shape, 8 or 16 bits', Panel: BakesOutput },
	{ kind: 'templates', name: 'Templates', words: 'What lies where, to paint over', Panel: TemplatesOutput },
	{ kind: 'palette', name: 'Palette', words: 'Tokens, hex list or strip', Panel: PaletteOutput },
	{ kind: 'page', name: 'Page', words: 'Shows the work, for other eyes', Panel: PageOutput },
	{ kind: 'project', name: 'Project', words: 'All of it, as one open file', Panel: ProjectOutput },
];
