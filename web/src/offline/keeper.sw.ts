import { answered, PATIENCE_MS, wayOf } from './keeping'

declare const self: ServiceWorkerGlobalScope

/** The built files, whose names change with their content; and the server's last answers, anew when their form changes. */
const FILES = 'fulgor.files'
const ANSWERS = 'fulgor.answers.2'
const OLD_ANSWERS = 'fulgor.answers'

const ask = (request: Request, patience?: number): Promise<Response> =>
  fetch(request, patience === undefined ? {} : { signal: AbortSignal.timeout(patience) })

/** Fetches what this build has new, and lets go of what older ones had. */
async function keepFiles(): Promise<void> {
  const list = (await (await fetch('/files.json', { cache: 'no-store' })).json()) as readonly string[]
  const cache = await caches.open(FILES)
  const there = new Set((await cache.keys()).map((request) => new URL(request.url).pathname))
  await cache.add('/')
  await cache.addAll(list.filter((path) => !there.has(path)))
  const wanted = new Set(['/', ...list])
  for (const path of there) if (!wanted.has(path)) await cache.delete(path)
  await caches.delete(OLD_ANSWERS)
}

async function page(request: Request): Promise<Response> {
  const kept = await (await caches.open(FILES)).match('/')
  try {
    return await ask(request, kept && PATIENCE_MS)
  } catch (error) {
    if (kept) return kept
    throw error
  }
}

async function file(request: Request): Promise<Response> {
  return (await (await caches.open(FILES)).match(request)) ?? fetch(request)
}

self.addEventListener('install', () => void self.skipWaiting())
self.addEventListener('activate', (event) => event.waitUntil(self.clients.claim()))
// each opened page asks for the files of its build
self.addEventListener('message', (event) => event.waitUntil(keepFiles().catch(() => undefined)))
self.addEventListener('fetch', (event) => {
  const { request } = event
  // a stretch of a long recording: too much to be kept, and no whole answer
  if (request.headers.has('range')) return
  const url = new URL(request.url)
  const way = wayOf(request.method, request.mode, url, self.location.origin)
  if (way === 'page') event.respondWith(page(request))
  else if (way === 'file') event.respondWith(file(request))
  else if (way === 'answer') event.respondWith(caches.open(ANSWERS).then((cache) => answered(request, cache, ask, Date.now)))
  else if (request.method === 'PUT' && /^\/api\/(presets|shows)\/[^/]+$/.test(url.pathname)) {
    // what is kept of a document must not be older than what this page has stored
    const stored = fetch(request)
    event.respondWith(stored)
    event.waitUntil(
      stored
        .then(async ({ ok }) => {
          if (ok) await answered(new Request(url.pathname), await caches.open(ANSWERS), ask, Date.now)
        })
        .catch(() => undefined),
    )
  }
})
