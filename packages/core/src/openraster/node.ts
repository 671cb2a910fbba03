import type { Picture } from '../surface/index.ts';
import type { Patch } from './patch.ts';

/** What an element is of ours, beside what every program sees of it. */
export interface Own {
	/**
	 * What it stands for: a layer, a group, a layer and what is clipped to it, a layer with its mask, a mask, the shape of
	 * a clipped set, what lies under all layers.
	 */
	readonly role: 'layer' | 'group' | 'run' | 'masked' | 'mask' | 'shape' | 'base';
	/** Our layer as JSON, without what stands in the file itself. */
	readonly layer?: string;
	/** What its pixels were when it was written. */
	readonly sum?: string;
	/** Surfaces that stand in no picture of the stack: their ids, and the paths of their pictures. */
	readonly texels?: string;
	/** How it was written: what another program changed of it differs. */
	readonly look?: string;
}

interface Base {
	readonly name: string;
	readonly opacity: number;
	readonly shown: boolean;
	readonly locked: boolean;
	/** The composite-op. */
	readonly op: string;
	readonly own: Own | null;
}

export interface OraLayer extends Base {
	readonly kind: 'layer';
	readonly patch: Patch;
}

export interface OraStack extends Base {
	readonly kind: 'stack';
	/** Blended on nothing and laid as one; else only where its opacity or op ask for it. */
	readonly isolated: boolean;
	/** Bottom first, as our layers stand; in the file the top is first. */
	readonly children: readonly OraNode[];
}

export type OraNode = OraLayer | OraStack;

/** A picture in layers as an OpenRaster file holds it. */
export interface OraImage {
	readonly width: number;
	readonly height: number;
	readonly children: readonly OraNode[];
	/** Our own surfaces by their paths. */
	readonly texels: ReadonlyMap<string, Patch>;
	/** How the writer says that all of it looks; null where it does not. */
	merged(): Picture | null;
	/** What of the file could not be taken, in words. */
	readonly notes: readonly string[];
}

/** Of two elements, what every program sees of them beside pixels and children. */
export const lookOf = ({ name, opacity, shown, locked, op }: OraNode | Omit<Base, 'own'>): string =>
	JSON.stringify([name, opacity, shown, locked, op]);
