import { expose } from 'comlink'
import {
  alignTo,
  audible,
  bandsOf,
  blendId,
  blendResponse,
  cancellation,
  centroidOf,
  channelSpectrum,
  CURVE_HZ,
  curvePower,
  exportBlend,
  groupKinds,
  loudnessGainDb,
  pinkWeights,
  placedChannels,
  powerDb,
  responseTaps,
  sourceTaps,
  spectrumOf,
  sumOf,
  type Alignment,
  type BenchChannel,
  type Cancellation,
  type ExportSettings,
  type HalfSpectrum,
  type Kind,
  type MicBench,
  type Timbre,
  type Weights,
} from '@fulgor/core/cabinet'
import { createChannel } from '@fulgor/core/catalogue'
import { writeWav } from '@fulgor/core/formats'
import { threadOf } from '../background/serve'
import type { Task } from '../background/tasks'
import { fileSource, loadFiles } from './responseFiles'
import { SAMPLE_RATE } from './rate'

/** One channel as the bench draws it. */
export interface ChannelPicture {
  readonly id: string
  /** dB at CURVE_HZ as it goes into the sum; null where its file is missing. */
  readonly db: number[] | null
  /** Loudness against the main channel, dB. */
  readonly againstMainDb: number | null
  /** Of the chosen channel: µs by which it comes later than the main one as it stands, and whether it lies the other way round. */
  readonly late: Alignment | null
  /** The first {@link ARRIVAL_MS} ms, the highest point at 1, time zero as drawn. */
  readonly arrival: number[]
  /** ms at which its first sound stands in {@link arrival}. */
  readonly onsetMs: number
}

export interface BenchPicture {
  readonly hz: readonly number[]
  readonly channels: readonly ChannelPicture[]
  readonly sum: number[] | null
  /** As it stands, and with all delays at zero and polarities as they came. */
  readonly now: Cancellation
  readonly placed: Cancellation
  readonly timbre: Timbre | null
  /** ms that computing took. */
  readonly ms: number
}

/** What the arrivals are drawn over. */
export const ARRIVAL_MS = 2

const frames = (bench: MicBench): number => bench.frames

function pictureOf(bench: MicBench, selected: string): BenchPicture {
  const start = performance.now()
  const spectra = bench.channels.map((c) => channelSpectrum(bench.cab, c, frames(bench), SAMPLE_RATE, fileSource))
  const heard = new Set(audible(bench.channels).map((c) => c.id))
  const powers = spectra.map((s) => (s ? curvePower(s) : null))
  const main = spectra[0]
  const loud = (s: HalfSpectrum | null) => (s ? loudnessGainDb(s.re, s.im, s.binHz, pinkWeights(s.re.length, s.binHz)) : null)
  const mainLoud = loud(main)
  const sum = sumSpectrum(bench.channels.flatMap((c, i) => (heard.has(c.id) ? [spectra[i]] : [])))
  const sumPower = sum ? curvePower(sum) : null
  const sounding = bench.channels.flatMap((c, i) => (heard.has(c.id) ? [powers[i] ?? []] : [])).filter((p) => p.length > 0)
  const now = sumPower ? cancellation(sounding as Float64Array[], sumPower) : cancellation([], new Float64Array(0))
  const arrivals = arrivalsOf(bench)
  const channels = bench.channels.map((c, i): ChannelPicture => {
    const own = loud(spectra[i])
    const power = powers[i]
    const s = spectra[i]
    return {
      id: c.id,
      db: power ? Array.from(power, powerDb) : null,
      againstMainDb: own === null || mainLoud === null ? null : own - mainLoud,
      late: i === 0 || c.id !== selected || !s || !main ? null : alignTo(main, s),
      ...arrivals[i],
    }
  })
  const sumLoud = loud(sum) ?? 0
  return {
    hz: CURVE_HZ,
    channels,
    sum: sumPower ? Array.from(sumPower, powerDb) : null,
    now,
    placed: placedCancellation(bench),
    timbre: sum ? { centroidHz: centroidOf(sum), bands: bandsOf(sum, sumLoud) } : null,
    ms: performance.now() - start,
  }
}

const unmoved = (c: BenchChannel): BenchChannel => (c.delay === 0 && !c.inverted ? c : { ...c, delay: 0, inverted: false })

function placedCancellation(bench: MicBench): Cancellation {
  const placed = placedChannels({ ...bench, channels: bench.channels.map(unmoved) }, SAMPLE_RATE, fileSource)
  const sum = sumSpectrum(placed.map((p) => p.spectrum))
  return cancellation(
    placed.map((p) => curvePower(p.spectrum)),
    sum ? curvePower(sum) : new Float64Array(0),
  )
}

function sumSpectrum(spectra: readonly (HalfSpectrum | null)[]): HalfSpectrum | null {
  const there = spectra.flatMap((spectrum) => (spectrum ? [{ spectrum }] : []))
  return there.length === 0 ? null : sumOf(there)
}

