/// <reference lib="webworker" />
import { ExpirationPlugin } from 'workbox-expiration'
import { cleanupOutdatedCaches, createHandlerBoundToURL, precacheAndRoute } from 'workbox-precaching'
import { NavigationRoute, registerRoute } from 'workbox-routing'
import { CacheFirst } from 'workbox-strategies'
import { pictureCache } from './names'

declare const self: ServiceWorkerGlobalScope

/** Static routes, by the Service Workers standard (InstallEvent.addRoutes); not every browser has them yet. */
type Routing = { addRoutes: (route: { condition: object; source: 'network' }) => void }

// The console itself: every page of it is the same one, so it opens without a network.
precacheAndRoute(self.__WB_MANIFEST)
cleanupOutdatedCaches()
registerRoute(
  new NavigationRoute(createHandlerBoundToURL('/index.html'), {
    denylist: [/^\/(api|openapi|c|quote|oidc|set-up|tablet)(\/|$)/],
  }),
)

// A picture is named by what it shows: it never changes. All else of the API is asked of the service.
registerRoute(
  ({ url }) => url.pathname.startsWith('/api/v1/pictures/'),
  new CacheFirst({
    cacheName: pictureCache,
    plugins: [new ExpirationPlugin({ maxEntries: 600, purgeOnQuotaError: true })],
  }),
)

// What changes something goes past here: a page that goes ends what it had on its way through its service worker, and
// its last word is that it goes.
self.addEventListener('install', (event) =>
  (event as Partial<Routing>).addRoutes?.({
    condition: { or: ['POST', 'PUT', 'DELETE'].map((requestMethod) => ({ requestMethod })) },
    source: 'network',
  }),
)

// The page that brought it is served by it from then on.
self.addEventListener('activate', (event) => event.waitUntil(self.clients.claim()))

// A newer one takes over when a person says so, or when the last page was closed.
self.addEventListener('message', (event: ExtendableMessageEvent) => {
  if ((event.data as { type?: string } | null)?.type === 'SKIP_WAITING') void self.skipWaiting()
})
