import { Rooms } from './rooms'

/** Samples under names, as `lay` hands them on: typed arrays over shared memory are not copied on their way. */
export type Laid = Readonly<Record<string, unknown>>

/**
 * What threads tell each other: what was made, by the number of the rooms that it lies in, that it is withdrawn, that nobody reads it there, and
 * what of it is wanted.
 */
type Message =
  | { readonly kind: 'laid'; readonly key: string; readonly laid: Laid; readonly number: number | null }
  | { readonly kind: 'withdrawn'; readonly number: number }
  | { readonly kind: 'unread'; readonly number: number }
  | { readonly kind: 'asked'; readonly what: string; readonly key: string }

/** Rooms that are to be used again. */
interface Withdrawn {
  readonly rooms: readonly Float32Array[]
  /** Threads that may still read there. */
  readers: number
}

/** Most of them that wait: a thread that has died never answers. */
const MOST_WITHDRAWN = 400

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
  private readonly rooms = new Rooms()
  /** Rooms of what this thread has laid down, by key. */
  private readonly own = new Map<string, { readonly number: number; readonly rooms: readonly Float32Array[] }>()
  /** What others have laid down in their rooms, by thread and number; it holds nothing, since a thread that has died withdraws nothing. */
  private readonly theirs = new Map<MessagePort, Map<number, readonly [key: string, laid: WeakRef<Laid>]>>()
  private readonly withdrawn = new Map<number, Withdrawn>()
  private numbers = 0

  /**
   * @param canShare whether memory may be shared
   * @param rest ends when all is done that runs now in this thread: nothing of it reads what was withdrawn before
   * @param forget hears what may not be asked for any more
   * @param help hears what another thread would have of something that was laid down; the answer is laid down too
   */
  constructor(
    private readonly canShare = globalThis.crossOriginIsolated && typeof SharedArrayBuffer === 'function',
    private readonly rest: () => Promise<void> = () => Promise.resolve(),
    private readonly forget: (key: string, laid: Laid) => void = () => undefined,
    private readonly help: (what: string, key: string) => void = () => undefined,
  ) {}

  /** Another thread of the crew. */
  meet({ introduces, page }: Introduction): void {
    if (!this.canShare) return
    this.page = page
    this.others.push(introduces)
    this.theirs.set(introduces, new Map())
    introduces.onmessage = ({ data }: MessageEvent<Message>) => this.hear(introduces, data)
  }

  private hear(from: MessagePort, message: Message): void {
    if (message.kind === 'laid') {
      const { key, laid, number } = message
      this.hold(key, laid)
      if (number !== null) this.theirs.get(from)?.set(number, [key, new WeakRef(laid)])
    } else if (message.kind === 'withdrawn') void this.let(from, message.number)
    else if (message.kind === 'unread') this.isUnread(message.number)
    else this.help(message.what, message.key)
  }

  /** Another thread wants its rooms back. */
  private async let(owner: MessagePort, number: number): Promise<void> {
    const rooms = this.theirs.get(owner)
    const [key, found] = rooms?.get(number) ?? []
    const laid = found?.deref()
    rooms?.delete(number)
    if (key !== undefined && laid) {
      if (this.held.get(key) === laid) this.drop(key, laid)
      this.forget(key, laid)
    }
    await this.rest()
    owner.postMessage({ kind: 'unread', number } satisfies Message)
  }

  private isUnread(number: number): void {
    const withdrawn = this.withdrawn.get(number)
    if (!withdrawn || --withdrawn.readers > 0) return
    this.withdrawn.delete(number)
    for (const room of withdrawn.rooms) this.rooms.give(room)
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
    this.send({ kind: 'laid', key, laid, number: null })
  }

  /** Would have another thread work something out of what was laid down: whoever asks does it alone where nothing has come by then. */
  ask(what: string, key: string): void {
    this.others.at(-1)?.postMessage({ kind: 'asked', what, key } satisfies Message)
  }

  /** Hands on what lies in {@link floats}, until it is withdrawn. */
  layRooms(key: string, laid: Laid): void {
    const number = this.numbers++
    this.own.set(key, { number, rooms: [...new Set(Object.values(laid))].filter((part) => part instanceof Float32Array) })
    this.send({ kind: 'laid', key, laid, number })
  }

  /** Nobody may ask for it any more; its rooms are used again as soon as nobody can be reading them. */
  withdraw(key: string): void {
    const own = this.own.get(key)
    if (!own) return
    this.own.delete(key)
    const { number, rooms } = own
    this.withdrawn.set(number, { rooms, readers: this.others.length + 1 })
    for (const oldest of this.withdrawn.keys()) {
      if (this.withdrawn.size <= MOST_WITHDRAWN) break
      this.withdrawn.delete(oldest)
    }
    this.send({ kind: 'withdrawn', number })
    void this.rest().then(() => this.isUnread(number))
  }

  /** Rooms that only this thread has seen: they are used again once all is done that runs in it now. */
  retire(rooms: readonly Float32Array[]): void {
    void this.rest().then(() => {
      for (const room of rooms) this.rooms.give(room)
    })
  }

  private send(message: Message): void {
    for (const other of this.others) other.postMessage(message)
  }

  /** Room that the others can see, where they can, for samples that are all written: what stood there before may still. */
  floats(frames: number): Float32Array {
    const used = this.rooms.take(frames)
    if (used) return used
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
    if (before) this.drop(key, before)
    this.held.set(key, laid)
    this.bytes += bytesOf(laid)
    for (const [oldest, old] of this.held) {
      if ((this.bytes <= HELD_BYTES && this.held.size <= MOST_HELD) || oldest === key) break
      this.drop(oldest, old)
    }
  }

  private drop(key: string, laid: Laid): void {
    this.held.delete(key)
    this.bytes -= bytesOf(laid)
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
