/** Bytes one after the other as one array. */
export function joined(list: readonly Uint8Array[]): Uint8Array<ArrayBuffer> {
	const out = new Uint8Array(list.reduce((sum, each) => sum + each.length, 0));
	let at = 0;
	for (const each of list) {
		out.set(each, at);
		at += each.length;
	}
	return out;
}
