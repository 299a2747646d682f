/** Samples under names, as `lay` hands them on: typed arrays over shared memory are not copied on their way. */
export type Laid = Readonly<Record<string, unknown>>

interface Parcel {
  readonly key: string
  readonly laid: Laid
}

/** What introduces two threads of a crew to each other. */
export interface Introduction {
  readonly introduces: MessagePort
  /** The page that both work for: its threads wait for each other, and for no other page's. */
  readonly page: string
}

/** Bytes and pieces of what others have laid down that a thread holds: the oldest goes first. */
const HELD_BYTES = 80e6
const MOST_HELD = 2_000

/**
 * Where the threads of a crew lay down for each other what they have made, in memory that all of them see. Where a page may not share
 * memory (no cross-origin isolation), and while a thread is alone, everyone makes all by itself.
 */
export class Exchange {
  private readonly others: MessagePort[] = []
  private readonly held = new Map<string, Laid>()
  private bytes = 0
  private page: string | null = null

  /** @param canShare whether memory may be shared */
  constructor(private readonly canShare = globalThis.crossOriginIsolated && typeof SharedArrayBuffer === 'function') {}

  /** Another thread of the crew. */
  meet({ introduces, page }: Introduction): void {
    if (!this.canShare) return
    this.page = page
    this.others.push(introduces)
    introduces.onmessage = ({ data: { key, laid } }: MessageEvent<Parcel>) => this.hold(key, laid)
  }

  get alone(): boolean {
    return this.others.length === 0
  }

  find(key: string): Laid | undefined {
    const laid = this.held.get(key)
    if (!laid) return undefined
    // what was asked for last goes last
    this.held.delete(key)
    this.held.set(key, laid)
    return laid
  }

  /** Hands something on; its arrays must lie in shared memory. */
  lay(key: string, laid: Laid): void {
    const parcel: Parcel = { key, laid }
    for (const other of this.others) other.postMessage(parcel)
  }

  /** Room that the others can see, where they can. */
  floats(frames: number): Float32Array {
    return this.alone ? new Float32Array(frames) : new Float32Array(new SharedArrayBuffer(4 * frames))
  }

  /** The same numbers where the others can see them. */
  seen<T extends Float32Array | Float64Array>(samples: T): T {
    if (this.alone) return samples
    const buffer = new SharedArrayBuffer(samples.byteLength)
    const copy = samples instanceof Float32Array ? new Float32Array(buffer) : new Float64Array(buffer)
    copy.set(samples)
    return copy as T
  }

  /**
   * What is made once for the whole crew: who asks while another thread makes it waits for that.
   * @param make makes it, of arrays that are {@link seen}
   */
  async once<L extends Laid>(key: string, make: () => L | Promise<L>): Promise<L> {
    const there = this.find(key) as L | undefined
    if (there) return there
    if (this.alone || !('locks' in navigator)) return make()
    return navigator.locks.request(`${this.page} ${key}`, async () => {
      // what the other one has laid down before it let go is on its way
      await new Promise((done) => setTimeout(done, 0))
      const meanwhile = this.find(key) as L | undefined
      if (meanwhile) return meanwhile
      const made = await make()
      this.hold(key, made)
      this.lay(key, made)
      return made
    })
  }

  private hold(key: string, laid: Laid): void {
    const before = this.held.get(key)
    if (before) this.bytes -= bytesOf(before)
    this.held.delete(key)
    this.held.set(key, laid)
    this.bytes += bytesOf(laid)
    for (const [oldest, old] of this.held) {
      if ((this.bytes <= HELD_BYTES && this.held.size <= MOST_HELD) || oldest === key) break
      this.held.delete(oldest)
      this.bytes -= bytesOf(old)
    }
  }
}

const bytesOf = (laid: Laid): number =>
  [...new Set(Object.values(laid))].reduce<number>((sum, part) => sum + (ArrayBuffer.isView(part) ? part.byteLength : 0), 0)

/** Introduces a new thread to those that are there. */
export function introduce(thread: Worker, others: readonly Worker[], page: string): void {
  for (const other of others) {
    const { port1, port2 } = new MessageChannel()
    thread.postMessage({ introduces: port1, page } satisfies Introduction, [port1])
    other.postMessage({ introduces: port2, page } satisfies Introduction, [port2])
  }
}
