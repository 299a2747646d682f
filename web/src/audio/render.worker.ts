import { expose } from 'comlink'
import { cabinetResponses, synthesiseResponse } from '@fulgor/core/cabinet'
import { readWav } from '@fulgor/core/formats'
import { outputMeasures, stageMeasures, type OutputMeasures, type StageMeasures } from '@fulgor/core/measure'
import type { Preset, StageNode } from '@fulgor/core/preset'
import { Renderer, stageResponse, stageTail, stageTransfer, type Sound, type Tap } from '@fulgor/core/render'
import { synthesiseRiff, type Strength } from '@fulgor/core/riffs'
import { resample } from '@fulgor/core/signal'

/** Where a dry signal comes from. */
export type RiffSource = { kind: 'shipped'; id: string; strength: Strength; bpm: number } | { kind: 'asset'; hash: string }

export interface MeasureJob {
  readonly token: number
  readonly preset: Preset
  readonly snapshot: string
  readonly riff: RiffSource
  readonly sampleRate: number
}

export type ChartData =
  | { kind: 'response'; hz: number[]; db: number[] }
  | { kind: 'transfer'; inputDb: number[]; outputDb: number[] }
  | { kind: 'tail'; ms: number[]; db: number[] }

const responseCache = new Map<string, Float64Array>()
const riffs = new Map<string, Promise<Float32Array>>()
const stageCache = new Map<number, StageMeasures>()
const outputCache = new Map<number, OutputMeasures>()
const renderers = new Map<number, Renderer>()
let wanted = 0

function context(sampleRate: number) {
  return {
    responses: (id: string) => {
      const key = `${id} ${sampleRate}`
      let taps = responseCache.get(key)
      if (!taps) responseCache.set(key, (taps = synthesiseResponse(id, sampleRate)))
      return taps
    },
  }
}

function rendererFor(sampleRate: number): Renderer {
  let renderer = renderers.get(sampleRate)
  if (!renderer) renderers.set(sampleRate, (renderer = new Renderer(context(sampleRate))))
  return renderer
}

const riffKey = (source: RiffSource, sampleRate: number): string => `${JSON.stringify(source)} ${sampleRate}`

function loadRiff(source: RiffSource, sampleRate: number): Promise<Float32Array> {
  const key = riffKey(source, sampleRate)
  let riff = riffs.get(key)
  if (!riff) {
    riff =
      source.kind === 'shipped'
        ? Promise.resolve(synthesiseRiff(source.id, source.strength, source.bpm, sampleRate))
        : fetchRiff(source.hash, sampleRate)
    riff.catch(() => riffs.delete(key))
    riffs.set(key, riff)
    if (riffs.size > 12) riffs.delete([...riffs.keys()][0])
  }
  return riff
}

/** The player's own file: both sides summed, at the engine's rate. */
async function fetchRiff(hash: string, sampleRate: number): Promise<Float32Array> {
  const answer = await fetch(`/api/assets/${hash}`)
  if (!answer.ok) throw new Error('The riff of this preset is not on this machine; choose another one.')
  const { channels, sampleRate: rate } = readWav(new Uint8Array(await answer.arrayBuffer()))
  const mono = channels.length === 1 ? channels[0] : channels[0].map((x, n) => 0.5 * (x + channels[1][n]))
  return resample(mono, rate, sampleRate)
}

const channelsOf = ({ left, right, stereo }: Sound): Float64Array[] => (stereo ? [left, right] : [left])

function measureTap(tap: Tap, sampleRate: number): StageMeasures {
  let found = stageCache.get(tap.key)
  if (!found) stageCache.set(tap.key, (found = stageMeasures(channelsOf(tap.sound), sampleRate)))
  return found
}

/** Lets messages in, such as a cancel. */
const breathe = (): Promise<void> =>
  new Promise((done) => {
    const { port1, port2 } = new MessageChannel()
    port1.onmessage = () => {
      port1.close()
      done()
    }
    port2.postMessage(0)
  })

const worker = {
  /** Measures one snapshot, telling each stage as it is ready. @returns null when a newer token came meanwhile */
  async measure(job: MeasureJob, onStage: (stage: string, measures: StageMeasures) => void): Promise<OutputMeasures | null> {
    wanted = Math.max(wanted, job.token)
    const { sampleRate } = job
    const dry = await loadRiff(job.riff, sampleRate)
    const taps = rendererFor(sampleRate).render({
      preset: job.preset,
      snapshot: job.snapshot,
      dryKey: riffKey(job.riff, sampleRate),
      dry,
      sampleRate,
    })
    for (;;) {
      if (job.token < wanted) return null
      const { value: tap, done } = taps.next()
      if (done) {
        let output = outputCache.get(tap.key)
        if (!output) {
          // a chain that is still mono is heard on both sides
          const sound = [tap.sound.left, tap.sound.right]
          outputCache.set(tap.key, (output = outputMeasures(sound, sampleRate, measureTap(tap, sampleRate))))
        }
        return output
      }
      onStage(tap.stage, measureTap(tap, sampleRate))
      await breathe()
    }
  },

  cancel(token: number): void {
    wanted = Math.max(wanted, token)
  },

  riff(source: RiffSource, sampleRate: number): Promise<Float32Array> {
    return loadRiff(source, sampleRate)
  },

  responses(sampleRate: number): Record<string, Float64Array> {
    return Object.fromEntries(cabinetResponses.map(({ id }) => [id, context(sampleRate).responses(id)]))
  },

  async render(job: Omit<MeasureJob, 'token'>): Promise<{ left: Float64Array; right: Float64Array }> {
    const dry = await loadRiff(job.riff, job.sampleRate)
    const taps = rendererFor(job.sampleRate).render({ ...job, dryKey: riffKey(job.riff, job.sampleRate), dry })
    let next = taps.next()
    while (!next.done) next = taps.next()
    return { left: next.value.sound.left, right: next.value.sound.right }
  },

  chart(kind: ChartData['kind'], stage: StageNode, tempo: number, sampleRate: number): ChartData {
    const build = context(sampleRate)
    if (kind === 'response') {
      const hz = Array.from({ length: 120 }, (_, i) => 20 * Math.pow(1000, i / 119))
      const { re, im } = stageResponse(stage, hz, build, sampleRate, tempo, 8192)
      return { kind, hz, db: re.map((r, i) => 20 * Math.log10(Math.hypot(r, im[i]) + 1e-9)) }
    }
    if (kind === 'transfer') {
      const inputDb = Array.from({ length: 25 }, (_, i) => -72 + i * 3)
      return { kind, inputDb, outputDb: stageTransfer(stage, inputDb, build, sampleRate, tempo) }
    }
    const seconds = stage.model.startsWith('reverb') ? Math.min(8, Number(stage.params.decay) * 1.1 + 0.3) : 3
    return { kind, ...stageTail(stage, seconds, seconds * 4, build, sampleRate, tempo) }
  },
}

export type RenderWorker = typeof worker
expose(worker)
