import { clientsClaim } from 'workbox-core';
import type { WorkboxPlugin } from 'workbox-core/types';
import { cleanupOutdatedCaches, precacheAndRoute } from 'workbox-precaching';
import { NavigationRoute, registerRoute } from 'workbox-routing';
import { NetworkFirst } from 'workbox-strategies';
import { COPIES_LAST_MS } from '@vane/contract';
import { goesWith, KEPT, MAY_KEEP, RECORD } from './app/offline/copies';

/** The files of this build, put in by the build: their names hold a hash of what is in them, or a revision does. */
declare const FILES: { url: string; revision: string | null }[];

/**
 * What lets Vane start without a network: the application's own files are kept, and the page and what was last read of a class are kept as copies, asked for first
 * and used when no answer comes. Nothing is written from here: what a sitting marks waits in the device's own store. Signing out takes the copies away.
 */
cleanupOutdatedCaches();
precacheAndRoute(FILES);
clientsClaim();

/** Longer than this without an answer and the copy is shown. */
const PATIENCE_S = 4;

// Every place is the same page: one copy serves them all, from the first day.
const PAGE = 'vane-page';
addEventListener('install', (event: Event & { waitUntil?: (done: Promise<unknown>) => void }) => {
  event.waitUntil?.(caches.open(PAGE).then((pages) => pages.add('/')));
});
const page = new NetworkFirst({
  cacheName: PAGE,
  networkTimeoutSeconds: PATIENCE_S,
  plugins: [
    { cacheKeyWillBeUsed: () => Promise.resolve('/') },
    { cacheWillUpdate: ({ response }) => Promise.resolve(response.status === 200 ? response : null) },
  ],
});
registerRoute(new NavigationRoute(page, { denylist: [/^\/api\//, /^\/board/, /^\/guide/] }));

/** A class that was taken from the adult, or a child that was deleted: its copies go. */
async function dropBelow(refused: string): Promise<void> {
  const record = await caches.open(RECORD);
  for (const copy of await record.keys()) if (goesWith(new URL(copy.url).pathname, refused)) await record.delete(copy);
}

/** Nothing stays that comes when the copies were taken away. */
const whileAllowed: WorkboxPlugin = {
  // The server has ended the sign-in.
  fetchDidSucceed: async ({ request, response }) => {
    if (response.status === 401) await Promise.all([caches.delete(MAY_KEEP), caches.delete(RECORD)]);
    if (response.status === 403 || response.status === 404) await dropBelow(new URL(request.url).pathname);
    return response;
  },
  cachedResponseWillBeUsed: ({ cachedResponse }) => {
    const made = Date.parse(cachedResponse?.headers.get('date') ?? '');
    return Promise.resolve(Date.now() - made > COPIES_LAST_MS ? null : cachedResponse);
  },
  cacheWillUpdate: async ({ response }) => (response.status === 200 && (await caches.has(MAY_KEEP)) ? response : null),
  cacheDidUpdate: async () => {
    if (!(await caches.has(MAY_KEEP))) await caches.delete(RECORD);
  },
};

registerRoute(
  ({ url, request }) => request.method === 'GET' && KEPT.test(url.pathname),
  new NetworkFirst({
    cacheName: RECORD,
    networkTimeoutSeconds: PATIENCE_S,
    plugins: [whileAllowed],
  }),
);
