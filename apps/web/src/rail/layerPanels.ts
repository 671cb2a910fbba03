import type { Layer } from '@eppu/core/document';
import type { ComponentType } from 'react';
import { AdjustNote } from './AdjustNote.tsx';
import { FillPanel } from './FillPanel.tsx';
import { LightNote } from './LightNote.tsx';
import type { LayerPanelProps } from './layerPanel.ts';
import { OncePanel } from './OncePanel.tsx';
import { TextPanel } from './TextPanel.tsx';

type Panels = { readonly [K in Layer['kind']]: ComponentType<LayerPanelProps<Extract<Layer, { kind: K }>>> | null };

/** What each kind of layer has in the drawer above what all have: a new kind is a line here. */
const panels: Panels = {
	paint: OncePanel,
	wash: FillPanel,
	text: TextPanel,
	adjust: AdjustNote,
	light: LightNote,
	group: null,
};

export const layerPanelOf = (layer: Layer): ComponentType<LayerPanelProps> | null =>
	panels[layer.kind] as ComponentType<LayerPanelProps> | null;
