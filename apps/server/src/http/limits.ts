import { randomBytes } from 'node:crypto';
import type { Request, RequestHandler, Response } from 'express';
import { ipKeyGenerator, rateLimit } from 'express-rate-limit';

const WINDOW_MS = 10_000;
/** Calls of one browser in a window, and saves: those have a budget of their own, so that nothing else holds them up. */
export interface Budget {
	readonly calls: number;
	readonly saves: number;
}
export const usualBudget: Budget = { calls: 2000, saves: 400 };
const SESSION = /(?:^|;\s*)eppu_session=([A-Za-z0-9_-]{16,64})/;

/** Said to who asks too often. */
const tooOften = (_request: Request, response: Response): void =>
	void response
		.status(429)
		.set('Retry-After', String(WINDOW_MS / 1000))
		.json({ code: 'too-often', text: 'That was asked too often. Eppu goes on by itself in a few seconds.' });

const isSave = ({ method, path }: Request): boolean =>
	method === 'PUT' && /^\/api\/projects\/[^/]+\/revisions\//.test(path);

/** Gives each browser a session, and limits how often each asks. */
export function limits({ calls, saves }: Budget): RequestHandler[] {
	const keyGenerator = (request: Request): string =>
		SESSION.exec(request.headers.cookie ?? '')?.[1] ?? ipKeyGenerator(request.ip ?? '');
	const common = { windowMs: WINDOW_MS, keyGenerator, handler: tooOften, standardHeaders: false, legacyHeaders: false };
	return [
		(request, response, next) => {
			if (!SESSION.test(request.headers.cookie ?? ''))
				response.cookie('eppu_session', randomBytes(18).toString('base64url'), { httpOnly: true, sameSite: 'strict' });
			next();
		},
		rateLimit({ ...common, limit: calls, skip: (request) => isSave(request) || !request.path.startsWith('/api') }),
		rateLimit({ ...common, limit: saves, skip: (request) => !isSave(request) }),
	];
}

/** Limits how often one address tries tokens that are none. */
export function tokenTries(): { over(address: string): boolean; failed(address: string): void } {
	const tries = new Map<string, { count: number; from: number }>();
	const MOST_TRIES = 20;
	const TRY_MS = 60_000;
	const now = (address: string) => {
		const known = tries.get(address);
		return known && Date.now() - known.from < TRY_MS ? known : { count: 0, from: Date.now() };
	};
	return {
		over: (address) => now(address).count >= MOST_TRIES,
		failed(address) {
			if (tries.size > 10_000) tries.clear();
			const { count, from } = now(address);
			tries.set(address, { count: count + 1, from });
		},
	};
}
