import { responseLibrary, type MicBench } from '@fulgor/core/cabinet'
import { createBench, createChannel, defaultMic } from '@fulgor/core/catalogue'
import { writeWav } from '@fulgor/core/formats'
import { applyEdit, frozen, judgedDry, resolveValues } from '@fulgor/core/preset'
import { soundOf, playedRiff } from '@fulgor/core/reading'
import { renderPreset } from '@fulgor/core/render'
import { bandOf } from './backing'
import { demoPresets } from './presets'

const RATE = 48_000
/** ms by which the right side comes later; ms and dB of an echo, a dotted eighth at 108 bpm. */
const [LATER_MS, ECHO_MS, ECHO_DB] = [14, 417, -15]
const TIMES = 3
/** Which time the band plays along. */
const BAND_AT = 1

/** The lead's preset as it was last winter: another amp and other microphones. */
function lastWinter() {
  const preset = demoPresets.find((p) => p.id === 'demo-tide-lead')?.preset ?? demoPresets[0].preset
  const snapshot = preset.snapshots[0].id
  const bench: MicBench = {
    ...createBench(),
    cab: { ...createBench().cab, driver: 'warm', back: 'closed', drivers: '4' },
    channels: [
      createChannel('c1', { ...defaultMic('ribbon'), offset: 30, distance: 60 } as never),
      { ...createChannel('c2', { ...defaultMic('coil'), offset: 12, distance: 25 } as never), level: -5, delay: 120 },
    ],
  }
  const cabinet = preset.chain.find((n) => n.kind === 'stage' && n.model === 'cabinet')?.id ?? ''
  const amp = preset.chain.find((n) => n.kind === 'stage' && n.model.startsWith('amp.'))?.id ?? ''
  const other = [
    { type: 'changeModel', stage: amp, model: 'amp.breakwater', gainDb: 0 },
    { type: 'setParam', stage: amp, snapshot, param: 'gain', value: 5.5 },
    { type: 'setParam', stage: amp, snapshot, param: 'treble', value: 4.5 },
    { type: 'setBench', stage: cabinet, snapshot, bench, touched: 'demo' },
  ] as const
  const changed = other.reduce(applyEdit, preset)
  return { preset: frozen(changed, snapshot, judgedDry(changed.chain, resolveValues(changed, snapshot))), snapshot }
}

/** A sound whose peak is at 1. */
function atPeak(sound: ArrayLike<number>): Float32Array {
  const x = Float32Array.from(sound)
  const peak = x.reduce((most, v) => Math.max(most, Math.abs(v)), 1e-9)
  return x.map((v) => v / peak)
}

/** A rough mix to come near to: one take widened, an echo, the band along for a while. Made by rule. */
export function demoReference(): {
  name: string
  bytes: Uint8Array
  frames: number
  sampleRate: number
  marks: { from: number; to: number }[]
} {
  const { preset, snapshot } = lastWinter()
  // the first two bars, played twice
  const twice = [1, 2].map((take) => {
    const played = playedRiff(preset, snapshot, undefined, { ...preset.riff, take })
    if (!played) throw new RangeError('The demo’s lead is played on a shipped riff.')
    const whole = soundOf(played, RATE)
    return whole.subarray(0, whole.length >> 1)
  })
  const dry = new Float32Array(twice[0].length + twice[1].length)
  dry.set(twice[0])
  dry.set(twice[1], twice[0].length)
  const { left: once } = renderPreset(
    { preset, snapshot, dry, sampleRate: RATE },
    { quality: 'live', responses: responseLibrary(RATE, () => null) },
  )
  const take = atPeak(once)
  const band = atPeak(bandOf())
  const length = take.length
  const [left, right] = [new Float32Array(length * TIMES), new Float32Array(length * TIMES)]
  const at = (ms: number) => Math.round((ms * RATE) / 1_000)
  const add = (side: Float32Array, sound: Float32Array, from: number, gain: number) => {
    for (let n = 0; n < Math.min(sound.length, side.length - from); n++) side[from + n] += gain * sound[n]
  }
  const back = Math.pow(10, ECHO_DB / 20)
  for (let time = 0; time < TIMES; time++) {
    for (const [side, late] of [
      [left, 0],
      [right, at(LATER_MS)],
    ] as const) {
      add(side, take, time * length + late, 0.4)
      add(side, take, time * length + late + at(ECHO_MS), 0.4 * back)
      if (time === BAND_AT) add(side, band.subarray(0, length), time * length, 0.35)
    }
  }
  return {
    name: 'Low tide theme, rough mix of last winter',
    bytes: writeWav([left, right], RATE, 16),
    frames: left.length,
    sampleRate: RATE,
    marks: [{ from: 0, to: Math.floor((10 * length) / RATE) / 10 }],
  }
}
