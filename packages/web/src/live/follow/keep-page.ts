const CACHE = 'viaticum-follow';
const AFTER_MS = 1500;

/**
 * Puts this page and what it is made of into the browser's cache, and a service worker before it, so that a reload without a network
 * still shows the lesson. Over plain http a phone has neither: then nothing is kept but the lesson itself, and nothing is said.
 */
export function keepPage(): void {
  const keep = async () => {
    // What comes late must be there before the network is gone.
    const isSlate = location.pathname.startsWith('/shoot/');
    await Promise.all(
      isSlate
        ? [import('../shoot/shoot.js')]
        : [import('./asking.js'), import('./settings.js'), import('../film/film-beside.js')],
    );
    if (!window.isSecureContext || !navigator.serviceWorker || !('caches' in window)) return;
    await navigator.serviceWorker.register('/sw.js');
    const cache = await caches.open(CACHE);
    const parts = performance
      .getEntriesByType('resource')
      .map((entry) => new URL(entry.name))
      .filter((url) => url.origin === location.origin && url.pathname.startsWith('/assets/'))
      .map((url) => url.pathname);
    const present = ['/follow.html', '/icon.svg', ...new Set(parts)];
    await cache.add('/follow.html');
    for (const url of present) if (!(await cache.match(url))) await cache.add(url);
    // What an earlier version was made of is of no use any more.
    for (const { url } of await cache.keys()) if (!present.includes(new URL(url).pathname)) await cache.delete(url);
  };
  const kept = () => {
    document.documentElement.dataset.kept = '';
  };
  setTimeout(() => void keep().then(kept, () => undefined), AFTER_MS);
}
