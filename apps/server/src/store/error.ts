/** Why the store did not do what was asked; nothing was changed. */
export class StoreError extends Error {
	override readonly name = 'StoreError';
	readonly code: 'not-found' | 'conflict' | 'bad-input' | 'too-large' | 'disk-full';
	constructor(code: StoreError['code'], message: string) {
		super(message);
		this.code = code;
	}
}
