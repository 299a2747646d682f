import { instantiate } from './kernel'
import { Notes } from './notes'

/** A place in a machine's memory, bytes. */
export type Pointer = number

/** What core/kernel/engine.ts and its effects export; a side of a block is a chunk of f32, right 0 where it is mono. */
export interface EngineKernel {
  memory: WebAssembly.Memory
  alloc(bytes: number): Pointer
  newest(): Pointer
  release(mark: Pointer): void
  rowAt(): Pointer
  rowRun(row: Pointer): number
  rowSpan(
    row: Pointer,
    count: number,
    left: Pointer,
    right: Pointer,
    from: Pointer,
    fromRight: Pointer,
    side: Pointer,
    key: Pointer,
    to: Pointer,
    toRight: Pointer,
  ): number
  stageCreate(patience: number): Pointer
  stageReset(stage: Pointer): void
  stageBegin(stage: Pointer): number
  stageEnter(stage: Pointer, left: Pointer, right: Pointer): number
  stageLeave(stage: Pointer, left: Pointer, right: Pointer, level: number, step: number): void
  share(left: Pointer, right: Pointer, own: number, other: number): void
  silence(left: Pointer, right: Pointer): void
  peak(data: Pointer): number
  copy(left: Pointer, right: Pointer, fromLeft: Pointer, fromRight: Pointer): void
  add(left: Pointer, right: Pointer, fromLeft: Pointer, fromRight: Pointer): void
  turn(left: Pointer, right: Pointer, value: number, step: number): void
  crossfade(left: Pointer, right: Pointer, otherLeft: Pointer, otherRight: Pointer, share: number, step: number): void
  mix(to: Pointer, from: Pointer, a: number, stepA: number, b: number, stepB: number): void
  fold(to: Pointer, left: Pointer, right: Pointer): void
  ringCreate(size: number): Pointer
  ringReset(ring: Pointer): void
  ringPut(ring: Pointer, data: Pointer): void
  ringTake(ring: Pointer, data: Pointer, back: number): void
  ringPass(ring: Pointer, data: Pointer, back: number): void
  ringSwap(ring: Pointer, data: Pointer, back: number, before: number, share: number, step: number): void
  ringBend(ring: Pointer, data: Pointer, moving: Pointer): void
  ringTap(ring: Pointer, data: Pointer, back: number, gain: number): void
  ringAllpass(ring: Pointer, data: Pointer, length: number, gain: number): void
  ringSweep(ring: Pointer, data: Pointer, length: number, slope: number, gain: number): void
  pitchBestPlace(ring: Pointer, size: number, write: number, at: number, length: number, first: number, last: number): number
  pitchCreate(size: number): Pointer
  pitchReset(voice: Pointer): void
  pitchProcess(voice: Pointer, data: Pointer): void
  place(left: Pointer, right: Pointer, width: number, widthStep: number, pan: number, panStep: number): void
  plateCreate(): Pointer
  plateHalfAt(plate: Pointer, half: number): Pointer
  plateLine(plate: Pointer, k: number, size: number, frames: number): void
  plateTap(plate: Pointer, k: number, line: number, back: number, gain: number): void
  plateReset(plate: Pointer): void
  plateProcess(plate: Pointer, feed: Pointer, left: Pointer, right: Pointer): void
  delayCreate(size: number): Pointer
  delaySettingsCreate(): Pointer
  delayReset(delay: Pointer): void
  delayProcess(delay: Pointer, settings: Pointer, data: Pointer): void
  echoCreate(size: number): Pointer
  echoLineAt(echo: Pointer, second: number): Pointer
  echoDiffuser(line: Pointer, k: number, size: number, length: number): void
  echoReset(echo: Pointer): void
  echoProcess(echo: Pointer, left: Pointer, right: Pointer, two: number, saturates: number): void
  gateCreate(): Pointer
  gateProcess(gate: Pointer, left: Pointer, right: Pointer, key: Pointer): void
  bandCreate(): Pointer
  bandReset(band: Pointer): void
  bandProcess(band: Pointer, left: Pointer, right: Pointer): void
  biquadCreate(): Pointer
  biquadReset(section: Pointer): void
  biquadSettle(section: Pointer): void
  biquadProcess(section: Pointer, left: Pointer, right: Pointer): void
  biquadGlide(section: Pointer, left: Pointer, right: Pointer): void
  clippingCreate(octaves: number): Pointer
  clippingProgramAt(stage: Pointer): Pointer
  clippingRaisedAt(stage: Pointer): Pointer
  clippingCoefficientsAt(): Pointer
  clippingFold(): void
  clippingFree(stage: Pointer): void
  clippingReset(stage: Pointer): void
  clippingProcess(stage: Pointer, data: Pointer): void
  clippingRun(stage: Pointer, frames: number): void
  compressorCreate(): Pointer
  compressorProcess(compressor: Pointer, left: Pointer, right: Pointer, detector: number): void
  convolutionFactorsAt(size: number): Pointer
  convolutionCreate(frames: number): Pointer
  convolutionFree(convolution: Pointer): void
  convolutionTapsAt(convolution: Pointer): Pointer
  convolutionPrepare(convolution: Pointer): void
  convolutionReset(convolution: Pointer): void
  convolutionProcess(convolution: Pointer, data: Pointer): void
  modulatedDelayCreate(size: number): Pointer
  modulatedDelayReset(delay: Pointer): void
  modulatedDelayProcess(delay: Pointer, left: Pointer, right: Pointer): void
  phaseShifterCreate(): Pointer
  phaseShifterCoefficientsAt(shifter: Pointer): Pointer
  phaseShifterSlopesAt(shifter: Pointer): Pointer
  phaseShifterReset(shifter: Pointer): void
  phaseShifterProcess(shifter: Pointer, left: Pointer, right: Pointer): void
  networkCreate(lineSize: number, diffuserSize: number): Pointer
  networkSettingsAt(network: Pointer): Pointer
  networkReset(network: Pointer): void
  networkProcess(network: Pointer, feed: Pointer, left: Pointer, right: Pointer, level: number): void
  rotaryCreate(size: number): Pointer
  rotaryReset(rotary: Pointer): void
  rotaryProcess(rotary: Pointer, left: Pointer, right: Pointer): void
  springCreate(sections: number, stretch: number, frames: number, size: number): Pointer
  springInputAt(spring: Pointer): Pointer
  springOutputAt(spring: Pointer): Pointer
  springReset(spring: Pointer): void
  springProcess(spring: Pointer, coefficient: number): void
  springTurn(spring: Pointer, feed: Pointer, out: Pointer, coefficient: number, gain: number): void
}

