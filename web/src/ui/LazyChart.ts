import { lazy } from 'react'

const RETRY_MS = 2_000

/** The chart's code, fetched when first drawn. While the server is away the place stays empty and the fetch is tried again. */
export const LazyChart = lazy(async () => {
  for (;;) {
    try {
      return await import('./Chart')
    } catch {
      await new Promise((done) => setTimeout(done, RETRY_MS))
    }
  }
})
