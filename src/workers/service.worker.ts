import { type PrecacheEntry, Serwist } from 'serwist';

/** Written in when it is built: every file of the application with its revision, and the parts that pages are put together from. */
declare const FILES: PrecacheEntry[];
declare const PARTS: { page: string; segment: string }[];
declare const BUILD: string;

const worker = self as unknown as ServiceWorkerGlobalScope;
const files = new Serwist({ precacheEntries: FILES, clientsClaim: true, skipWaiting: false });
const parts = `parts-${BUILD}`;
/** Where films shared from other applications wait for the page. */
const SHARED = 'shared';

const keyOf = (page: string, segment: string) => `${worker.location.origin}${page}?part=${encodeURIComponent(segment)}`;

/** Fetches every part of every page: what the router asks for when it goes from stage to stage. */
async function fetchParts(): Promise<void> {
  const cache = await caches.open(parts);
  for (const { page, segment } of PARTS) {
    const headers: Record<string, string> = segment
      ? { RSC: '1', 'Next-Router-Prefetch': '1', 'Next-Router-Segment-Prefetch': segment }
      : { RSC: '1' };
    const answer = await fetch(page, { headers, cache: 'reload' });
    if (!answer.ok) throw new Error(`${page} could not be fetched`);
    await cache.put(keyOf(page, segment), await plain(answer));
  }
}

/** The same answer without the address it came from: a worker's script is known by the address that was asked for. */
async function plain(answer: Response): Promise<Response> {
  return new Response(await answer.blob(), { status: answer.status, headers: answer.headers });
}

async function part(request: Request, page: string): Promise<Response> {
  const segment = request.headers.get('Next-Router-Segment-Prefetch') ?? '';
  const kept = await caches.match(keyOf(page, segment), { cacheName: parts });
  return kept ?? fetch(request);
}

async function file(request: Request, path: string): Promise<Response> {
  const kept = await files.matchPrecache(path);
  return kept ? plain(kept) : fetch(request);
}

/** Keeps what another application shares and leads to the page that takes it in. */
async function shared(request: Request): Promise<Response> {
  const given = (await request.formData()).getAll('films').filter((f) => typeof f !== 'string');
  const cache = await caches.open(SHARED);
  for (const [i, film] of given.entries()) {
    const headers = { 'Content-Type': film.type || 'application/octet-stream', 'X-Name': encodeURIComponent(film.name) };
    await cache.put(`/shared/${Date.now()}-${i}`, new Response(film, { headers }));
  }
  return Response.redirect('/shoot?shared', 303);
}

function answerTo(request: Request): Promise<Response> | null {
  const { origin, pathname } = new URL(request.url);
  if (origin !== worker.location.origin) return null;
  if (request.method === 'POST' && pathname === '/share') return shared(request);
  if (request.method !== 'GET') return null;
  if (request.headers.get('RSC')) return part(request, pathname);
  return file(request, pathname);
}

worker.addEventListener('install', (event) => event.waitUntil(fetchParts()));
worker.addEventListener('activate', (event) =>
  event.waitUntil(
    caches.keys().then((names) => Promise.all(names.filter((n) => n.startsWith('parts-') && n !== parts).map((n) => caches.delete(n)))),
  ),
);
worker.addEventListener('fetch', (event) => {
  const answer = answerTo(event.request);
  if (!answer) return;
  event.stopImmediatePropagation();
  event.respondWith(answer);
});
files.addEventListeners();
