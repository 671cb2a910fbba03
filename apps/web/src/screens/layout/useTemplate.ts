import type { Sheet } from '@eppu/core/document';
import type { Reading } from '@eppu/core/regions';
import { useEffect, useRef, useState } from 'react';
import { fileUrl } from '../../server/api.ts';
import type { FoundIslands, TemplateAsked } from '../../studio/islands.ts';
import { useStudio } from '../../studio/store.ts';

/** Islands that are found in a sheet's template, shown on it before they are taken. */
export interface TemplateReading {
	readonly found: FoundIslands | null;
	/** Why there are none. */
	readonly problem: string | null;
	readonly busy: boolean;
	read(reading: Reading): void;
}

/** How long a dial may move before the template is read again. */
const REST_MS = 200;

/** Reads the template of a sheet on which no model lies; nothing where there is none. */
export function useTemplate(sheet: Sheet | undefined): TemplateReading {
	const project = useStudio((state) => state.outline?.project.id);
	const open = useStudio((state) => state.status === 'open');
	const [found, setFound] = useState<FoundIslands | null>(null);
	const [problem, setProblem] = useState<string | null>(null);
	const [busy, setBusy] = useState(false);
	const worker = useRef<Worker | null>(null);
	const turn = useRef(0);
	const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
	const guide = sheet?.guide;
	const ask = (message: (number: number) => TemplateAsked): void => {
		setBusy(true);
		worker.current?.postMessage(message(++turn.current));
	};
	useEffect(() => {
		if (!sheet || !guide || !project || !open) return;
		const own = new Worker(new URL('../../workers/template.worker.ts', import.meta.url), { type: 'module' });
		worker.current = own;
		const failed = (): void => {
			setBusy(false);
			setProblem('The template could not be read. Save it again as PNG, and begin with it anew.');
		};
		own.onerror = failed;
		own.onmessage = ({ data }: MessageEvent<{ ask: number; found: FoundIslands | null }>) => {
			if (data.ask !== turn.current) return;
			if (!data.found) return failed();
			setBusy(false);
			setProblem(null);
			setFound(data.found);
		};
		setBusy(true);
		void fetch(fileUrl(project, guide))
			.then((response) => response.blob())
			.then((picture) => {
				const { id, width, height } = sheet;
				ask((n) => ({ ask: n, picture, width, height, sheet: id, reading: null }));
			})
			.catch(failed);
		return () => {
			clearTimeout(timer.current);
			own.terminate();
			worker.current = null;
			setFound(null);
		};
	}, [sheet?.id, sheet?.width, sheet?.height, guide?.hash, project, open]);
	// What is found is shown as the model that it would be.
	useEffect(() => {
		if (!found?.shown) return;
		useStudio.setState({ models: [found.shown] });
		return () => {
			if (useStudio.getState().models[0] === found.shown) useStudio.setState({ models: [] });
		};
	}, [found]);
	return {
		found,
		problem,
		busy,
		read(reading) {
			if (!sheet) return;
			setFound((now) => now && { ...now, reading });
			clearTimeout(timer.current);
			timer.current = setTimeout(() => ask((n) => ({ ask: n, again: true, sheet: sheet.id, reading })), REST_MS);
		},
	};
}
