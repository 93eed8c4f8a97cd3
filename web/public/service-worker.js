/*
 * Keeps the pages themselves on the device, so that a bench that is reloaded without a network opens again. What stands at
 * the bench, and what is still to be sent, the page keeps itself. Answers of the server are never kept here.
 */
const KEPT = 'keen-beaker-pages'
const PAGE = '/'

self.addEventListener('install', (event) => {
  event.waitUntil(
    caches
      .open(KEPT)
      .then((cache) => cache.add(PAGE))
      .then(() => self.skipWaiting()),
  )
})

self.addEventListener('activate', (event) => {
  event.waitUntil(self.clients.claim())
})

// The page tells which files it was made of: those that were loaded before this worker could see them.
self.addEventListener('message', (event) => {
  const files = Array.isArray(event.data?.files) ? event.data.files : []
  event.waitUntil(caches.open(KEPT).then((cache) => Promise.allSettled(files.map((f) => keepOnce(cache, f)))))
})

self.addEventListener('fetch', (event) => {
  const { request } = event
  const url = new URL(request.url)
  if (request.method !== 'GET' || url.origin !== self.location.origin) return
  if (url.pathname.startsWith('/api/') || url.pathname === '/healthz') return
  if (request.mode === 'navigate') event.respondWith(page(request))
  // Their names change with their content: what is kept is right.
  else if (url.pathname.startsWith('/assets/')) event.respondWith(file(request))
})

async function page(request) {
  const cache = await caches.open(KEPT)
  try {
    const fresh = await fetch(request)
    if (fresh.ok) await cache.put(PAGE, fresh.clone())
    return fresh
  } catch (gone) {
    const kept = await cache.match(PAGE)
    if (kept) return kept
    throw gone
  }
}

async function file(request) {
  const cache = await caches.open(KEPT)
  const kept = await cache.match(request)
  if (kept) return kept
  const fresh = await fetch(request)
  if (fresh.ok) await cache.put(request, fresh.clone())
  return fresh
}

async function keepOnce(cache, address) {
  const url = new URL(address, self.location.origin)
  if (url.origin !== self.location.origin || !url.pathname.startsWith('/assets/')) return
  if (!(await cache.match(url.href))) await cache.add(url.href)
}
