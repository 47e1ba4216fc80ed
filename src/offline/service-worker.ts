/// <reference lib="webworker" />
import { addPlugins, cleanupOutdatedCaches, precacheAndRoute, type PrecacheEntry } from 'workbox-precaching';
import { registerRoute } from 'workbox-routing';
import { TAKE_OVER } from './take-over';

declare const self: ServiceWorkerGlobalScope & { readonly __WB_MANIFEST: readonly PrecacheEntry[] };

/** What the demo ships, as the server gave it last. */
const SHIPPED = { path: '/shipped', cache: 'bujo-shipped' } as const;

/*
 * The program as it was built: pages and all that they load. It is kept whole when it is installed, so that it starts with no server, and a newer one
 * waits beside it until somebody takes it.
 */
cleanupOutdatedCaches();
// What a worker is started with stands behind the # of its address, and an answer out of a cache has an address of its own, without it.
addPlugins([
  {
    handlerWillRespond: ({ request, response }) =>
      Promise.resolve(request.destination === 'worker' ? new Response(response.body, response) : response),
  },
]);
precacheAndRoute([...self.__WB_MANIFEST]);

// Ports of stand-ins differ from start to start: the server's word counts while there is one.
registerRoute(
  ({ url }) => url.pathname === SHIPPED.path,
  async ({ request, event }) => {
    const cache = await caches.open(SHIPPED.cache);
    try {
      const answer = await fetch(request);
      // The page does not wait for it to be kept; where there is no room, the one before stays.
      if (answer.ok) event.waitUntil(cache.put(request, answer.clone()).catch(() => undefined));
      return answer;
    } catch (error) {
      const known = await cache.match(request);
      if (known) return known;
      throw error;
    }
  },
);

self.addEventListener('install', (event) => {
  event.waitUntil(caches.open(SHIPPED.cache).then((cache) => cache.add(SHIPPED.path)));
});

// The page that installed it is looked after at once, so that what it asks for next is kept.
self.addEventListener('activate', (event) => event.waitUntil(self.clients.claim()));

self.addEventListener('message', ({ data }: ExtendableMessageEvent) => {
  if (data === TAKE_OVER) void self.skipWaiting();
});
