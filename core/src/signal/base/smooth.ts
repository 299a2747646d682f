import { CHUNK } from './block'

/** What moves in straight lines: `value + i · step` in the chunk's frame i. */
export interface Moving {
  readonly value: number
  readonly step: number
}

/** Writes the `k`-th pair of value and step. */
export function putMoving(numbers: Float64Array | Float32Array, k: number, { value, step }: Moving, scale = 1): void {
  numbers[2 * k] = value * scale
  numbers[2 * k + 1] = step * scale
}

/** Values that are moved together. */
interface Group {
  /** One of them was set. */
  wake(): void
}

/**
 * A parameter that glides: one-pole towards its target on the control grid, straight lines in between, so that `value + i·step`
 * is continuous from frame to frame. 12 ms time constant (heard within 50 ms, no click).
 */
export class Smooth {
  value = 0
  step = 0
  /** True during a chunk in which the value moves, and for the first one after a jump. */
  moving = true
  private next = 0
  private target = 0
  private coefficient = 1
  private jumped = true

  constructor(private readonly group: Group | null = null) {}

  prepare(sampleRate: number, seconds = 0.012): void {
    this.coefficient = 1 - Math.exp(-CHUNK / (sampleRate * seconds))
  }

  set(target: number, immediate: boolean): void {
    this.target = target
    this.group?.wake()
    if (immediate) {
      this.value = this.next = target
      this.step = 0
      this.jumped = true
    }
  }

  get still(): boolean {
    return this.next === this.target && !this.moving
  }

  tick(): void {
    this.value = this.next
    const distance = this.target - this.next
    if (distance === 0) {
      this.step = 0
      this.moving = this.jumped
      this.jumped = false
      return
    }
    this.next = Math.abs(distance) <= 1e-5 * (1e-3 + Math.abs(this.target)) ? this.target : this.next + distance * this.coefficient
    this.step = (this.next - this.value) / CHUNK
    this.moving = true
    this.jumped = true
  }
}

/** A gate between 0 and 1 that opens and closes in a straight line of 10 ms, counted in whole chunks. */
export class Fade {
  value: number
  step = 0
  private next: number
  private target: number
  private perChunk = 1

  constructor(
    open: boolean,
    private readonly group: Group | null = null,
  ) {
    this.value = this.next = this.target = open ? 1 : 0
  }

  prepare(sampleRate: number, seconds = 0.01): void {
    this.perChunk = 1 / Math.max(1, Math.round((sampleRate * seconds) / CHUNK))
  }

  set(open: boolean, immediate: boolean): void {
    this.target = open ? 1 : 0
    this.group?.wake()
    if (immediate) {
      this.value = this.next = this.target
      this.step = 0
    }
  }

  tick(): void {
    this.value = this.next
    if (this.next < this.target) this.next = Math.min(this.target, this.next + this.perChunk)
    else if (this.next > this.target) this.next = Math.max(this.target, this.next - this.perChunk)
    if (Math.abs(this.next - this.target) < 1e-9) this.next = this.target
    this.step = (this.next - this.value) / CHUNK
  }

  get still(): boolean {
    return this.next === this.target && this.step === 0
  }

  /** Shut now and for the whole of this chunk. */
  get shut(): boolean {
    return this.value === 0 && this.step === 0
  }

  /** Fully open now and for the whole of this chunk. */
  get open(): boolean {
    return this.value === 1 && this.step === 0
  }
}

/** What of a processor glides: each is declared once, and all are prepared and moved together; at rest they cost nothing. */
export class Glides implements Group {
  /** Nothing moves, nor did a chunk ago: what was written of the values then holds. */
  still = false
  private arrived = false
  private readonly all: { readonly moving: Smooth | Fade; readonly seconds: number | undefined }[] = []

  /** @param seconds time constant; {@link Smooth}'s own where left out */
  add(seconds?: number): Smooth {
    const moving = new Smooth(this)
    this.all.push({ moving, seconds })
    return moving
  }

  /** An open gate. @param seconds from shut to open; {@link Fade}'s own where left out */
  fade(seconds?: number): Fade {
    const moving = new Fade(true, this)
    this.all.push({ moving, seconds })
    return moving
  }

  /** What goes on dry and what of the effect. */
  mix(): { readonly dry: Smooth; readonly wet: Smooth } {
    return { dry: this.add(), wet: this.add() }
  }

  wake(): void {
    this.still = this.arrived = false
  }

  prepare(sampleRate: number): void {
    for (const { moving, seconds } of this.all) moving.prepare(sampleRate, seconds)
  }

  tick(): void {
    if (this.still) return
    let still = true
    for (let i = 0; i < this.all.length; i++) {
      const { moving } = this.all[i]
      moving.tick()
      still &&= moving.still
    }
    this.still = still && this.arrived
    this.arrived = still
  }
}
