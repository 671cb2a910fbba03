import { isPictureName } from '@eppu/core/format';
import { isModelName } from '@eppu/core/mesh';
import { toast } from 'sonner';
import { filesOf, folderZip, type InFolder } from './folder.ts';

/** What is done with files that are let go of over the page, or chosen. */
export interface Takers {
	/** A model or a template picture, one after the other; a file of our own. */
	readonly start?: (file: File, beside: readonly File[]) => void;
	/** Layers of another editor. */
	readonly layers?: (file: File) => void;
	/** Pictures that are to be looked at beside the work. */
	readonly pictures?: (files: readonly File[]) => void;
}

let takers: Takers = {};

const isOurs = (name: string): boolean => /\.(eppu|ora|zip|json)$/i.test(name);
/** Stands beside a model and says only what colour-only work has no use for. */
const isMaterials = (name: string): boolean => /\.mtl$/i.test(name);

/**
 * Takes several files at once: models and files of ours one after the other, pictures together. What cannot be taken here
 * is told.
 */
export function takeFiles(files: readonly File[]): void {
	const models = files.filter((file) => isModelName(file.name) || isOurs(file.name));
	const pictures = files.filter((file) => isPictureName(file.name));
	const rest = files.filter((file) => !models.includes(file) && !pictures.includes(file));
	if (takers.start) {
		// With a model, pictures are what is looked at beside it; alone each is a template.
		const takesBeside = models.some(({ name }) => /\.gltf$/i.test(name));
		for (const file of models) takers.start(file, takesBeside ? [...pictures, ...rest] : []);
		if (takesBeside) return;
		if (models.length === 0) for (const file of pictures) takers.start(file, []);
		else if (pictures.length) takers.pictures?.(pictures);
	} else {
		if (pictures.length) takers.pictures?.(pictures);
		const layers = takers.layers ? models.filter(({ name }) => /\.ora$/i.test(name)) : [];
		for (const file of layers) takers.layers?.(file);
		const others = models.filter((file) => !layers.includes(file));
		if (others.length)
			toast(`${others.map((file) => file.name).join(', ')}: a new project begins with it on the projects page.`);
	}
	const unknown = rest.filter((file) => !isMaterials(file.name));
	if (rest.some((file) => isMaterials(file.name)))
		toast('Materials (MTL) are left out: their names come with the model, and its colour is what is painted.');
	if (unknown.length === 0) return;
	if (takers.start && models.length + pictures.length === 0) takers.start(unknown[0] as File, []);
	else toast(`${unknown.map((file) => file.name).join(', ')} cannot be taken in here.`);
}

/** Takes a folder as the ZIP that it would be. */
export async function takeFolder(name: string, files: readonly InFolder[]): Promise<void> {
	const zip = await folderZip(name, files);
	if (typeof zip === 'string') toast(zip);
	else takeFiles([zip]);
}

/** Says what takes files while a screen is shown; returns what takes it back. */
export function takeFilesWith(next: Takers): () => void {
	const before = takers;
	takers = next;
	return () => {
		if (takers === next) takers = before;
	};
}

/** Listens for files over the whole page: the browser never opens one in its place. */
export function listenForDrops(over: (on: boolean) => void): void {
	addEventListener('dragover', (event) => {
		if (!event.dataTransfer?.types.includes('Files')) return;
		event.preventDefault();
		over(true);
	});
	addEventListener('dragleave', (event) => {
		if (!event.relatedTarget) over(false);
	});
	addEventListener('drop', (event) => {
		over(false);
		if (!event.dataTransfer?.types.includes('Files')) return;
		const handled = event.defaultPrevented;
		event.preventDefault();
		if (handled) return;
		// Entries are there for as long as the event is.
		const entries = [...event.dataTransfer.items].map((item) => item.webkitGetAsEntry());
		const folders = entries.filter((entry): entry is FileSystemDirectoryEntry => entry?.isDirectory === true);
		const files = [...event.dataTransfer.files].filter((_, i) => !entries[i]?.isDirectory);
		if (files.length) takeFiles(files);
		for (const folder of folders)
			void filesOf(folder)
				.then((list) => takeFolder(folder.name, list))
				.catch(() => toast(`${folder.name} could not be read. Nothing was taken.`));
	});
}
