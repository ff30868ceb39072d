import { useEffect, useState } from 'react';
import { SHELL } from './caches';

/** Whether this page opens without a connection; nothing while that is not known yet. */
export type Offline = boolean | undefined;

/** Files this page was made of so far. */
function files(): string[] {
  const loaded = performance.getEntriesByType('resource').map(({ name }) => new URL(name));
  const own = loaded.filter(({ origin, pathname }) => {
    return origin === window.location.origin && /^\/(assets\/|mark\.svg$)/.test(pathname);
  });
  return [...new Set(['/', ...own.map(({ pathname }) => pathname)])];
}

/** Keeps the page, and takes out what an earlier version of it was made of. */
async function keepPage() {
  const cache = await caches.open(SHELL);
  const wanted = files();
  await cache.addAll(wanted);
  const kept = await cache.keys();
  const old = kept.filter((request) => !wanted.includes(new URL(request.url).pathname));
  await Promise.all(old.map((request) => cache.delete(request)));
}

/** Lets this page be opened without a connection, where the browser allows that. */
export function useOffline(): Offline {
  const [offline, setOffline] = useState<Offline>();
  useEffect(() => {
    let gone = false;
    const tell = (can: boolean) => !gone && setOffline(can);
    if (!('serviceWorker' in navigator)) {
      tell(false);
      return;
    }
    // A browser that does not trust the server's certificate takes no worker from it.
    navigator.serviceWorker
      .register('/sw.js', { updateViaCache: 'none' })
      .then(() => navigator.serviceWorker.ready)
      .then(keepPage)
      .then(() => tell(true))
      // Without a connection nothing can be renewed; what was kept is still there.
      .catch(() => tell(navigator.serviceWorker.controller !== null));
    return () => {
      gone = true;
    };
  }, []);
  return offline;
}