/**
 * One instance of the engine's kernels and its memory, in which the blocks and effects of one chain lie. What is made in it stays until
 * the machine goes, or until it is given back: a chain that plays for hours must not grow with every change.
 */
export class Machine {
  private readonly own = instantiate('engine') as EngineKernel
  private notes: Notes | null = null
  /** The kernels, or who takes down what is asked of them. */
  private asked = this.own
  private buffer = this.kernel.memory.buffer
  private keepers = new Set<(buffer: ArrayBuffer) => void>()
  private readonly done = new Set<string>()

  get kernel(): EngineKernel {
    return this.asked
  }

  /** Calls `take` with the memory, now and whenever it has grown: views on it end then. @returns what ends that */
  keep(take: (buffer: ArrayBuffer) => void): () => void {
    this.keepers.add(take)
    take(this.buffer)
    return () => void this.keepers.delete(take)
  }

  /** What makes something in the memory. */
  make(create: (kernel: EngineKernel) => Pointer): Pointer {
    const at = create(this.kernel)
    const { buffer } = this.kernel.memory
    if (buffer !== this.buffer) {
      this.buffer = buffer
      for (const take of this.keepers) take(buffer)
    }
    return at
  }

  /** Gives back what `work` makes in it, which nothing may use afterwards. */
  passing<T>(work: () => T): T {
    const mark = this.kernel.newest()
    const keepers = new Set(this.keepers)
    try {
      return work()
    } finally {
      this.kernel.release(mark)
      this.keepers = keepers
    }
  }

  /** Somebody's work is being taken down. */
  get isNoting(): boolean {
    return this.asked !== this.own
  }

  /**
   * Takes down what is asked of the kernels from now on, until {@link endNote}.
   * @param row {@link rowBytes} of the most steps in the memory
   */
  note(row: Pointer, steps: number): void {
    this.notes ??= new Notes(this.own)
    this.notes.start(row, steps)
    this.asked = this.notes.kernel
  }

  /** Where the next step of a row that is being taken down comes to stand. */
  get nextStep(): Pointer {
    return this.notes?.next ?? 0
  }

  /** @returns whether {@link EngineKernel.rowRun} can repeat it */
  endNote(): boolean {
    this.asked = this.own
    return this.notes?.finish() ?? false
  }

  /** Writes what is the same for all effects of a kind, once. */
  once(name: string, write: (buffer: ArrayBuffer) => void): void {
    if (this.done.has(name)) return
    this.done.add(name)
    write(this.kernel.memory.buffer)
  }
}

let shared: Machine | null = null

/**
 * Does some work in a machine that is kept for work that ends at once: to start one costs more than a light stage does, and for some
 * thousand calls a fresh instance is called more slowly. What is made there ends with the work.
 */
export function inPassing<T>(work: (machine: Machine) => T): T {
  const machine = (shared ??= new Machine())
  // after a failure nothing is known of its memory
  shared = null
  const done = machine.passing(() => work(machine))
  shared = machine
  return done
}
