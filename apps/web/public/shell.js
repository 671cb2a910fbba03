// Keeps the page and its parts in the browser. What the server gives counts; only where there is none, the kept page does.
// What is kept is a help: where the browser's store is full, slow or gone, everything goes on without it.
const SHELL = 'eppu-shell-1';
const MOST_KEPT = 200;
/** Ms that the store may take before it is gone round. */
const PATIENCE = 1500;

self.addEventListener('install', (event) => {
	event.waitUntil(
		keep(new Request('/', { cache: 'reload' }))
			.catch(() => undefined)
			.then(() => self.skipWaiting()),
	);
});
self.addEventListener('activate', (event) => event.waitUntil(self.clients.claim()));

async function keep(request) {
	const cache = await caches.open(SHELL);
	await cache.add(request);
}

/** What is kept for a request; nothing where the store does not say so in time. */
const kept = (request) =>
	Promise.race([
		caches.match(request, { cacheName: SHELL }).catch(() => undefined),
		new Promise((resolve) => setTimeout(resolve, PATIENCE)),
	]);

/** Keeps a copy of an answer beside whoever waits for it. */
function keepCopy(event, request, answer) {
	const copy = answer.clone();
	event.waitUntil(
		caches
			.open(SHELL)
			.then((cache) => cache.put(request, copy))
			.catch(() => undefined),
	);
}

/** The page: the server's where it answers, else the kept one. */
async function page(event) {
	try {
		const answer = await fetch(event.request);
		if (answer.ok) keepCopy(event, '/', answer);
		return answer;
	} catch (error) {
		const found = await kept('/');
		if (found) return found;
		throw error;
	}
}

/** A part named by its content: the same for ever. */
async function part(event) {
	const found = await kept(event.request);
	if (found) return found;
	const answer = await fetch(event.request);
	if (answer.ok) keepCopy(event, event.request, answer);
	return answer;
}

/** What the page has loaded by now, for the next time: the first visit comes before this worker. */
self.addEventListener('message', (event) => {
	event.waitUntil(
		caches
			.open(SHELL)
			.then(async (cache) => {
				for (const url of event.data.keep) if (!(await cache.match(url))) await cache.add(url).catch(() => undefined);
				// Parts of older builds go, oldest first.
				const all = await cache.keys();
				for (const request of all.slice(0, Math.max(0, all.length - MOST_KEPT))) await cache.delete(request);
			})
			.catch(() => undefined),
	);
});

self.addEventListener('fetch', (event) => {
	const { request } = event;
	const url = new URL(request.url);
	if (request.method !== 'GET' || url.origin !== location.origin || url.pathname.startsWith('/api/')) return;
	if (request.mode === 'navigate') event.respondWith(page(event));
	else if (url.pathname.startsWith('/assets/') || url.pathname === '/mark.svg') event.respondWith(part(event));
});
