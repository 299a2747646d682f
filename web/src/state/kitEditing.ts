import type { Stored, UpdateAnswer, UpdateRequest } from '@fulgor/core/api'
import { isAway, sentenceOf } from '../api/api'
import { browserStorage } from '../storage/storage'
import { handClock } from './handClock'

/** Where a thing of the Kit stands with the server. */
export interface Standing {
  readonly sync: 'saved' | 'saving' | 'kept'
  /** Why it could not be stored; null while it can. */
  readonly problem: string | null
  /** It was changed in another tab, or is gone. */
  readonly elsewhere: boolean
}

/** What asks the server about one kind. */
export interface KitSource<T> {
  readonly kind: string
  fetch(id: string): Promise<Stored<T, unknown>>
  store(id: string, request: UpdateRequest<T>): Promise<UpdateAnswer>
  /** @throws Error where it is no such document */
  read(value: unknown): T
}

const WAIT_MS = 500
const RETRY_MS = 4_000
/** ms within which edits of the same key are one step of undo; a drag is always one. */
const JOIN_MS = 1_200
const MOST_STEPS = 200

/**
 * One document of the Kit while it is edited: its steps, and what is on its way to the server. What could not be sent is kept in this
 * browser. It lives on after its page is left, until what was edited has been stored.
 */
export class KitEditing<T> {
  present: T | null = null
  past: T[] = []
  future: T[] = []
  standing: Standing = { sync: 'saved', problem: null, elsewhere: false }
  missing: string | null = null
  private revision = 0
  private dirty = false
  private sending = false
  private timer: ReturnType<typeof setTimeout> | null = null
  private lastKey = ''
  private lastAt = 0
  private readonly listeners = new Set<() => void>()
  private version = 0

  constructor(
    private readonly id: string,
    private readonly source: KitSource<T>,
  ) {}

  readonly subscribe = (listener: () => void) => {
    this.listeners.add(listener)
    return () => void this.listeners.delete(listener)
  }
  readonly now = () => this.version

  private tell(): void {
    this.version++
    for (const listener of this.listeners) listener()
  }

  private get storageKey(): string {
    return `fulgor.kit.${this.source.kind}.${this.id}`
  }

  async open(): Promise<void> {
    if (this.dirty || this.sending) return
    try {
      const { document, revision } = (await this.source.fetch(this.id)) as Stored<T, unknown> & { readonly revision: number }
      this.missing = null
      if (revision !== this.revision || this.present === null) {
        this.past = []
        this.future = []
      }
      this.revision = revision
      this.present = document
      this.standing = { sync: 'saved', problem: null, elsewhere: false }
      this.takeKept()
    } catch (error) {
      this.missing = sentenceOf(error)
    }
    this.tell()
  }

  /** What an earlier visit could not send, where nothing was written since. */
  private takeKept(): void {
    const text = browserStorage.read(this.storageKey)
    if (text === null) return
    browserStorage.remove(this.storageKey)
    try {
      const { baseRevision, document } = JSON.parse(text) as { baseRevision: number; document: unknown }
      if (baseRevision !== this.revision) return
      this.present = this.source.read(document)
      this.later()
    } catch {
      // what cannot be read was never stored by us
    }
  }

  change(next: T, key: string): void {
    if (this.present === null || next === this.present) return
    const joins = key !== '' && key === this.lastKey && handClock.now() - this.lastAt < JOIN_MS
    this.lastKey = key
    this.lastAt = handClock.now()
    if (!joins) this.past = [...this.past, this.present].slice(-MOST_STEPS)
    this.future = []
    this.put(next)
  }

  undo(): void {
    const before = this.past.at(-1)
    if (before === undefined || this.present === null) return
    this.past = this.past.slice(0, -1)
    this.future = [this.present, ...this.future]
    this.lastKey = ''
    this.put(before)
  }

  redo(): void {
    if (this.future.length === 0 || this.present === null) return
    const [after, ...rest] = this.future
    this.past = [...this.past, this.present]
    this.future = rest
    this.lastKey = ''
    this.put(after)
  }

  private put(next: T): void {
    this.present = next
    this.later()
    this.tell()
  }

  private later(): void {
    this.dirty = true
    this.standing = { ...this.standing, sync: 'saving' }
    this.after(WAIT_MS)
  }

  private after(ms: number): void {
    if (this.timer) clearTimeout(this.timer)
    this.timer = setTimeout(() => void this.send(), ms)
  }

  /** Sends at once what waits: its page is left. */
  flush(): void {
    if (this.dirty) this.after(0)
  }

  private async send(): Promise<void> {
    if (this.sending || !this.dirty || this.present === null) return
    this.sending = true
    this.dirty = false
    const document = this.present
    try {
      const { revision } = await this.source.store(this.id, { document, baseRevision: this.revision, save: false })
      this.revision = revision
      browserStorage.remove(this.storageKey)
      this.standing = { sync: this.dirty ? 'saving' : 'saved', problem: null, elsewhere: false }
    } catch (error) {
      this.failed(error, document)
    }
    this.sending = false
    if (this.dirty && !this.standing.elsewhere) this.after(this.standing.problem === null ? WAIT_MS : RETRY_MS)
    this.tell()
  }

  private failed(error: unknown, document: T): void {
    const status = typeof error === 'object' && error !== null && 'status' in error ? error.status : null
    const elsewhere = status === 409 || status === 404
    this.dirty = true
    browserStorage.write(this.storageKey, JSON.stringify({ baseRevision: this.revision, document }))
    const problem =
      status === 404
        ? 'It was deleted in another tab. What stands here is kept until you leave; restore it from the bin, or copy it.'
        : status === 409
          ? 'It was changed in another tab. Nothing was overwritten: take what is stored, or store this over it.'
          : isAway(error)
            ? 'The Fulgor server does not answer; it is kept in this browser and sent when it is back.'
            : sentenceOf(error)
    this.standing = { sync: 'kept', problem, elsewhere }
  }

  /** After a change elsewhere: takes what is stored, or stores this over it. */
  async settle(mine: boolean): Promise<void> {
    const { present } = this
    this.dirty = false
    browserStorage.remove(this.storageKey)
    await this.open()
    if (mine && present !== null && this.missing === null) this.change(present, '')
  }
}
