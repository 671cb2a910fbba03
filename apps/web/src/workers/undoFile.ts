import type { Spill, Spilled } from '@eppu/core/engine';

const FOLDER = 'eppu-undo';

interface SyncFile {
	write(bytes: Uint8Array, options: { at: number }): number;
	read(bytes: Uint8Array, options: { at: number }): number;
	truncate(size: number): void;
}
type Opened = FileSystemFileHandle & { createSyncAccessHandle(): Promise<SyncFile> };

/**
 * A file of the browser's own for undo steps of long ago, for this tab; null where the browser has none. Files that
 * tabs left behind are taken away.
 */
export async function openUndoFile(): Promise<Spill | null> {
	try {
		const root = await navigator.storage.getDirectory();
		const folder = await root.getDirectoryHandle(FOLDER, { create: true });
		const keys = (folder as unknown as { keys(): AsyncIterable<string> }).keys();
		// One that another tab holds cannot be taken away, and stays.
		for await (const name of keys) await folder.removeEntry(name).catch(() => undefined);
		const handle = (await folder.getFileHandle(crypto.randomUUID(), { create: true })) as Opened;
		const file = await handle.createSyncAccessHandle();
		let end = 0;
		return {
			write(bytes): Spilled | null {
				try {
					if (file.write(bytes, { at: end }) !== bytes.length) return null;
				} catch {
					return null;
				}
				end += bytes.length;
				return { at: end - bytes.length, length: bytes.length };
			},
			read({ at, length }) {
				const bytes = new Uint8Array(length);
				file.read(bytes, { at });
				return bytes;
			},
			clear() {
				end = 0;
				file.truncate(0);
			},
		};
	} catch {
		return null;
	}
}
