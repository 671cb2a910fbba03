import { CommandError, eachLayer, freeName, type Id, type Layer, layerOf, paintLayer } from '../document/index.ts';
import { heldBy } from '../edit/index.ts';
import { type PassSpec, passMasks, pixelColors, type TexelMask } from '../pixel/index.ts';
import type { Picture } from '../surface/index.ts';
import type { Dirty } from './dirty.ts';
import type { Engine } from './engine.ts';
import type { Workspace } from './workspace.ts';

/** Texels of a picture that a mask holds, each a step along its ramp; those at the end of theirs are left out. */
function stepped({ width, height, data }: Picture, mask: TexelMask, step: (color: number) => number): Picture {
	const words = new Uint32Array(data.buffer, data.byteOffset, width * height);
	const out = new Uint32Array(words.length);
	words.forEach((word, i) => {
		const color = word & 0xffffff;
		const next = mask.data[i] ? step(color) : color;
		if (next !== color) out[i] = (0xff000000 | next) >>> 0;
	});
	return { width, height, data: new Uint8Array(out.buffer) };
}

/** Layers with others above one of them, and above those that are clipped to it. */
function above(layers: readonly Layer[], id: Id, more: readonly Layer[]): Layer[] {
	const at = layers.findIndex((layer) => layer.id === id);
	if (at < 0)
		return layers.map((layer) => ('layers' in layer ? { ...layer, layers: above(layer.layers, id, more) } : layer));
	let next = at + 1;
	while (layers[next]?.clip) next++;
	return [...layers.slice(0, next), ...more, ...layers.slice(next)];
}

/** Light and dark passes, as layers of their own above what they fall on. */
export function passing(
	workspace: Workspace,
	{ layerPicture, takeLayers }: Pick<Engine, 'layerPicture' | 'takeLayers'>,
): Pick<Engine, 'addPasses'> {
	return {
		addPasses(sheetId, layerId, spec: PassSpec, newIds): Dirty {
			const sheet = workspace.need(sheetId);
			const layer = layerOf(sheet, layerId);
			if (!sheet.pixel || !layer)
				throw new CommandError('Passes go over a layer of a pixel sheet. Choose one. Nothing was changed.');
			const picture = layerPicture(sheetId, layerId);
			const rect = { x: 0, y: 0, width: sheet.width, height: sheet.height };
			const masks = passMasks(heldBy({ rect, bytes: 4, data: picture.data }), spec);
			const colors = pixelColors(workspace.project.palette);
			const names = [...eachLayer(sheet.layers)].map(({ name }) => name);
			const made = (['light', 'dark'] as const).map((which, i) => ({
				layer: paintLayer(newIds[i] as Id, freeName(which === 'light' ? 'Light pass' : 'Dark pass', names), {
					clip: false,
				}),
				texels: stepped(picture, masks[which], (color) => colors.step(color, which === 'light' ? 1 : -1)),
			}));
			if (made.every(({ texels }) => texels.data.every((v) => v === 0)))
				throw new CommandError(
					`Nothing of "${layer.name}" looks towards the light, or all of it is at the ends of its ramps. Nothing was changed.`,
				);
			return takeLayers(
				sheetId,
				above(
					sheet.layers,
					layerId,
					made.map((each) => each.layer),
				),
				new Map(made.map((each) => [each.layer.surface, each.texels])),
				`Light and dark passes over "${layer.name}"`,
			);
		},
	};
}
