/** How long the server has to answer before what is kept is shown, ms. */
export const PATIENCE_MS = 4_000
/** Answers of the server that are kept. */
const KEPT = 300
/** Header of an answer that was kept: ms since 1970 at which the server gave it. */
export const KEPT_AT = 'x-fulgor-kept-at'

/** What the keeper does with a request. */
export type Way = 'pass' | 'page' | 'file' | 'answer'

/** Searches and versions change with every word and are not kept; what a preset needs to be opened and heard is. */
export function wayOf(method: string, mode: string, url: URL, origin: string): Way {
  if (method !== 'GET' || url.origin !== origin) return 'pass'
  if (mode === 'navigate') return url.pathname.startsWith('/api/') ? 'pass' : 'page'
  if (/^\/(assets\/|icon\.svg$)/.test(url.pathname)) return 'file'
  if (/^\/api\/(presets|shows|devices)\/[^/]+$/.test(url.pathname) || /^\/api\/(assets|responses)(\/|$)/.test(url.pathname)) return 'answer'
  return /^\/api\/(presets|shows|devices)$/.test(url.pathname) && !url.searchParams.has('search') ? 'answer' : 'pass'
}

/** A copy of an answer that says when it was given. */
export async function stamped(answer: Response, now: number): Promise<Response> {
  const headers = new Headers(answer.headers)
  headers.set(KEPT_AT, String(now))
  // the body comes decoded
  headers.delete('content-encoding')
  headers.delete('content-length')
  return new Response(await answer.arrayBuffer(), { status: answer.status, statusText: answer.statusText, headers })
}

/** What the keeper needs of a cache. */
interface Store {
  match(request: Request | string): Promise<Response | undefined>
  put(request: Request | string, answer: Response): Promise<void>
  keys(): Promise<readonly Request[]>
  delete(request: Request): Promise<boolean>
}

async function keep(cache: Store, request: Request, answer: Response): Promise<void> {
  await cache.put(request, answer)
  const all = await cache.keys()
  for (const old of all.slice(0, Math.max(0, all.length - KEPT))) await cache.delete(old)
}

/**
 * The server's answer, which is kept; else what was kept of it, else the failure. A refusal is an answer and passes as it is.
 * @param ask given the time that the server has, ms; none where nothing is kept: a busy server's late answer is better than no answer
 */
export async function answered(
  request: Request,
  cache: Store,
  ask: (request: Request, patience?: number) => Promise<Response>,
  now: () => number,
): Promise<Response> {
  const kept = await cache.match(request)
  try {
    const answer = await ask(request, kept && PATIENCE_MS)
    if (answer.ok) await keep(cache, request, await stamped(answer.clone(), now()))
    // what was deleted is not brought back by the cache
    else if (answer.status === 404) await cache.delete(request)
    return answer
  } catch (error) {
    if (kept) return kept
    throw error
  }
}
