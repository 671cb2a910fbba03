import { createHash, timingSafeEqual } from 'node:crypto';
import { pageScript } from '@eppu/core/handoff';
import type { NextFunction, Request, Response } from 'express';
import helmet from 'helmet';
import { tokenTries } from './limits.ts';

export interface GuardOptions {
	/** Host names (without port) under which the server may be asked. */
	readonly hosts: readonly string[];
	/** Needed by every call where the server listens beyond this machine. */
	readonly token: string | null;
}

/** Headers of every answer: a strict content policy, no framing, and isolation so that workers may share memory. */
export const securityHeaders = helmet({
	contentSecurityPolicy: {
		useDefaults: false,
		directives: {
			defaultSrc: ["'self'"],
			// The script of a page that shows the work, where it is looked at before it goes out: no other text runs.
			scriptSrc: [
				"'self'",
				"'wasm-unsafe-eval'",
				`'sha256-${createHash('sha256').update(pageScript).digest('base64')}'`,
			],
			// Element styles only: the drawn parts of the interface set their places through them. No script is inline.
			styleSrc: ["'self'", "'unsafe-inline'"],
			imgSrc: ["'self'", 'blob:', 'data:'],
			fontSrc: ["'self'"],
			connectSrc: ["'self'"],
			workerSrc: ["'self'"],
			objectSrc: ["'none'"],
			baseUri: ["'none'"],
			formAction: ["'none'"],
			frameAncestors: ["'none'"],
			upgradeInsecureRequests: null,
		},
	},
	crossOriginEmbedderPolicy: true,
	crossOriginOpenerPolicy: { policy: 'same-origin' },
	crossOriginResourcePolicy: { policy: 'same-origin' },
	strictTransportSecurity: false,
});

const nameOf = (host: string): string =>
	host
		.replace(/:\d+$/, '')
		.replace(/^\[|\]$/g, '')
		.toLowerCase();

/** Whether who asks sits at this machine; what somebody else hands on does not say so. */
export const sameMachine = ({ socket, headers }: Request): boolean =>
	!headers.forwarded &&
	!headers['x-forwarded-for'] &&
	/^(::1|(::ffff:)?127\.\d+\.\d+\.\d+)$/.test(socket.remoteAddress ?? '');

const sameToken = (given: string, wanted: string): boolean => {
	const [a, b] = [Buffer.from(given), Buffer.from(wanted)];
	return a.length === b.length && timingSafeEqual(a, b);
};

const cookieOf = ({ headers }: Request): string | undefined => {
	const found = /(?:^|;\s*)eppu_token=([^;]+)/.exec(headers.cookie ?? '')?.[1];
	try {
		return found && decodeURIComponent(found);
	} catch {
		return found;
	}
};

/** Refuses calls under a foreign host name, from a foreign page, or without the token where one is needed. */
export function guard({ hosts, token }: GuardOptions) {
	const tries = tokenTries();
	return (request: Request, response: Response, next: NextFunction): void => {
		const refuse = (status: number, text: string, code = 'refused'): void =>
			void response.status(status).json({ code, text });
		const host = request.headers.host ?? '';
		if (!hosts.includes(nameOf(host))) return refuse(421, 'This server is not asked under that name.');
		const { origin } = request.headers;
		if (origin !== undefined && origin !== `http://${host}` && origin !== `https://${host}`)
			return refuse(403, 'Another page may not use this server.');
		if (request.headers['sec-fetch-site'] === 'cross-site' && /^\/api(\/|$)/i.test(request.path))
			return refuse(403, 'Another page may not use this server.');
		if (token) {
			const address = request.ip ?? '';
			if (tries.over(address)) {
				response.set('Retry-After', '60');
				return refuse(429, 'Too many tokens were tried from here. Wait a minute.', 'too-often');
			}
			// What the address says is newer than what an old visit left behind.
			const inAddress = typeof request.query.token === 'string' ? request.query.token : undefined;
			const given = inAddress ?? request.headers.authorization?.replace(/^Bearer /, '') ?? cookieOf(request) ?? '';
			if (!sameToken(given, token)) {
				if (given) tries.failed(address);
				return refuse(401, 'This server asks for a token: open the address that it printed when it started.', 'token');
			}
			if (inAddress !== undefined) response.cookie('eppu_token', token, { httpOnly: true, sameSite: 'strict' });
		}
		next();
	};
}
