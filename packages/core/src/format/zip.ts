import { zipSync } from 'fflate';

/** Files that are pressed already as one ZIP, as they are. */
export const storedZip = (files: readonly (readonly [name: string, bytes: Uint8Array])[]): Uint8Array<ArrayBuffer> =>
	new Uint8Array(zipSync(Object.fromEntries(files), { level: 0 }));
