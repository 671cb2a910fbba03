import type { Id } from '@eppu/core/document';
import type { ExchangeWhat } from '@eppu/core/handoff';
import type { ExchangeTold, OutThere } from '../studio/told.ts';
import { call } from './api.ts';

const bytes = async (path: string): Promise<Uint8Array<ArrayBuffer>> =>
	new Uint8Array(await (await call(`/exchange/${path}`)).arrayBuffer());

export const exchangeApi = {
	send: async (project: Id, what: ExchangeWhat, name: string, content: Uint8Array<ArrayBuffer>): Promise<OutThere> =>
		(
			await call(
				`/exchange/projects/${project}?name=${encodeURIComponent(name)}&what=${encodeURIComponent(JSON.stringify(what))}`,
				{ method: 'POST', headers: { 'Content-Type': 'application/octet-stream' }, body: new Blob([content]) },
			)
		).json(),
	sent: (id: string) => bytes(`${id}/sent`),
	agreed: (id: string) => bytes(`${id}/agreed`),
	saving: (id: string, n: number) => bytes(`${id}/savings/${n}`),
	taken: (id: string, n: number) => call(`/exchange/${id}/savings/${n}/taken`, { method: 'POST' }),
	/** Whether its file stays, since it holds what was not taken in. */
	end: async (id: string): Promise<{ readonly kept: boolean }> =>
		(await call(`/exchange/${id}`, { method: 'DELETE' })).json(),
	/** Hears of every change; the browser opens the line again where it is cut. Returns what ends that. */
	listen(project: Id, hear: (told: ExchangeTold) => void): () => void {
		const line = new EventSource(`/api/exchange/projects/${project}/line`);
		line.onmessage = ({ data }: MessageEvent<string>) => hear(JSON.parse(data) as ExchangeTold);
		return () => line.close();
	},
};
