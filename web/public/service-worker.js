// Caches the page and its files, so that it opens on a tablet while the workshop's machine is unreachable. Answers of the program are
// never cached: requests to it do not pass through here.

const PAGE = 'page';
const FILES = 'files';

self.addEventListener('install', (event) => {
  // What a page sends on its way out would end with it if it had to pass through here first.
  event.addRoutes?.({ condition: { urlPattern: new URLPattern({ pathname: '/api/*' }) }, source: 'network' });
  self.skipWaiting();
});
self.addEventListener('activate', (event) => event.waitUntil(self.clients.claim()));

self.addEventListener('fetch', (event) => {
  const { request } = event;
  const { origin, pathname } = new URL(request.url);
  if (request.method !== 'GET' || origin !== self.location.origin) return;
  if (request.mode === 'navigate' && !pathname.startsWith('/api/')) event.respondWith(page(request));
  else if (pathname.startsWith('/assets/')) event.respondWith(file(request));
});

/** The current page, or the cached one while the machine is unreachable. */
async function page(request) {
  const kept = await caches.open(PAGE);
  try {
    const answer = await fetch(request);
    if (answer.ok) await keep(kept, answer.clone());
    return answer;
  } catch (error) {
    const last = await kept.match('/');
    if (last) return last;
    throw error;
  }
}

/** Caches a page, and drops the files of an older build. */
async function keep(kept, answer) {
  const [before, now] = [await kept.match('/'), answer.clone()];
  const files = (text) => (text.match(/\/assets\/[^"]+/g) ?? []).join();
  if (before && files(await before.text()) !== files(await now.text())) await caches.delete(FILES);
  await kept.put('/', answer);
}

/** A file from the cache: its name contains a hash of its content, so it is never outdated. */
async function file(request) {
  const kept = await caches.open(FILES);
  const known = await kept.match(request);
  if (known) return known;
  const answer = await fetch(request);
  if (answer.ok) await kept.put(request, answer.clone());
  return answer;
}
