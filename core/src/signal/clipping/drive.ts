import { foldToMono, type Processor, type StereoBlock } from '../base/block'
import { Clipping, type Quality } from './clipping'
import { Glides, type Smooth } from '../base/smooth'
import type { Machine } from '../kernel/machine'

type Smooths<C extends string> = Readonly<Record<C, Smooth>>

/** A clipping pedal: how its knobs become numbers, and the program that they move. */
export interface DriveCircuit<P, C extends string = string> {
  /** Targets of the gliding values from the parameters. */
  readonly controls: Readonly<Record<C, (p: P) => number>>
  /** Lays the program out; the returned function writes the gliding values at every tick. */
  lay(clipping: Clipping): (values: Smooths<C>) => void
}

/** Declares a circuit: what its program reads must be among its controls. */
export const circuit =
  <P>() =>
  <C extends string>(of: DriveCircuit<P, C>): DriveCircuit<P> =>
    of

/** Runs a drive circuit on the sum of both sides. */
export class Drive<P> implements Processor<P> {
  readonly latency: number
  readonly steady = true
  private readonly values: Smooths<string>
  private readonly glides = new Glides()
  private clipping: Clipping | null = null
  private write: (values: Smooths<string>) => void = () => undefined

  constructor(
    private readonly circuit: DriveCircuit<P>,
    private readonly quality: Quality,
  ) {
    this.latency = Clipping.latency(quality)
    this.values = Object.fromEntries(Object.keys(circuit.controls).map((key) => [key, this.glides.add()]))
  }

  get still(): boolean {
    return this.glides.still
  }

  prepare(sampleRate: number, machine: Machine): void {
    this.glides.prepare(sampleRate)
    this.clipping = new Clipping(this.quality, sampleRate, machine)
    this.write = this.circuit.lay(this.clipping)
  }

  set(p: P, immediate: boolean): void {
    for (const [key, target] of Object.entries(this.circuit.controls)) this.values[key].set(target(p), immediate)
  }

  tick(): void {
    this.glides.tick()
    if (!this.glides.still) this.write(this.values)
  }

  process(block: StereoBlock): void {
    foldToMono(block)
    this.clipping?.process(block.leftAt)
  }

  ahead(): void {
    this.clipping?.ahead()
  }

  reset(): void {
    this.clipping?.reset()
  }
}
