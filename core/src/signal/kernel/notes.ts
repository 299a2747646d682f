import type { EngineKernel, Pointer } from './machine'
import { repeated } from './repeated'

/** Of a step: its kind and up to seven arguments, four bytes each. */
const STEP = 8

/** Bytes of a row of so many steps and its end. */
export const rowBytes = (steps: number): number => 4 * STEP * (steps + 1)

type Ask = (a?: number, b?: number, c?: number, d?: number, e?: number, f?: number) => unknown

/**
 * Takes down, in a machine's memory, what a passage of stages asks of the kernels while it sounds, for core/kernel/row.ts to repeat. Nothing is
 * allocated on the way.
 */
export class Notes {
  /** The kernels, which are asked and taken down. */
  readonly kernel: EngineKernel
  private wholes = new Int32Array(0)
  private singles = new Float32Array(0)
  private row: Pointer = 0
  private count = 0
  private most = 0
  private isComplete = false

  constructor(kernel: EngineKernel) {
    const own: Readonly<Record<string, unknown>> = { ...kernel }
    const asked = { ...own }
    for (const [name, ask] of Object.entries(own))
      if (typeof ask === 'function')
        asked[name] = (...numbers: readonly number[]) => {
          this.isComplete = false
          return (ask as (...numbers: readonly number[]) => unknown)(...numbers)
        }
    Object.entries(repeated).forEach(([name, kinds], k) => {
      const ask = own[name] as Ask
      asked[name] = (a = 0, b = 0, c = 0, d = 0, e = 0, f = 0) => {
        if (this.begin(k + 1)) {
          this.take(kinds, 0, a)
          this.take(kinds, 1, b)
          this.take(kinds, 2, c)
          this.take(kinds, 3, d)
          this.take(kinds, 4, e)
          this.take(kinds, 5, f)
        }
        return ask(a, b, c, d, e, f)
      }
    })
    this.kernel = asked as unknown as EngineKernel
  }

  /** Where the next step comes to stand. */
  get next(): Pointer {
    return this.row + 4 * STEP * this.count
  }

  private begin(kind: number): boolean {
    if (this.count >= this.most) this.isComplete = false
    else this.wholes[STEP * this.count++] = kind
    return this.isComplete
  }

  private take(kinds: string, k: number, value: number): void {
    const at = STEP * (this.count - 1) + k + 1
    if (kinds[k] === 'f') this.singles[at] = value
    else this.wholes[at] = value
  }

  /** Begins a row of at most so many steps. @param row {@link rowBytes} of them in the memory */
  start(row: Pointer, steps: number): void {
    const { buffer } = this.kernel.memory
    this.wholes = new Int32Array(buffer, row, STEP * (steps + 1))
    this.singles = new Float32Array(buffer, row, STEP * (steps + 1))
    this.row = row
    this.most = steps
    this.count = 0
    this.isComplete = true
  }

  /** Ends it. @returns false where something was asked that cannot be repeated: the row is none then */
  finish(): boolean {
    this.wholes[STEP * this.count] = 0
    return this.isComplete
  }
}
