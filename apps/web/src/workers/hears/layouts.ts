/** How models lie on their sheets. */
import { joiningAt, LayoutError, layAnew } from '@eppu/core/arrange';
import type { UnwrapWork } from '@eppu/core/jobs';
import { writeGlb, writePly } from '@eppu/core/mesh';
import { bendAt, jointsOf, loopOf, wayBetween } from '@eppu/core/unwrap';
import { facesMeant } from '../../studio/cells.ts';
import type { ToStudio } from '../../studio/protocol.ts';
import { namesFrom, relayingOf } from '../../studio/relaying.ts';
import type { Proposal } from '../../studio/told.ts';
import { OpenError } from '../fetchProject.ts';
import { bringFiles } from '../models.ts';
import { shownModel } from '../shownModel.ts';
import type { Ears, Studio } from './ear.ts';

/** How faces would lie; the pool works it out where there is one. */
async function propose(at: Studio, message: Extract<ToStudio, { say: 'anew' }>): Promise<Proposal> {
	const { engine, pool } = at;
	const scene = engine.scene(message.model);
	if (!scene) return { problem: 'That model is not in this project any more.' };
	const { mesh, topology, model } = scene;
	const { sheets } = engine.project;
	const marks = engine.seams(message.model);
	const joining = message.joining && joiningAt(message.joining, mesh, topology, marks);
	const all = (): number[] => Array.from({ length: mesh.indices.length / 3 }, (_, face) => face);
	const work: UnwrapWork = {
		job: 'unwrap',
		mesh,
		place: topology.place,
		way: message.way,
		faces: joining?.faces ?? (message.faces ? [...message.faces] : all()),
		marks: joining?.marks ?? marks,
		sheetOfPart: model.parts.map(({ sheet }) => sheets.findIndex(({ id }) => id === sheet)),
		weightOfPart: message.weights,
		sheets: sheets.map(({ width, height }) => ({ width, height })),
		choice: message.choice,
	};
	const made = (await pool?.do(work, 2)) ?? { layout: layAnew(work) };
	if ('problem' in made) return made;
	if (!at.current() || engine.scene(message.model)?.mesh !== mesh)
		return { problem: 'The model was laid out otherwise meanwhile.' };
	const laid = engine.sceneAs(message.model, made.layout);
	if (!laid) return { problem: 'That model is not in this project any more.' };
	const shown = shownModel(engine, laid);
	laid.drop();
	return { layout: made.layout, shown, spent: joining?.spent ?? [] };
}

/** Degrees of bend above which an edge counts as sharp. */
const SHARP = 50;

/** The borders of a model's islands, or the edges that bend sharply. */
function edgesLike({ engine }: Studio, model: string, which: 'borders' | 'sharp'): number[] {
	const scene = engine.scene(model);
	if (!scene) return [];
	if (which === 'borders') return [...scene.topology.borders];
	const joints = jointsOf(scene.mesh, scene.topology.place);
	return [...scene.mesh.indices.keys()].filter(
		(corner) => (joints.across[corner] as number) >= 0 && bendAt(joints, corner) > SHARP,
	);
}

export const layouts: Ears<
	'anew' | 'bring' | 'edge' | 'relay' | 'seams' | 'vertex-layer' | 'vertex-file' | 'cells' | 'assign-cell'
> = {
	anew: {
		hear(at, message) {
			void propose(at, message)
				.catch((error): Proposal => {
					if (error instanceof LayoutError) return { problem: error.message };
					console.error(error);
					return { problem: 'That could not be laid out. Choose another way, or fewer faces.' };
				})
				.then((answer) => at.tell({ say: 'told', ask: message.ask, answer }));
		},
	},
	bring: {
		hear({ engine, pool, tell }, { ask, asset }) {
			void bringFiles(engine, engine.project.id, [asset], pool)
				.then(() => null)
				.catch((error) => (error instanceof OpenError ? error.message : `${asset.name} could not be read.`))
				.then((answer) => tell({ say: 'told', ask, answer }));
		},
	},
	edge: {
		hear(at, { ask, place, by, from }) {
			const { engine } = at;
			const model =
				place.on === 'model'
					? place.model
					: engine.project.models.find(({ parts }) => parts.some((part) => part.sheet === place.sheet))?.id;
			const scene = engine.scene(model ?? '');
			const sheet = place.on === 'sheet' && engine.project.sheets.find(({ id }) => id === place.sheet);
			const corner =
				place.on === 'model'
					? scene?.edgeAt(place.sight, place.x, place.y)
					: sheet && scene?.edgeOn(sheet, place.x, place.y);
			if (!scene || model === undefined || typeof corner !== 'number' || corner < 0)
				return at.tell({ say: 'told', ask, answer: null });
			const joints = by === 'edge' ? null : jointsOf(scene.mesh, scene.topology.place);
			const corners = !joints
				? [corner]
				: by === 'loop'
					? loopOf(joints, corner)
					: wayBetween(joints, from ?? corner, corner);
			const marked = engine.seams(model)[corner] === 1;
			return at.tell({ say: 'told', ask, answer: { model, corners, marked } });
		},
	},
	relay: {
		endsStroke: true,
		hear(at, { change, words, seed }) {
			let told = performance.now();
			const { dirty, report } = at.engine.relay(relayingOf(change), words, namesFrom(seed), (share) => {
				if (performance.now() - told < 100) return;
				told = performance.now();
				at.tell({ say: 'carrying', share });
			});
			at.changed(dirty, 60);
			at.tell({ say: 'carried', report });
		},
	},
	cells: {
		endsStroke: true,
		hear(at, { sheet, cells, moves, words, seed, gesture }) {
			at.changed(at.engine.changeCells(sheet, cells, moves, words, namesFrom(seed), gesture), 60);
		},
	},
	'assign-cell': {
		endsStroke: true,
		hear(at, message) {
			const meant = facesMeant(at.engine, message);
			if (typeof meant === 'string')
				return at.tell({ say: 'refused', refusal: { code: 'off-model', text: meant, mend: null } });
			const { sheet, cell, seed } = message;
			at.changed(at.engine.assignCell(sheet, meant.taken, cell, meant.along, namesFrom(seed)), 60);
		},
	},
	'vertex-layer': {
		endsStroke: true,
		hear(at, { model, seed }) {
			at.changed(at.engine.vertexLayer(model, namesFrom(seed)), 60);
		},
	},
	'vertex-file': {
		hear({ engine, tell }, { ask, model, as }) {
			void (async () => {
				const mesh = engine.vertexColored(model);
				return new Uint8Array(as === 'ply' ? writePly(mesh) : await writeGlb(mesh));
			})().then(
				(bytes) => tell({ say: 'written', ask, bytes, text: null }, [bytes.buffer]),
				(error) => tell({ say: 'written', ask, bytes: null, text: (error as Error).message }),
			);
		},
	},
	seams: {
		endsStroke: true,
		hear(at, { model, corners, on, anew, words, seed }) {
			const list = typeof corners === 'string' ? edgesLike(at, model, corners) : corners;
			at.changed(at.engine.markSeams(model, { corners: list, on, anew }, words, namesFrom(seed)), 60);
		},
	},
};
