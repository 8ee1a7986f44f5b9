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

/** What the server answers in so many seconds, or what was seen last, where there is such. */
const answers = (networkTimeoutSeconds: number) =>
  new NetworkFirst({
    cacheName: ANSWERS,
    networkTimeoutSeconds,
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
  })
const SOON_S = 2 // what the rules of this device stand on: asked for because the server does not answer
registerRoute(({ url }) => url.origin === self.location.origin && url.pathname === '/api/ground', answers(SOON_S))
registerRoute(
  ({ url }) =>
    url.origin === self.location.origin &&
    url.pathname.startsWith('/api/') &&
    !/\.(pdf|zip|csv|ics)$|\/kept$/.test(url.pathname),
  answers(10),
)

const RULES = 'worked' // the rules and their Python, once the page has fetched them
registerRoute(
  ({ url }) => url.origin === self.location.origin && url.pathname === '/static/worked/manifest.json',
  new NetworkFirst({ cacheName: RULES, networkTimeoutSeconds: SOON_S }),
)
registerRoute(
  ({ url }) => url.origin === self.location.origin && url.pathname.startsWith('/static/worked/'),
  new CacheFirst({ cacheName: RULES }), // every name tells its content
)

self.addEventListener('install', (event) => event.waitUntil(caches.open(PAGE).then((cache) => cache.add('/'))))
void self.skipWaiting()
clientsClaim()
