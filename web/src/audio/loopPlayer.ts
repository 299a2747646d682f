import type { Part } from '@fulgor/core/recording'

/** Plays a stored recording as it is, round and round a stretch of it; one at a time. */
class LoopPlayer {
  private context: AudioContext | null = null
  private source: AudioBufferSourceNode | null = null
  private hash = ''
  private buffer: AudioBuffer | null = null
  private startedAt = 0
  private part: Part = { from: 0, to: 0 }
  private readonly listeners = new Set<() => void>()
  private version = 0

  readonly subscribe = (listener: () => void) => {
    this.listeners.add(listener)
    return () => void this.listeners.delete(listener)
  }
  readonly now = () => this.version

  /** Hash of what plays; null: nothing does. */
  get playing(): string | null {
    return this.source ? this.hash : null
  }

  /** Where it plays, s from the start of the file. */
  get at(): number {
    if (!this.context || !this.source) return this.part.from
    const { from, to } = this.part
    return from + ((this.context.currentTime - this.startedAt) % Math.max(0.01, to - from))
  }

  /** @throws Error where the file cannot be had */
  async play(hash: string, part: Part): Promise<void> {
    this.stop()
    this.context ??= new AudioContext()
    await this.context.resume()
    if (hash !== this.hash || !this.buffer) {
      const answer = await fetch(`/api/assets/${hash}`)
      if (!answer.ok) throw new Error('This recording is not on this machine.')
      this.buffer = await this.context.decodeAudioData(await answer.arrayBuffer())
      this.hash = hash
    }
    this.begin(this.context, this.buffer, part)
  }

  /** Plays samples under a name, round and round. */
  async playSides(name: string, sides: readonly Float32Array[], sampleRate: number): Promise<void> {
    this.stop()
    this.context ??= new AudioContext()
    await this.context.resume()
    const buffer = this.context.createBuffer(2, sides[0].length, sampleRate)
    sides.forEach((x, side) => buffer.copyToChannel(Float32Array.from(x), side))
    this.buffer = buffer
    this.hash = name
    this.begin(this.context, buffer, { from: 0, to: buffer.duration })
  }

  private begin(context: AudioContext, buffer: AudioBuffer, part: Part): void {
    const source = context.createBufferSource()
    source.buffer = buffer
    source.loop = true
    source.loopStart = part.from
    source.loopEnd = part.to
    source.connect(context.destination)
    source.start(0, part.from)
    this.source = source
    this.startedAt = context.currentTime
    this.part = part
    this.tell()
  }

  /** Moves the stretch under what plays. */
  follow(part: Part): void {
    if (!this.source || (part.from === this.part.from && part.to === this.part.to)) return
    void this.play(this.hash, part)
  }

  stop(): void {
    if (!this.source) return
    this.source.stop()
    this.source.disconnect()
    this.source = null
    this.tell()
  }

  private tell(): void {
    this.version++
    for (const listener of this.listeners) listener()
  }
}

export const loopPlayer = new LoopPlayer()
