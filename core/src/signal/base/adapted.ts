import type { Processor } from './block'

/** A processor that takes a model's own parameters: `read` turns them into those of `inner`. */
export function adapted<P, Q>(inner: Processor<Q>, read: (p: P) => Q): Processor<P> {
  return {
    latency: inner.latency,
    listens: inner.listens,
    get steady() {
      return inner.steady === true
    },
    get still() {
      return inner.still === true
    },
    prepare: (sampleRate, machine) => inner.prepare(sampleRate, machine),
    set: (p, immediate) => inner.set(read(p), immediate),
    tick: () => inner.tick(),
    process: (block) => inner.process(block),
    reset: () => inner.reset(),
  }
}
