/** A number of a definition that a hand sets: its field, words and range, and where a double click takes it. */
export interface DialOf {
	readonly of: string;
	readonly label: string;
	readonly least: number;
	readonly most: number;
	readonly usual?: number;
	readonly unit?: '' | ' px' | '°' | '%';
	/** Equal ways on the dial are equal ratios. */
	readonly ratio?: boolean;
	/** 0..1 said as 0..100. */
	readonly percent?: boolean;
	readonly whole?: boolean;
	readonly hint?: string;
	/** It counts only while another field has this value. */
	readonly when?: readonly [of: string, value: string | number];
}

/** A field that is one of a few values. */
export interface ChoiceOf {
	readonly of: string;
	readonly label: string;
	readonly options: readonly (readonly [value: string | number, words: string])[];
}
