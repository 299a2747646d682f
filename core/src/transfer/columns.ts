import { strokesOn, voiceOf } from '@fulgor/core/guitar'
import { modelOf } from '@fulgor/core/catalogue'
import { averageSpectrum, centroid, loudness } from '@fulgor/core/measure'
import {
  asPlayed,
  chainAlone,
  clippingStages,
  frozen,
  GUITAR_STAGE,
  handOf,
  heardStages,
  judgedDry,
  onGuitar,
  resolveValues,
  type Fit,
  type Preset,
} from '@fulgor/core/preset'
import { inputsOf, type Dry, type RenderTaps } from '@fulgor/core/reading'
import { feelOf, levelsFrom, type Sound, type Tap } from '@fulgor/core/render'
import { restingGuitar } from '@fulgor/core/riffs'
import { proposeInput, type InputFit } from './propose'

/** What a snapshot is on one guitar. Levels in dBFS; null where there is nothing to tell. */
export interface TransferColumn {
  /** RMS of the riff before the first stage that clips, and its brightness there, Hz. */
  readonly driveDbfs: number | null
  readonly brightnessHz: number | null
  /** dB from a normal stroke, as it reaches the chain, up to where the chain distorts by 3 %: negative where it does on softer ones. */
  readonly edgeDb: number | null
  /** Of the guitar at rest, as it reaches the chain. */
  readonly noiseDbfs: number | null
  /** dB that the noise lies under the threshold of a gate, the closest one; null without a gate. */
  readonly gateRoomDb: number | null
  /** By gate: peak of the noise at it and its threshold as they stand, dBFS. */
  readonly gates: Readonly<Record<string, { readonly noiseDbfs: number; readonly thresholdDbfs: number }>>
  readonly lufs: number | null
}

const REST_S = 2
const SETTLED_S = 1
/** dBFS of the softest tone of the sweep. */
const FEEL_FROM = -60
/** % from which a chain counts as breaking up. */
const EDGE_THD = 3

const sides = ({ left, right, stereo }: Sound) => (stereo ? [left, right] : [left])
const peakDb = (x: Float32Array): number => 20 * Math.log10(x.reduce((most, v) => Math.max(most, Math.abs(v)), 1e-9))
const meanSquare = (signal: readonly Float32Array[]): number =>
  signal.reduce((sum, x) => sum + x.reduce((s, v) => s + v * v, 0) / x.length, 0) / signal.length
const rmsDb = (x: Float32Array): number => 10 * Math.log10(x.reduce((sum, v) => sum + v * v, 0) / x.length + 1e-18)

/** Normal strums of the hand of a snapshot as they reach the chain: behind the knobs and what is set right for the guitar. */
export function atTheChain(preset: Preset, snapshot: string | null, render: RenderTaps, sampleRate: number): Float32Array {
  const { profile, pickup } = handOf(preset, snapshot)
  const voice = voiceOf(profile, pickup)
  return throughGuitar(
    preset,
    snapshot,
    { key: `strums ${JSON.stringify(voice)}`, samples: strokesOn(voice, 'normal', sampleRate) },
    render,
  )
}

/** A dry signal behind the stage before the chain. */
function throughGuitar(preset: Preset, snapshot: string | null, dry: Dry, render: RenderTaps): Float32Array {
  const first = asPlayed(preset).chain.at(0)
  if (first?.id !== GUITAR_STAGE) return dry.samples
  const tap = render(preset, snapshot ?? preset.snapshots[0].id, dry).next()
  return tap.value.sound.left
}

/** dBFS at the chain at which a tone of 220 Hz distorts by 3 %, without modulation, delay and reverb; it hangs on no guitar. */
export function edgeOfChain(preset: Preset, snapshot: string, render: RenderTaps, sampleRate: number): number | null {
  const alone = chainAlone(preset)
  const plain = frozen(alone, snapshot, judgedDry(alone.chain, resolveValues(alone, snapshot)))
  const feel = feelOf(
    (input) => last(render(plain, snapshot, { key: 'tone 220', samples: Float32Array.from(input) })).sound.left,
    sampleRate,
    levelsFrom(FEEL_FROM),
  )
  return feel.edges.find((e) => e.thd === EDGE_THD)?.inputDb ?? null
}

function last(taps: Generator<Tap, Tap>): Tap {
  for (;;) {
    const { value, done } = taps.next()
    if (done) return value
  }
}

/**
 * All figures of a snapshot on the hand that it has in this preset.
 * @param riff what it is played on
 * @param edgeDbfs of {@link edgeOfChain}
 */
export function columnOf(
  preset: Preset,
  snapshot: string,
  riff: Dry,
  edgeDbfs: number | null,
  render: RenderTaps,
  sampleRate: number,
): TransferColumn {
  const played = asPlayed(preset)
  const inputs = inputsOf(played.chain)
  const before = placeBefore(preset, snapshot)
  const whole = riff.samples
  let drive: Sound = { left: whole, right: whole, stereo: false }
  const taps = render(preset, snapshot, riff)
  let next = taps.next()
  for (; !next.done; next = taps.next()) if (next.value.stage === before) drive = next.value.sound
  const out = next.value.sound
  const noise = noiseOf(preset, snapshot, inputs, render, sampleRate)
  const rooms = Object.values(noise.gates).map((g) => g.thresholdDbfs - g.noiseDbfs)
  const stroke = peakDb(atTheChain(preset, snapshot, render, sampleRate))
  return {
    driveDbfs: Math.max(-140, 10 * Math.log10(meanSquare(sides(drive)) + 1e-18)),
    brightnessHz: centroid(averageSpectrum(sides(drive), sampleRate)),
    edgeDb: edgeDbfs === null ? null : edgeDbfs - stroke,
    noiseDbfs: noise.inDbfs,
    gateRoomDb: rooms.length === 0 ? null : Math.min(...rooms),
    gates: noise.gates,
    lufs: loudness([out.left, out.right], sampleRate).integratedLufs,
  }
}

