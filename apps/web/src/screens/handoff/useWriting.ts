import type { NamedFile } from '@eppu/core/mesh';
import { useEffect, useRef, useState } from 'react';
import { deliver, deliverInto, kilobytes } from '../../actions/handoff.ts';
import { chooseFolder, hasFolders } from '../../actions/outFolder.ts';
import { useStudio } from '../../studio/store.ts';
import type { OutAnswer } from '../../studio/told.ts';

/** One thing of several that are written one after the other. */
export interface Job {
	readonly name: string;
	make(stop: AbortSignal, far: (share: number) => void): Promise<OutAnswer>;
}

/** What is being written, and what became of what was. */
export interface Writing {
	/** Null while nothing is written. */
	readonly busy: { readonly name: string; readonly done: number } | null;
	readonly said: readonly string[];
	/** Writes jobs one after the other, and has the browser save what they made. */
	write(
		jobs: readonly Job[],
		as: { readonly name: string; readonly what: string; readonly together?: boolean },
	): Promise<void>;
	stop(): void;
	say(words: readonly string[]): void;
}

/** Writing with progress and a stop; leaving the stage stops it. */
export function useWriting(wrote: () => void): Writing {
	const [busy, setBusy] = useState<Writing['busy']>(null);
	const [said, say] = useState<readonly string[]>([]);
	const stop = useRef<AbortController | null>(null);
	useEffect(() => () => stop.current?.abort(), []);
	return {
		busy,
		said,
		say,
		stop: () => stop.current?.abort(),
		async write(jobs, { name, what, together }) {
			if (stop.current) return;
			// It is asked for at the press itself: browsers take no later one for the artist's.
			const asks = together === false && hasFolders();
			const folder = asks ? await chooseFolder().catch(() => null) : null;
			if (asks && !folder) return say(['No folder was chosen. Nothing was written.']);
			if (stop.current) return;
			const own = new AbortController();
			stop.current = own;
			say([]);
			const files: NamedFile[] = [];
			const notes: string[] = [];
			let failed: string | null = null;
			for (const [i, job] of jobs.entries()) {
				if (own.signal.aborted) break;
				const far = (share: number): void => setBusy({ name: job.name, done: (i + share) / jobs.length });
				far(0);
				const { files: made, notes: more, text } = await job.make(own.signal, far);
				files.push(...made);
				notes.push(...more);
				if (text) {
					failed = `${job.name}: ${text}`;
					break;
				}
			}
			stop.current = null;
			setBusy(null);
			if (own.signal.aborted) return say(['It was stopped. Nothing was written.']);
			if (failed) return say([`${failed} Nothing was written.`]);
			const bytes = files.reduce((sum, [, each]) => sum + each.length, 0);
			const count = files.length === 1 ? '' : `, ${files.length} files`;
			const size = kilobytes(bytes);
			try {
				const words = folder
					? `${files.length} files are in “${await deliverInto(folder, files, what)}”, ${size}.`
					: `${deliver(files, name, what, together)} is made${count}, ${size}; your browser saves it.`;
				say([words, ...new Set(notes)]);
			} catch (error) {
				say([(error as Error).message]);
			}
			wrote();
		},
	};
}

/** The name that what belongs to the open project is saved under. */
export const useStem = (): string =>
	useStudio((state) => state.outline?.project.name ?? 'project')
		.replace(/[^\p{L}\p{N} _-]+/gu, '-')
		.trim() || 'project';
