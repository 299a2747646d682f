import { foldToMono, type ParamValue, type Processor, type StereoBlock } from './block'
import { Clipping, type Quality } from './clipping'
import { Smooth } from './smooth'

type DriveParams = Readonly<Record<string, ParamValue>>
type Smooths = Readonly<Record<string, Smooth>>

/** A clipping pedal: how its knobs become numbers, and the program that they move. */
export interface DriveCircuit {
  /** Targets of the gliding values from the parameters. */
  readonly controls: Readonly<Record<string, (p: DriveParams) => number>>
  /** Lays the program out; the returned function writes the gliding values at every tick. */
  lay(clipping: Clipping): (values: Smooths) => void
}

/** Runs a drive circuit on the sum of both sides. */
export class Drive implements Processor {
  readonly latency: number
  private readonly values: Smooths
  private readonly list: readonly Smooth[]
  private clipping: Clipping | null = null
  private write: (values: Smooths) => void = () => undefined

  constructor(
    private readonly circuit: DriveCircuit,
    private readonly quality: Quality,
  ) {
    this.latency = Clipping.latency(quality)
    this.values = Object.fromEntries(Object.keys(circuit.controls).map((key) => [key, new Smooth()]))
    this.list = Object.values(this.values)
  }

  prepare(sampleRate: number): void {
    for (const smooth of this.list) smooth.prepare(sampleRate)
    this.clipping = new Clipping(this.quality, sampleRate)
    this.write = this.circuit.lay(this.clipping)
  }

  set(p: DriveParams, immediate: boolean): void {
    for (const [key, target] of Object.entries(this.circuit.controls)) this.values[key].set(target(p), immediate)
  }

  tick(): void {
    for (const smooth of this.list) smooth.tick()
    this.write(this.values)
  }

  process(block: StereoBlock, frames: number): void {
    foldToMono(block, frames)
    this.clipping?.process(block.left, frames, block.at)
  }

  reset(): void {
    this.clipping?.reset()
  }
}
