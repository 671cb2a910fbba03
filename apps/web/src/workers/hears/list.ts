import type { ToStudio } from '../../studio/protocol.ts';
import { document } from './document.ts';
import type { Ear } from './ear.ts';
import { files } from './files.ts';
import { handoff } from './handoff.ts';
import { layouts } from './layouts.ts';
import { pixels } from './pixels.ts';
import { selection } from './selection.ts';
import { strokes } from './strokes.ts';
import { views } from './views.ts';

const ears = { ...document, ...strokes, ...pixels, ...selection, ...views, ...files, ...layouts, ...handoff };

/** Who hears what the page says of an open project. */
export const earFor = <S extends ToStudio['say']>(say: S): Ear<S> | undefined =>
	(ears as unknown as Partial<Record<string, Ear<S>>>)[say];
