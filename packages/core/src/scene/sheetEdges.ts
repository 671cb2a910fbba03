import type { TexelMap } from '../atlas/index.ts';
import { type LaidMesh, sharpEdges, type Topology } from '../mesh/index.ts';
import { grownRect, type Rect, tileRect, tilesOfRect } from '../raster/index.ts';
import type { OverSeams } from '../recipe/index.ts';
import { TILE } from '../surface/index.ts';

/** A sharp edge where it lies on a sheet, in texels, and the island whose border or crease it is there. */
interface SheetEdge {
	readonly ax: number;
	readonly ay: number;
	readonly dx: number;
	readonly dy: number;
	readonly island: number;
	readonly angle: number;
	readonly out: boolean;
}

/** Cells to measure: the face that each shows, and those that show another place than their own. */
export interface EdgeCells {
	readonly rect: Rect;
	/** Texels along a cell. */
	readonly step: number;
	readonly faces: Int32Array;
	readonly over: OverSeams | null;
}

/** The sharp edges of a model on one sheet. */
export interface SheetEdges {
	/** Texels to the nearest edge of the cell's own island, up to `reach`, beyond which it is `Infinity`. */
	distances(cells: EdgeCells, of: 'edges' | 'hollows', angle: number, reach: number): Float32Array;
}

export function sheetEdges(
	mesh: LaidMesh,
	{ islandOfFace }: Topology,
	map: TexelMap,
	size: { readonly width: number; readonly height: number },
): SheetEdges {
	const tiles = { cols: Math.ceil(size.width / TILE), rows: Math.ceil(size.height / TILE) };
	const edges: SheetEdge[] = [];
	/** Numbers of the edges that touch each tile. */
	const inTile: number[][] = Array.from({ length: tiles.cols * tiles.rows }, () => []);
	for (const { sides, angle, out } of sharpEdges(mesh))
		for (const { face, corner } of sides) {
			if (map.spanOffset[face + 1] === map.spanOffset[face]) continue;
			const [a, b] = [corner, (corner + 1) % 3].map((k) => mesh.indices[face * 3 + k] as number) as [number, number];
			const [ax, ay, bx, by] = [a, b].flatMap((v) => [
				(mesh.uvs[v * 2] as number) * size.width,
				(mesh.uvs[v * 2 + 1] as number) * size.height,
			]) as [number, number, number, number];
			const around = {
				x: Math.floor(Math.min(ax, bx)),
				y: Math.floor(Math.min(ay, by)),
				width: Math.ceil(Math.abs(bx - ax)) + 1,
				height: Math.ceil(Math.abs(by - ay)) + 1,
			};
			for (const tile of tilesOfRect(tiles, around)) inTile[tile]?.push(edges.length);
			edges.push({ ax, ay, dx: bx - ax, dy: by - ay, island: islandOfFace[face] as number, angle, out });
		}
	const near = (rect: Rect, of: 'edges' | 'hollows', angle: number, reach: number): SheetEdge[] => {
		const numbers = new Set(
			tilesOfRect(tiles, grownRect(rect, Math.ceil(reach))).flatMap((tile) => inTile[tile] ?? []),
		);
		return [...numbers]
			.map((n) => edges[n] as SheetEdge)
			.filter((edge) => edge.angle >= angle && edge.out === (of === 'edges'));
	};
	const squareTo = ({ ax, ay, dx, dy }: SheetEdge, x: number, y: number): number => {
		const [px, py] = [x - ax, y - ay];
		const t = Math.min(1, Math.max(0, (px * dx + py * dy) / (dx * dx + dy * dy || 1e-9)));
		return (px - t * dx) ** 2 + (py - t * dy) ** 2;
	};
	return {
		distances({ rect, step, faces, over }, of, angle, reach) {
			const out = new Float32Array(faces.length).fill(Infinity);
			const own = faces.slice();
			if (over) {
				const shown = byTile(over, tiles.cols);
				for (const cell of over.cell) own[cell] = -1;
				for (const [tile, list] of shown) {
					const candidates = near(tileRect(tiles, tile), of, angle, reach);
					for (const i of list) {
						const cell = over.cell[i] as number;
						const island = islandOfFace[faces[cell] as number];
						for (const edge of candidates)
							if (edge.island === island)
								out[cell] = Math.min(out[cell] as number, squareTo(edge, over.x[i] as number, over.y[i] as number));
					}
				}
			}
			const [w, h] = [Math.ceil(rect.width / step), Math.ceil(rect.height / step)];
			for (const edge of near(rect, of, angle, reach)) {
				const { ax, ay, dx, dy } = edge;
				const x0 = Math.max(0, Math.floor((Math.min(ax, ax + dx) - reach - rect.x) / step));
				const x1 = Math.min(w, Math.ceil((Math.max(ax, ax + dx) + reach - rect.x) / step));
				const y0 = Math.max(0, Math.floor((Math.min(ay, ay + dy) - reach - rect.y) / step));
				const y1 = Math.min(h, Math.ceil((Math.max(ay, ay + dy) + reach - rect.y) / step));
				for (let cy = y0; cy < y1; cy++)
					for (let cx = x0; cx < x1; cx++) {
						const i = cy * w + cx;
						const f = own[i] as number;
						if (f < 0 || islandOfFace[f] !== edge.island) continue;
						const d = squareTo(edge, rect.x + (cx + 0.5) * step, rect.y + (cy + 0.5) * step);
						if (d < (out[i] as number)) out[i] = d;
					}
			}
			for (let i = 0; i < out.length; i++) {
				const d = Math.sqrt(out[i] as number);
				out[i] = d <= reach ? d : Infinity;
			}
			return out;
		},
	};
}

/** Which cells over seams show a place in each tile. */
function byTile({ x, y }: OverSeams, cols: number): Map<number, number[]> {
	const out = new Map<number, number[]>();
	x.forEach((each, i) => {
		const tile = Math.floor((y[i] as number) / TILE) * cols + Math.floor(each / TILE);
		const list = out.get(tile);
		if (list) list.push(i);
		else out.set(tile, [i]);
	});
	return out;
}
