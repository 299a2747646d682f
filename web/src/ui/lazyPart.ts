import { lazy, type ComponentType } from 'react'

const RETRY_MS = 2_000

/** Loads code again and again until it is there: while the server is away, its place stays empty and nothing else is lost. */
export async function untilLoaded<T>(load: () => Promise<T>, pause = () => new Promise((done) => setTimeout(done, RETRY_MS))): Promise<T> {
  for (;;) {
    try {
      return await load()
    } catch {
      await pause()
    }
  }
}

/** A part of a view whose code is fetched when it is first drawn. */
export const lazyPart = <P>(load: () => Promise<ComponentType<P>>) => lazy(async () => ({ default: await untilLoaded(load) }))
