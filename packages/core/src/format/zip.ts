import { type Zippable, zipSync } from 'fflate';

/** Every file says this day, so that the same work makes the same bytes. */
const DAY = new Date(2020, 0, 1);

/** Files as one ZIP in their order. What is pressed already stays as it is; texts are pressed. */
export function zipOf(
	files: readonly (readonly [name: string, bytes: Uint8Array, press?: boolean])[],
): Uint8Array<ArrayBuffer> {
	const list: Zippable = {};
	for (const [name, bytes, press = false] of files) list[name] = [bytes, { level: press ? 6 : 0, mtime: DAY }];
	return new Uint8Array(zipSync(list));
}
