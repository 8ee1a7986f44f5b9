/// <reference lib="webworker" />
import { clientsClaim } from 'workbox-core'
import { cleanupOutdatedCaches, precacheAndRoute } from 'workbox-precaching'
import { NavigationRoute, registerRoute } from 'workbox-routing'
import { CacheFirst, NetworkFirst } from 'workbox-strategies'

/** Opens the page again without a server: its files are kept when it is first seen, answers as they were seen last. */
declare const self: ServiceWorkerGlobalScope
const shell = '__SHELL__' as unknown as string[]
const PAGE = 'page'
const ANSWERS = 'answers'
const SEEN_LAST = 'X-Seen-Last'
const OLDEST_MS = 24 * 3_600_000 // an answer older than a day is none any more

precacheAndRoute(shell.map((url) => ({ url, revision: null }))) // every name carries a hash of its content
cleanupOutdatedCaches()

const page = new NetworkFirst({
  cacheName: PAGE,
  networkTimeoutSeconds: 5,
  plugins: [{ cacheKeyWillBeUsed: () => Promise.resolve('/') }], // one page for every address
})
registerRoute(new NavigationRoute((options) => page.handle(options), { denylist: [/^\/(api|static|healthz|robots)/] }))

registerRoute(
  ({ url }) =>
    url.origin === self.location.origin &&
    url.pathname.startsWith('/api/') &&
    !/\.(pdf|zip|csv|ics)$|\/kept$/.test(url.pathname),
  new NetworkFirst({
    cacheName: ANSWERS,
    networkTimeoutSeconds: 10, // whoever waits longer sees what was seen last, where there is such
    plugins: [
      {
        cacheWillUpdate: ({ response }) => Promise.resolve(response.status === 200 ? response : null),
        cachedResponseWillBeUsed: async ({ cachedResponse }) => {
          const from = Date.parse(cachedResponse?.headers.get('Date') ?? '')
          if (!cachedResponse || !(Date.now() - from < OLDEST_MS)) return null
          const headers = new Headers(cachedResponse.headers)
          headers.set(SEEN_LAST, '1')
          return new Response(await cachedResponse.blob(), { status: 200, headers })
        },
      },
    ],
  }),
)

const RULES = 'worked' // the rules and their Python, once the page has fetched them
registerRoute(
  ({ url }) => url.origin === self.location.origin && url.pathname === '/static/worked/manifest.json',
  new NetworkFirst({ cacheName: RULES }),
)
registerRoute(
  ({ url }) => url.origin === self.location.origin && url.pathname.startsWith('/static/worked/'),
  new CacheFirst({ cacheName: RULES }), // every name tells its content
)

self.addEventListener('install', (event) => event.waitUntil(caches.open(PAGE).then((cache) => cache.add('/'))))
void self.skipWaiting()
clientsClaim()
