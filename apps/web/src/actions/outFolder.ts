import type { NamedFile } from '@eppu/core/mesh';

/** A folder of the artist's machine, as browsers give it that can write into one. */
export type OutFolder = FileSystemDirectoryHandle;

type Chooser = (options: { id: string; mode: 'readwrite' }) => Promise<OutFolder>;
const chooser = (): Chooser | undefined => (window as { showDirectoryPicker?: Chooser }).showDirectoryPicker;

/** Whether this browser writes into folders; else it saves files one by one where it saves everything. */
export const hasFolders = (): boolean => chooser() !== undefined;

/** Asks for a folder; null where the artist chose none. */
export async function chooseFolder(): Promise<OutFolder | null> {
	try {
		return (await chooser()?.call(window, { id: 'eppu-out', mode: 'readwrite' })) ?? null;
	} catch (error) {
		if (error instanceof DOMException && error.name === 'AbortError') return null;
		throw error;
	}
}

/**
 * Writes files into a folder, in folders of their own as their paths say; what has the same name there is written anew.
 * Throws an error in words that says how far it came.
 */
export async function writeInto(folder: OutFolder, files: readonly NamedFile[]): Promise<void> {
	for (const [i, [path, bytes]] of files.entries()) {
		try {
			const parts = path.split('/');
			const name = parts.pop() as string;
			let place = folder;
			for (const part of parts) place = await place.getDirectoryHandle(part, { create: true });
			const file = await (await place.getFileHandle(name, { create: true })).createWritable();
			await file.write(bytes);
			await file.close();
		} catch (error) {
			const before = i ? `${i} of ${files.length} files are written` : 'Nothing was written';
			throw new Error(`${path} could not be written into “${folder.name}”: ${(error as Error).message} ${before}.`);
		}
	}
}
