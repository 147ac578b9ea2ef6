// Lets a phone show its lesson without a network: the follow page and what it is made of come from what the page put into the cache
// itself. Everything else goes to the server as ever.
const PAGE = '/follow.html';
const STAGES = 'viaticum-stages';
const STAGE = /^\/api\/(join|alone)\/[^/]+\/stages\//;
const SLOW_MS = 4000;

self.addEventListener('install', () => self.skipWaiting());
self.addEventListener('activate', (event) => event.waitUntil(self.clients.claim()));

const orLater = (request) =>
  Promise.race([fetch(request), new Promise((_, reject) => setTimeout(() => reject(new Error('slow')), SLOW_MS))]);

self.addEventListener('fetch', (event) => {
  const { request } = event;
  const url = new URL(request.url);
  if (request.method !== 'GET' || url.origin !== self.location.origin) return;
  if (request.mode === 'navigate') {
    if (!/^\/(join|paint|shoot)(\/|$)/.test(url.pathname)) return;
    event.respondWith(orLater(request).catch(async () => (await caches.match(PAGE)) ?? Response.error()));
  } else if (STAGE.test(url.pathname)) {
    // How the canvas looks after a step: what was seen once is seen again without a network.
    event.respondWith(
      fetch(request)
        .then(async (answer) => {
          if (answer.ok) await (await caches.open(STAGES)).put(request, answer.clone());
          return answer;
        })
        .catch(async () => (await caches.match(request)) ?? Response.error()),
    );
  } else if (url.pathname.startsWith('/assets/') || url.pathname === '/icon.svg') {
    event.respondWith(caches.match(request).then((kept) => kept ?? fetch(request)));
  }
});
