import { eachTexelOfFace, faceAt } from '../atlas/index.ts';
import { type Command, CommandError, eachLayer, freeName, type Id, paintLayer, type Sheet } from '../document/index.ts';
import { type FlatPlace, type LaidMesh, sharesOf } from '../mesh/index.ts';
import type { Scene } from '../scene/index.ts';
import { createSurface, type Picture, pictureIntoSurface } from '../surface/index.ts';
import { merged } from './dirty.ts';
import type { Engine } from './engine.ts';
import type { Workspace } from './workspace.ts';

/** Texels that a corner's colour is read into its faces, away from what lies beside them. */
const INWARDS = 0.75;

/** The corners of a face on a sheet, texels. */
const cornersOn = ({ uvs, indices }: LaidMesh, face: number, { width, height }: Sheet): FlatPlace[] =>
	[0, 1, 2].map((k) => {
		const at = (indices[face * 3 + k] as number) * 2;
		return [(uvs[at] as number) * width, (uvs[at + 1] as number) * height];
	});

/** The colours at a model's vertices over its faces, as a sheet shows them; gutters go on as the texel they continue. */
function paintedColors({ mesh, mapOf }: Scene, sheet: Sheet, colors: Float32Array): Picture {
	const map = mapOf(sheet);
	const { width, height } = sheet;
	const data = new Uint8Array(width * height * 4);
	for (let face = 0; face < mesh.indices.length / 3; face++) {
		const [a, b, c] = cornersOn(mesh, face, sheet) as [FlatPlace, FlatPlace, FlatPlace];
		const tint = [0, 1, 2].map((k) => (mesh.indices[face * 3 + k] as number) * 4) as [number, number, number];
		const put = (x: number, y: number): void => {
			const shares = sharesOf(a, b, c, x + 0.5, y + 0.5);
			if (!shares) return;
			const v = Math.max(0, Math.min(1, shares[1]));
			const w = Math.max(0, Math.min(1 - v, shares[2]));
			for (let k = 0; k < 4; k++) {
				const mean =
					(1 - v - w) * (colors[tint[0] + k] as number) +
					v * (colors[tint[1] + k] as number) +
					w * (colors[tint[2] + k] as number);
				data[(y * width + x) * 4 + k] = Math.round(mean * 255);
			}
		};
		eachTexelOfFace(
			map,
			face,
			(y, x0, x1) => {
				for (let x = x0; x < x1; x++) if (map.faceOfTexel[y * width + x] === face + 1) put(x, y);
			},
			() => undefined,
		);
	}
	map.gutterTexel.forEach((texel, g) => {
		const from = (map.gutterSource[g] as number) * 4;
		data.copyWithin(texel * 4, from, from + 4);
	});
	return { width, height, data };
}

/** Colours at vertices become a layer, and what is painted colours at vertices. */
export function vertexColors(workspace: Workspace): Pick<Engine, 'vertexLayer' | 'vertexColored'> {
	const { kernels, scenes, history, need, carry, addSurface, pictureOf } = workspace;
	const sheetsOf = ({ model }: Scene): Sheet[] => [...new Set(model.parts.map(({ sheet }) => sheet))].map(need);
	return {
		vertexLayer(model, newId) {
			const scene = scenes.get(model);
			const colors = scene?.mesh.colors;
			if (!scene || !colors) throw new CommandError('That model has no vertex colours. Nothing was changed.');
			const commands = sheetsOf(scene).map((sheet): Command => {
				const id = newId();
				const layer = paintLayer(
					id,
					freeName(
						'Vertex colours',
						[...eachLayer(sheet.layers)].map(({ name }) => name),
					),
				);
				const surface = createSurface(id, 'color', sheet.width, sheet.height);
				pictureIntoSurface(kernels, paintedColors(scene, sheet, colors), surface);
				addSurface(surface);
				return { do: 'layer.add', sheet: sheet.id, layer, at: sheet.layers.length, parent: null };
			});
			const done = commands.map((command) => carry(command));
			history.push({
				words: 'Layer of vertex colours',
				undo: done.map(({ inverse }) => inverse).reverse(),
				redo: commands,
				records: [],
			});
			return merged(done.map(({ dirty }) => dirty));
		},
		vertexColored(model) {
			const scene = scenes.get(model);
			if (!scene) throw new CommandError('That model is not in this project any more.');
			const { mesh, model: of, mapOf, partOfFace } = scene;
			const sums = new Float64Array((mesh.positions.length / 3) * 5);
			const pictures = new Map<Id, Picture>(sheetsOf(scene).map((sheet) => [sheet.id, pictureOf(sheet)]));
			for (let face = 0; face < mesh.indices.length / 3; face++) {
				const sheet = need(of.parts[partOfFace(face)]?.sheet as Id);
				const { data } = pictures.get(sheet.id) as Picture;
				const corners = cornersOn(mesh, face, sheet);
				const [mx, my] = [0, 1].map((k) => corners.reduce((sum, p) => sum + (p[k] as number) / 3, 0)) as [
					number,
					number,
				];
				corners.forEach(([x, y], k) => {
					const far = Math.hypot(mx - x, my - y) || 1;
					const by = Math.min(1, INWARDS / far);
					const [tx, ty] = [x + (mx - x) * by, y + (my - y) * by];
					const inside = faceAt(mapOf(sheet), tx, ty) >= 0;
					const [px, py] = (inside ? [tx, ty] : [mx, my]).map(Math.floor) as [number, number];
					const at =
						(Math.max(0, Math.min(sheet.height - 1, py)) * sheet.width + Math.max(0, Math.min(sheet.width - 1, px))) *
						4;
					const alpha = (data[at + 3] as number) / 255;
					const into = (mesh.indices[face * 3 + k] as number) * 5;
					for (let c = 0; c < 3; c++)
						sums[into + c] = (sums[into + c] as number) + ((data[at + c] as number) / 255) * alpha;
					sums[into + 3] = (sums[into + 3] as number) + alpha;
					sums[into + 4] = (sums[into + 4] as number) + 1;
				});
			}
			const colors = Float32Array.from({ length: (sums.length / 5) * 4 }, (_, i) => {
				const from = Math.floor(i / 4) * 5;
				const [alpha, count] = [sums[from + 3] as number, sums[from + 4] as number];
				if (i % 4 === 3) return count ? alpha / count : 1;
				return alpha ? (sums[from + (i % 4)] as number) / alpha : 1;
			});
			return { ...mesh, colors };
		},
	};
}
