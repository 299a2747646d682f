import type { BuildContext } from '@fulgor/core/catalogue'
import { loudness } from '@fulgor/core/measure'
import { asPlayed, resolveValues, type Preset } from '@fulgor/core/preset'
import { Biquad, CHUNK, createBlock, design, gainToDb } from '@fulgor/core/signal'
import { Engine } from './engine'

/** What is heard when one snapshot gives way to another while the player goes on. */
export interface SwitchFigures {
  readonly from: string
  readonly to: string
  /** dB that the sound falls, for some 20 ms, under the softer of both snapshots at the same place; 0 where it never does. */
  readonly gapDb: number
  /** LU in the second and a half after it against staying, in the same bars; null where one of them is silent. */
  readonly jumpLu: number | null
  /** Peak above 12 kHz in the 30 ms of the switch that neither snapshot has there, dBFS; null for none. */
  readonly clickDbfs: number | null
}

/** Seconds that are played before and after the switch. */
const BEFORE = 2
const AFTER = 1.6
const JUMP = 1.5
/** Seconds after the switch in which a gap is looked for, and of one look. */
const GAP_REACH = 0.25
const LOOK = 0.02
const CLICK_REACH = 0.03
/** Softer than this both snapshots are silent there, and a gap cannot be heard. */
const SILENCE_DB = -60

interface Run {
  readonly left: Float32Array
  readonly right: Float32Array
}

/**
 * Measures the switches from one snapshot to others, by the engine that plays live.
 * @param dry at least 3.6 s of a riff
 * @throws RangeError when it is shorter
 */
export function* switchFigures(
  preset: Preset,
  from: string,
  targets: readonly string[],
  dry: Float32Array,
  sampleRate: number,
  context: BuildContext,
): Generator<SwitchFigures> {
  // the engine goes on in whole chunks
  const at = Math.round((BEFORE * sampleRate) / CHUNK) * CHUNK
  const frames = at + Math.round(AFTER * sampleRate)
  if (dry.length < frames) throw new RangeError(`A riff of at least ${BEFORE + AFTER} s is needed to measure a switch.`)
  const play = (first: string, second: string): Run => run(preset, first, second, at, dry.subarray(0, frames), sampleRate, context)
  const stay = play(from, from)
  for (const to of targets) {
    const there = play(to, to)
    const actual = play(from, to)
    yield {
      from,
      to,
      gapDb: gapOf(stay, there, actual, at, sampleRate),
      jumpLu: jumpOf(stay, actual, at, sampleRate),
      clickDbfs: clickOf(stay, there, actual, at, sampleRate),
    }
  }
}

function run(
  unplayed: Preset,
  first: string,
  second: string,
  at: number,
  dry: Float32Array,
  sampleRate: number,
  context: BuildContext,
): Run {
  const preset = asPlayed(unplayed)
  const engine = new Engine({ chain: preset.chain, values: resolveValues(preset, first) }, context, sampleRate)
  const left = Float32Array.from(dry)
  const right = new Float32Array(dry.length)
  engine.process(left.subarray(0, at), right.subarray(0, at), at)
  if (second !== first) engine.setValues(resolveValues(preset, second))
  engine.process(left.subarray(at), right.subarray(at), dry.length - at)
  return { left, right }
}

const power = ({ left, right }: Run, from: number, to: number): number => {
  let sum = 0
  for (let n = from; n < to; n++) sum += left[n] * left[n] + right[n] * right[n]
  return sum / (2 * (to - from))
}

function gapOf(stay: Run, there: Run, actual: Run, at: number, sampleRate: number): number {
  const look = Math.round(LOOK * sampleRate)
  let worst = 0
  for (let n = at; n + look <= at + GAP_REACH * sampleRate; n += look / 2) {
    const start = Math.round(n)
    const softer = Math.min(power(stay, start, start + look), power(there, start, start + look))
    if (10 * Math.log10(softer + 1e-20) < SILENCE_DB) continue
    worst = Math.max(worst, 10 * Math.log10(softer / (power(actual, start, start + look) + 1e-20)))
  }
  return worst
}

function jumpOf(stay: Run, actual: Run, at: number, sampleRate: number): number | null {
  const span = Math.round(JUMP * sampleRate)
  const settle = Math.round(0.1 * sampleRate)
  const start = at + settle
  const of = ({ left, right }: Run) =>
    loudness([left.slice(start, start + span), right.slice(start, start + span)], sampleRate).integratedLufs
  const [before, after] = [of(stay), of(actual)]
  return before === null || after === null ? null : after - before
}

/** Peak above 12 kHz around the switch. */
function topPeak({ left }: Run, at: number, sampleRate: number): number {
  const lead = Math.round(0.02 * sampleRate)
  const span = Math.round(CLICK_REACH * sampleRate)
  const filters = [new Biquad(), new Biquad(), new Biquad()]
  for (const f of filters) design.highPass(f.section, 12_000, Math.SQRT1_2, sampleRate)
  const block = createBlock()
  let peak = 0
  for (let n = at - lead; n < at + span; n += block.left.length) {
    const count = Math.min(block.left.length, at + span - n)
    for (let i = 0; i < count; i++) block.left[i] = left[n + i]
    block.stereo = false
    for (const f of filters) f.process(block)
    // the filters start in the middle of the sound
    for (let i = 0; i < count; i++) if (n + i >= at) peak = Math.max(peak, Math.abs(block.left[i]))
  }
  return peak
}

/** Peak of a click in the actual switch, dBFS; null where both snapshots are as high there. */
export function clickOf(stay: Run, there: Run, actual: Run, at: number, sampleRate: number): number | null {
  const own = topPeak(actual, at, sampleRate)
  const others = Math.max(topPeak(stay, at, sampleRate), topPeak(there, at, sampleRate))
  return own > 1.5 * others && own > 1e-5 ? gainToDb(own) : null
}

/** How much a switch is noticed, for putting the worst first: a gap, a jump beyond what was planned, a click. */
export const switchFault = ({ gapDb, jumpLu, clickDbfs }: SwitchFigures, plannedLu = 0): number =>
  Math.max(0, gapDb - 1) + Math.abs((jumpLu ?? 0) - plannedLu) + (clickDbfs === null ? 0 : Math.max(0, clickDbfs + 60) / 2)
