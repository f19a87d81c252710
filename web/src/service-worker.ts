/// <reference types="@sveltejs/kit" />
/// <reference lib="webworker" />
/**
 * Lets the pages open without a network: all files of this version are laid into the browser's cache when it is installed, and
 * every page is drawn from the one index page. The interface under /api is never cached: what the server says is not guessed.
 */
import { build, files, version } from '$service-worker';

const worker = globalThis as unknown as ServiceWorkerGlobalScope;
const cacheName = `mud-room-${version}`;
/** What reads printed text is some megabytes: laid into the cache when it is first fetched, not on every device. */
const isLarge = (path: string) => /tesseract|traineddata|\/worker\.min/.test(path);
const own = new Set([...build, ...files].filter((path) => !isLarge(path)));

worker.addEventListener('install', (event) => {
  event.waitUntil(
    caches
      .open(cacheName)
      .then((cache) => cache.addAll(['/', ...own]))
      .then(() => worker.skipWaiting()),
  );
});

worker.addEventListener('activate', (event) => {
  event.waitUntil(
    caches
      .keys()
      .then((names) => Promise.all(names.filter((n) => n !== cacheName).map((n) => caches.delete(n))))
      .then(() => worker.clients.claim()),
  );
});

worker.addEventListener('fetch', (event) => {
  const url = new URL(event.request.url);
  if (event.request.method !== 'GET' || url.origin !== worker.location.origin) return;
  if (url.pathname.startsWith('/api/') || url.pathname.startsWith('/live')) return;
  if (event.request.mode === 'navigate') event.respondWith(page(event.request));
  else if (isLarge(url.pathname)) event.respondWith(kept(event.request));
  else if (own.has(url.pathname))
    event.respondWith(caches.match(event.request).then((found) => found ?? fetch(event.request)));
});

/** From the cache, or fetched once and laid there. */
async function kept(request: Request): Promise<Response> {
  const cache = await caches.open(cacheName);
  const there = await cache.match(request);
  if (there) return there;
  const fetched = await fetch(request);
  if (fetched.ok) await cache.put(request, fetched.clone());
  return fetched;
}

/** The page as the server has it; where it does not answer in time, or something in between answers instead, the one that was kept. */
async function page(request: Request): Promise<Response> {
  const kept = await caches.match('/');
  if (!kept) return fetch(request);
  const silence = new Promise<undefined>((done) => setTimeout(() => done(undefined), 2000));
  const answer = await Promise.race([fetch(request).catch(() => undefined), silence]);
  return answer?.ok && answer.headers.has('Mud-Room') ? answer : kept;
}
