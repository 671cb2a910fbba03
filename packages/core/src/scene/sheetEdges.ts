import type { Ptr } from '@eppu/kernels';
import type { TexelMap } from '../atlas/index.ts';
import { type LaidMesh, sharpEdges, type Topology } from '../mesh/index.ts';
import { grownRect, type Rect, tileRect, tilesOfRect } from '../raster/index.ts';
import type { Field, OverSeams, Planes } from '../recipe/index.ts';
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

/** Cells to measure, and those that show another place than their own. */
export interface EdgeCells {
	readonly rect: Rect;
	/** Texels along a cell. */
	readonly step: number;
	readonly faces: Int32Array;
	/** A plane of numbers of the faces, and those faces. */
	readonly cells: Ptr;
	readonly numbered: readonly number[];
	readonly over: OverSeams | null;
}

/** The sharp edges of a model on one sheet. */
export interface SheetEdges {
	/** Squares of the distances, in texels, to the nearest edge of the cell's own island, up to `reach` at least; else Infinity. */
	squares(planes: Planes, cells: EdgeCells, of: 'edges' | 'hollows', angle: number, reach: number): Field;
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
	/** In which search each edge was found last: it may touch many tiles. */
	const found = new Uint32Array(edges.length);
	let turn = 0;
	const near = (rect: Rect, of: 'edges' | 'hollows', angle: number, reach: number): SheetEdge[] => {
		const out: SheetEdge[] = [];
		turn++;
		for (const tile of tilesOfRect(tiles, grownRect(rect, Math.ceil(reach))))
			for (const n of inTile[tile] as number[]) {
				if (found[n] === turn) continue;
				found[n] = turn;
				const edge = edges[n] as SheetEdge;
				if (edge.angle >= angle && edge.out === (of === 'edges')) out.push(edge);
			}
		return out;
	};
	const squareTo = ({ ax, ay, dx, dy }: SheetEdge, x: number, y: number): number => {
		const [px, py] = [x - ax, y - ay];
		const t = Math.min(1, Math.max(0, (px * dx + py * dy) / (dx * dx + dy * dy || 1e-9)));
		return (px - t * dx) ** 2 + (py - t * dy) ** 2;
	};
	return {
		squares(planes, { rect, step, faces, cells, numbered, over }, of, angle, reach) {
			const { run } = planes;
			const [width, height] = [Math.ceil(rect.width / step), Math.ceil(rect.height / step)];
			const field = planes.take(faces.length);
			run.fillField(field, faces.length, Infinity);
			planes.within(() => {
				const list = near(rect, of, angle, reach);
				if (!list.length) return;
				const edgesAt = planes.take(list.length * 5);
				const [reals, wholes] = [planes.floats(edgesAt, list.length * 5), planes.ints(edgesAt, list.length * 5)];
				for (let n = 0, at = 0; n < list.length; n++) {
					const { ax, ay, dx, dy, island } = list[n] as SheetEdge;
					reals[at++] = ax;
					reals[at++] = ay;
					reals[at++] = dx;
					reals[at++] = dy;
					wholes[at++] = island;
				}
				const islands = planes.take(numbered.length);
				planes.ints(islands, numbered.length).set(numbered.map((face) => islandOfFace[face] as number));
				const [x, y] = [rect.x + step / 2, rect.y + step / 2];
				run.edgeSquares(cells, width, height, islands, x, y, step, edgesAt, list.length, reach, field);
			});
			if (!over) return field;
			// What cells over seams show lies elsewhere.
			const out = planes.floats(field, faces.length);
			for (const cell of over.cell) out[cell] = Infinity;
			for (const [tile, list] of byTile(over, tiles.cols)) {
				const candidates = near(tileRect(tiles, tile), of, angle, reach);
				for (const i of candidates.length ? list : []) {
					const cell = over.cell[i] as number;
					const island = islandOfFace[faces[cell] as number];
					for (const edge of candidates)
						if (edge.island === island)
							out[cell] = Math.min(out[cell] as number, squareTo(edge, over.x[i] as number, over.y[i] as number));
				}
			}
			return field;
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
