/** Options as they were typed. */
export interface Typed {
	readonly [name: string]: string | boolean | undefined;
}

/** What a command did. */
export interface Done {
	/** What is printed, a line each. */
	readonly lines: readonly string[];
	/** The same for other programs. */
	readonly json: unknown;
	/** What may differ elsewhere, or was not read; printed beside. */
	readonly notes?: readonly string[];
	/** A check did not hold. */
	readonly failed?: boolean;
}

/** Where a command says how far it is. */
export type Progress = (words: string) => void;

/** One thing that the command line does. */
export interface Verb {
	readonly verb: string;
	/** How it is called and with what, as the help shows it. */
	readonly help: string;
	/** Needs what it works on, and a place for what it writes. */
	readonly on: boolean;
	readonly writes: boolean;
	/** Can be done again whenever the project it works on changes. */
	readonly again: boolean;
	/** Options that are switches or texts, beside those that all take. */
	readonly options: Readonly<Record<string, 'text' | 'switch'>>;
	run(on: string, typed: Typed & { readonly out: string; readonly data?: string }, progress: Progress): Promise<Done>;
}