/** The start of each channel on one time axis, delay and polarity included. */
function arrivalsOf(bench: MicBench): { arrival: number[]; onsetMs: number }[] {
  const taps = bench.channels.map((c) => sourceTaps(bench.cab, c.source, c.minimumPhase, SAMPLE_RATE, frames(bench), fileSource))
  const onset = (data: Float64Array) => {
    const peak = data.reduce((most, x) => Math.max(most, Math.abs(x)), 0)
    return data.findIndex((x) => Math.abs(x) >= peak * 0.1)
  }
  const onsets = taps.map((data, i) => (data ? onset(data) + bench.channels[i].delay * 1e-6 * SAMPLE_RATE : Infinity))
  const first = Math.min(...onsets)
  const from = Number.isFinite(first) ? first - 0.2e-3 * SAMPLE_RATE : 0
  const count = Math.round((ARRIVAL_MS / 1000) * SAMPLE_RATE)
  return taps.map((data, i) => {
    if (!data) return { arrival: [], onsetMs: 0 }
    const { inverted, delay } = bench.channels[i]
    const peak = data.reduce((most, x) => Math.max(most, Math.abs(x)), 1e-9) * (inverted ? -1 : 1)
    const arrival = Array.from({ length: count }, (_, n) => {
      const at = n + from - delay * 1e-6 * SAMPLE_RATE
      const low = Math.floor(at)
      const part = at - low
      return ((data[low] ?? 0) * (1 - part) + (data[low + 1] ?? 0) * part) / peak
    })
    return { arrival, onsetMs: ((onsets[i] - from) / SAMPLE_RATE) * 1000 }
  })
}

/** Loudness of a response against what the weights describe, dB. */
function responseLoudness(id: string, weights: Weights | null): number {
  const { left, right } = responseTaps(id, SAMPLE_RATE, fileSource)
  const power = [left, right ?? left].map((side) => {
    const s = spectrumOf(side, 65_536, SAMPLE_RATE)
    return Math.pow(10, loudnessGainDb(s.re, s.im, s.binHz, weights ?? pinkWeights(s.re.length, s.binHz)) / 10)
  })
  return 10 * Math.log10((power[0] + power[1]) / 2)
}

const tasks = {
  /** Taps of any response for the audio thread. */
  async taps(_task: Task, id: string): Promise<{ left: Float64Array; right: Float64Array | null }> {
    await loadFiles([id])
    return responseTaps(id, SAMPLE_RATE, fileSource)
  },

  async picture(_task: Task, bench: MicBench, selected: string): Promise<BenchPicture> {
    await loadFiles([blendId({ ...bench, channels: bench.channels.map((c) => ({ ...c, muted: false, solo: false })) })])
    return pictureOf(bench, selected)
  },

  /** How a channel lies against the main one as both came: without delay and polarity. */
  async align(_task: Task, bench: MicBench, channelId: string): Promise<Alignment> {
    const channel = bench.channels.find((c) => c.id === channelId)
    if (!channel) throw new Error('The channel is no longer there.')
    await loadFiles([blendId(bench)])
    const main = channelSpectrum(bench.cab, bench.channels[0], frames(bench), SAMPLE_RATE, fileSource)
    const other = channelSpectrum(bench.cab, unmoved(channel), frames(bench), SAMPLE_RATE, fileSource)
    if (!main || !other) throw new Error('its file is not on this machine.')
    return alignTo(main, other)
  },

  /** dB by which a response must be turned up to be as loud as another one, for what the weights describe. */
  async matchDb(_task: Task, id: string, reference: string, weights: Weights | null): Promise<number> {
    await loadFiles([id, reference])
    return responseLoudness(reference, weights) - responseLoudness(id, weights)
  },

  /** The level at which a channel is as loud as the main one. */
  async levelLike(task: Task, bench: MicBench, channelId: string): Promise<number> {
    const { channels } = await tasks.picture(task, bench, '')
    const own = channels.find((c) => c.id === channelId)?.againstMainDb
    const level = bench.channels.find((c) => c.id === channelId)?.level ?? 0
    return own === null || own === undefined ? level : level - own
  },

  async export(
    _task: Task,
    bench: MicBench,
    settings: ExportSettings,
  ): Promise<{ bytes: Uint8Array<ArrayBuffer>; gainDb: number; heldDb: number }> {
    await loadFiles([blendId(bench)])
    const { channels, gainDb, heldDb } = exportBlend(bench, settings, fileSource)
    return { bytes: writeWav(channels, settings.sampleRate, settings.bits), gainDb, heldDb }
  },

  group(_task: Task, all: readonly Timbre[], count: number): Kind[] {
    return groupKinds(all, count)
  },

  /** A stored file's curve, dB at CURVE_HZ at unity loudness, for drawing a candidate over the blend. */
  async curveOf(_task: Task, file: string): Promise<number[]> {
    const bench: MicBench = {
      cab: { driver: 'bright', size: '12', drivers: '1', back: 'open' },
      channels: [createChannel('x', { kind: 'file', file, name: 'x', side: 'sum' })],
      frames: 2_048,
    }
    await loadFiles([blendId(bench)])
    const { left } = blendResponse(bench, SAMPLE_RATE, fileSource)
    return Array.from(curvePower(spectrumOf(left, 8_192, SAMPLE_RATE)), powerDb)
  },
}

export type CabinetTasks = typeof tasks
expose(threadOf(tasks))
