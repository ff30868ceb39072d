/// <reference lib="webworker" />
import { NavigationRoute, registerRoute } from 'workbox-routing';
import { CacheFirst, NetworkFirst } from 'workbox-strategies';
import { ANSWERS, SHELL } from './caches';

declare const self: ServiceWorkerGlobalScope;

self.addEventListener('install', () => void self.skipWaiting());
self.addEventListener('activate', (event) => event.waitUntil(self.clients.claim()));

/** How long the page may take before the one that was kept is shown, in s: they are alike. */
const PATIENCE = 4;
/** The same of what it tells, in s: an old answer may lack what was just noted. */
const LONG_PATIENCE = 20;

// Every place inside the application is one page. Where one pairs and where the documentation is are others.
registerRoute(
  new NavigationRoute(
    new NetworkFirst({
      cacheName: SHELL,
      networkTimeoutSeconds: PATIENCE,
      plugins: [{ cacheKeyWillBeUsed: async () => '/' }],
    }),
    { denylist: [/^\/pair/, /^\/api\//, /^\/docs\//] },
  ),
);
// Their names change with their content.
registerRoute(({ url }) => url.pathname.startsWith('/assets/'), new CacheFirst({ cacheName: SHELL }));
// What a bench card is made of. Everything else needs the server.
registerRoute(
  ({ url, sameOrigin }) =>
    sameOrigin &&
    /^\/api\/(jobs\/\d+(\/rack|\/runs\/\d+\/cards|\/stock\/sticks\/\d+\/cards)?|workshop|session)$/.test(
      url.pathname,
    ),
  new NetworkFirst({ cacheName: ANSWERS, networkTimeoutSeconds: LONG_PATIENCE }),
);
