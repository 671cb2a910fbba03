import { zipOf } from '@eppu/core/format';

/** A file with its path within the folder that was taken. */
export interface InFolder {
	readonly path: string;
	readonly file: File;
}

/** A folder that is larger is not read into the page: its ZIP is read piece by piece. */
const MOST_BYTES = 512 * 1024 * 1024;

/** A folder as the ZIP that it would be: paths kept, every file byte for byte. In words why not, where it cannot be. */
export async function folderZip(name: string, files: readonly InFolder[]): Promise<File | string> {
	if (files.length === 0) return `${name} is an empty folder.`;
	if (files.reduce((sum, { file }) => sum + file.size, 0) > MOST_BYTES)
		return `${name} holds more than 512 MB. Pack it as a ZIP and take that.`;
	const sorted = [...files].sort((a, b) => (a.path < b.path ? -1 : 1));
	try {
		const packed: [string, Uint8Array][] = [];
		for (const { path, file } of sorted) packed.push([path, new Uint8Array(await file.arrayBuffer())]);
		return new File([zipOf(packed)], `${name}.zip`);
	} catch {
		return `${name} could not be read: something in it changed or is closed to the browser. Nothing was taken.`;
	}
}

/** Files of a folder that was chosen: the first part of their paths is the folder's own name. */
export const chosenFolder = (
	files: readonly File[],
): { readonly name: string; readonly files: readonly InFolder[] } => ({
	name: files[0]?.webkitRelativePath.split('/')[0] ?? 'Folder',
	files: files.map((file) => ({ path: file.webkitRelativePath.split('/').slice(1).join('/') || file.name, file })),
});

/** All files of a folder that was let go of over the page. */
export async function filesOf(folder: FileSystemDirectoryEntry): Promise<readonly InFolder[]> {
	const found: InFolder[] = [];
	const walk = async (directory: FileSystemDirectoryEntry, before: string): Promise<void> => {
		const reader = directory.createReader();
		for (;;) {
			// A reader gives them some at a time, and none at the end.
			const entries = await new Promise<FileSystemEntry[]>((resolve, reject) => reader.readEntries(resolve, reject));
			if (entries.length === 0) return;
			for (const entry of entries)
				if (entry.isDirectory) await walk(entry as FileSystemDirectoryEntry, `${before}${entry.name}/`);
				else {
					const file = await new Promise<File>((resolve, reject) =>
						(entry as FileSystemFileEntry).file(resolve, reject),
					);
					found.push({ path: before + entry.name, file });
				}
		}
	};
	await walk(folder, '');
	return found;
}
