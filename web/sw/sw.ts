/// <reference lib="webworker" />
import { clientsClaim, type WorkboxPlugin } from 'workbox-core'
import { ExpirationPlugin } from 'workbox-expiration'
import { cleanupOutdatedCaches, precacheAndRoute, type PrecacheEntry } from 'workbox-precaching'
import { RangeRequestsPlugin } from 'workbox-range-requests'
import { registerRoute } from 'workbox-routing'
import { CacheFirst, NetworkFirst } from 'workbox-strategies'
import { kinds, patience, shell } from './kept'

declare const self: ServiceWorkerGlobalScope & { __WB_MANIFEST: (PrecacheEntry | string)[] }

void self.skipWaiting()
clientsClaim()
cleanupOutdatedCaches()
precacheAndRoute(self.__WB_MANIFEST)

const ok: WorkboxPlugin = {
  cacheWillUpdate: ({ response }) => Promise.resolve(response.status === 200 ? response : null),
}

// Every page is the same document; it carries the nonce of its own answer, which its policy names.
registerRoute(
  ({ request, url }) => request.mode === 'navigate' && !url.pathname.startsWith('/api/'),
  new NetworkFirst({
    cacheName: 'pages',
    networkTimeoutSeconds: patience,
    plugins: [ok, { cacheKeyWillBeUsed: () => Promise.resolve(shell) }],
  }),
)

const whole: WorkboxPlugin = {
  // A player asks for a part; the whole is fetched and kept, and parts are cut from it.
  requestWillFetch: ({ request }) => {
    const headers = new Headers(request.headers)
    headers.delete('range')
    return Promise.resolve(new Request(request.url, { headers, credentials: 'same-origin' }))
  },
}

registerRoute(
  ({ url }) => kinds.fixed.test(url.pathname) && (url.pathname.includes('pictures') || url.search !== ''),
  new CacheFirst({
    cacheName: 'media',
    plugins: [ok, whole, new RangeRequestsPlugin(), new ExpirationPlugin({ maxEntries: 600, purgeOnQuotaError: true })],
  }),
)

registerRoute(
  ({ url, request }) => request.method === 'GET' && kinds.read.test(url.pathname),
  new NetworkFirst({
    cacheName: 'answers',
    networkTimeoutSeconds: patience,
    plugins: [ok, new ExpirationPlugin({ maxEntries: 600, purgeOnQuotaError: true })],
  }),
)