function noiseOf(preset: Preset, snapshot: string, inputs: Readonly<Record<string, string>>, render: RenderTaps, sampleRate: number) {
  const { profile, pickup } = handOf(preset, snapshot)
  const { noise } = voiceOf(profile, pickup)
  const rest: Dry = { key: `rest ${JSON.stringify(noise)}`, samples: restingGuitar(REST_S, sampleRate, noise) }
  const settled = Math.round(SETTLED_S * sampleRate)
  const late = (x: Float32Array) => x.subarray(settled)
  const values = resolveValues(asPlayed(preset), snapshot)
  const gateStages = heardStages(preset, snapshot).filter((s) => modelOf(s.model).family === 'gate')
  const atChain = throughGuitar(preset, snapshot, rest, render)
  const places = new Map<string, Float32Array>([['', rest.samples]])
  // nothing behind the last gate is rendered
  const wanted = new Set(gateStages.flatMap(({ id }) => (inputs[id] === '' ? [] : [inputs[id]])))
  for (const taps = render(preset, snapshot, rest); wanted.size > 0;) {
    const { value, done } = taps.next()
    places.set(value.stage, value.sound.left)
    wanted.delete(value.stage)
    if (done) break
  }
  const gates = Object.fromEntries(
    gateStages.map((stage) => {
      const { params } = values[stage.id]
      const heard = params.key === 'dry' ? atChain : (places.get(inputs[stage.id]) ?? atChain)
      return [stage.id, { noiseDbfs: peakDb(late(heard)), thresholdDbfs: Number(params.threshold) }]
    }),
  )
  return { inDbfs: rmsDb(late(atChain)), gates }
}

/** dB that a gate's threshold lies over the noise at least (common practice, no source). */
export const GATE_ROOM_DB = 6

/**
 * What thresholds are to be moved by so that the noise holds no gate open that it did not before, by gate and snapshot. Where a gate had
 * less room than {@link GATE_ROOM_DB} as it was made, that much is enough.
 */
export function proposeGates(
  made: Readonly<Record<string, Pick<TransferColumn, 'gates'>>>,
  now: Readonly<Record<string, Pick<TransferColumn, 'gates'>>>,
): Fit['gates'] {
  const moves: Record<string, Record<string, number>> = {}
  for (const [snapshot, { gates }] of Object.entries(now))
    for (const [id, gate] of Object.entries(gates)) {
      const before = made[snapshot].gates[id] as (typeof gates)[string] | undefined
      const room = before ? Math.min(GATE_ROOM_DB, before.thresholdDbfs - before.noiseDbfs) : GATE_ROOM_DB
      const move = Math.ceil(gate.noiseDbfs + room - gate.thresholdDbfs)
      if (move > 0) moves[id] = { ...(moves[id] as Record<string, number> | undefined), [snapshot]: move }
    }
  return moves
}

/** dB by which each snapshot is to be trimmed to be as loud as it was made, by snapshot; what is near enough is left out. */
export function proposeTrims(made: Readonly<Record<string, number | null>>, now: Readonly<Record<string, number | null>>): Fit['trims'] {
  return Object.fromEntries(
    Object.entries(made).flatMap(([id, lufs]) => {
      const here = now[id]
      if (lufs === null || here === null || here === undefined) return []
      const db = Math.round(10 * Math.max(-30, Math.min(30, lufs - here))) / 10
      return Math.abs(db) < 0.1 ? [] : [[id, db]]
    }),
  )
}

/**
 * What the other guitar needs at the input to be the one that the preset was made on.
 * @param snapshots that are listened to
 * @param riffOf what a snapshot is played on, on the hand that it has in that preset
 */
export function inputFor(
  made: Preset,
  other: Preset,
  snapshots: readonly string[],
  riffOf: (preset: Preset, snapshot: string) => Dry,
  render: RenderTaps,
  sampleRate: number,
): InputFit {
  const heard = snapshots.map((id) => ({
    made: beforeClipping(made, id, riffOf(made, id), render),
    other: beforeClipping(other, id, riffOf(other, id), render),
  }))
  const { guitar, position } = handOf(other, null)
  const fittedWith = (bands: Pick<Fit, 'low' | 'bell' | 'high'>): Preset =>
    onGuitar(other, guitar, position, { trim: 0, gates: {}, trims: {}, ...bands })
  return proposeInput(
    heard,
    sampleRate,
    peakDb(atTheChain(made, null, render, sampleRate)),
    (bands) => peakDb(atTheChain(fittedWith(bands), null, render, sampleRate)),
    (bands) => {
      const fitted = fittedWith(bands)
      return snapshots.map((id) => beforeClipping(fitted, id, riffOf(fitted, id), render))
    },
  )
}

/** A part as it comes to the first stage that clips; nothing behind it is rendered. */
function beforeClipping(preset: Preset, snapshot: string, riff: Dry, render: RenderTaps): Float32Array {
  const place = placeBefore(preset, snapshot)
  if (place === '') return riff.samples
  for (const taps = render(preset, snapshot, riff); ;) {
    const { value, done } = taps.next()
    if (value.stage === place || done) return value.sound.left
  }
}

/** What stands before the first stage that clips, or without one before the chain: a stage, or '' for the guitar. */
function placeBefore(preset: Preset, snapshot: string): string {
  const { chain } = asPlayed(preset)
  const clip = clippingStages(preset, snapshot).at(0)
  return clip ? inputsOf(chain)[clip.id] : chain[0]?.id === GUITAR_STAGE ? GUITAR_STAGE : ''
}
