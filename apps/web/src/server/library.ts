import { MOST_LIBRARY_SIDE, packPicture, pictureEndings, readPictureFile, unpackPicture } from '@eppu/core/format';
import type { Picture } from '@eppu/core/surface';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import { api, type LibraryItem } from './api.ts';

/** Own pictures are kept no larger than this: tips and stencils need no more. */
const KEPT_SIDE = 1024;

type Refused = { readonly ok: false; readonly text: string };

/** A picture file decoded, at most so many px a side; what does not fit is told in plain words. */
export async function pictureOfFile(file: File, most: number): Promise<{ ok: true; picture: Picture } | Refused> {
	const bytes = new Uint8Array(await file.arrayBuffer());
	const read = readPictureFile(bytes, file.name);
	if (!read.ok) return read;
	try {
		const bitmap = await createImageBitmap(new Blob([bytes], { type: read.file.type }), { premultiplyAlpha: 'none' });
		const share = Math.min(1, most / Math.max(bitmap.width, bitmap.height));
		const [width, height] = [bitmap.width, bitmap.height].map((v) => Math.max(1, Math.round(v * share))) as [
			number,
			number,
		];
		const canvas = new OffscreenCanvas(width, height);
		const context = canvas.getContext('2d');
		if (!context) throw new Error('no canvas');
		context.imageSmoothingQuality = 'high';
		context.drawImage(bitmap, 0, 0, width, height);
		bitmap.close();
		const data = new Uint8Array(context.getImageData(0, 0, width, height).data);
		return { ok: true, picture: { width, height, data } };
	} catch {
		return {
			ok: false,
			text: `${file.name} is damaged: its beginning can be read, the picture cannot. Save it again.`,
		};
	}
}

export const useLibrary = (kind: LibraryItem['kind']): readonly LibraryItem[] =>
	(useQuery({ queryKey: ['library'], queryFn: api.library }).data ?? []).filter((item) => item.kind === kind);

/** Puts things into the library and takes them out; failures are told. */
export function useLibraryChange() {
	const queries = useQueryClient();
	const done = (): void => void queries.invalidateQueries({ queryKey: ['library'] });
	const failed = (error: Error): void => void toast(error.message);
	const put = useMutation({
		mutationFn: ({ item, body }: { readonly item: LibraryItem; readonly body: Uint8Array }) =>
			api.putLibrary(item, body),
		onSuccess: done,
		onError: failed,
	});
	const remove = useMutation({ mutationFn: api.removeLibrary, onSuccess: done, onError: failed });
	/** Takes picture files in; returns the ids of those that were. */
	const addPictures = async (
		kind: 'tip' | 'stencil' | 'reference' | 'pinned',
		files: Iterable<File>,
	): Promise<string[]> => {
		const ids: string[] = [];
		for (const file of files) {
			const read = await pictureOfFile(file, Math.min(KEPT_SIDE, MOST_LIBRARY_SIDE));
			if (!read.ok) {
				toast(read.text);
				continue;
			}
			const item = {
				id: crypto.randomUUID(),
				kind,
				name: file.name.replace(/\.[^.]+$/, '').slice(0, 120) || 'Picture',
			};
			try {
				await put.mutateAsync({ item, body: packPicture(read.picture) });
				ids.push(item.id);
			} catch {
				// Told by onError already.
			}
		}
		return ids;
	};
	const putJson = (kind: 'preset' | 'palette' | 'recipe' | 'light' | 'order', name: string, value: unknown): void =>
		put.mutate({
			item: { id: crypto.randomUUID(), kind, name },
			body: new TextEncoder().encode(JSON.stringify(value)),
		});
	/** The same thing as another kind: a picture for all projects, or pinned to one. */
	const changeKind = (item: LibraryItem, kind: LibraryItem['kind']): void =>
		void api.libraryBody(item.id).then((body) => put.mutate({ item: { ...item, kind }, body }), failed);
	return { addPictures, putJson, changeKind, remove: remove.mutate };
}

/** Takes a thing of the library, which the server has looked at; why it cannot be taken is told. */
export async function takeFromLibrary<T>(id: string, take: (thing: T) => void): Promise<void> {
	const body = await api.libraryBody(id).catch((error: Error) => void toast(error.message));
	if (body) take(JSON.parse(new TextDecoder().decode(body)) as T);
}

export const libraryPicture = async (id: string): Promise<Picture> => unpackPicture(await api.libraryBody(id));

/** A picture of the library as a canvas. */
export async function libraryCanvas(id: string): Promise<HTMLCanvasElement> {
	const { width, height, data } = await libraryPicture(id);
	const canvas = Object.assign(document.createElement('canvas'), { width, height });
	canvas.getContext('2d')?.putImageData(new ImageData(new Uint8ClampedArray(data), width, height), 0, 0);
	return canvas;
}

/** Lets the artist choose pictures of any kind that is taken in. */
export const choosePictures = (many: boolean): Promise<File[]> => chooseFiles(pictureEndings.join(), many);

/** Lets the artist choose files; nothing where none is chosen. */
export function chooseFiles(accept: string, many: boolean): Promise<File[]> {
	return new Promise((resolve) => {
		const input = Object.assign(document.createElement('input'), { type: 'file', accept, multiple: many });
		input.onchange = () => resolve([...(input.files ?? [])]);
		input.oncancel = () => resolve([]);
		input.click();
	});
}

export function saveFile(name: string, content: Blob): void {
	const url = URL.createObjectURL(content);
	Object.assign(document.createElement('a'), { href: url, download: name }).click();
	setTimeout(() => URL.revokeObjectURL(url), 10_000);
}
