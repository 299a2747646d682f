import { buildUp, outputMeasures, stereoFigures, type Band, type OutputMeasures, type StereoFigures } from '@fulgor/core/measure'
import type { Layer } from '@fulgor/core/preset'
import { CHUNK, createBlock, dbToGain, Machine, PITCH_LATENCY_MS, PitchShift, Placing, spreadToStereo } from '@fulgor/core/signal'

export type Placement = Pick<Layer, 'level' | 'pan' | 'delay' | 'detune'>
export type Sides = readonly [left: Float32Array, right: Float32Array]

/**
 * A rendered sound as it stands in a mix: detuned, delayed, panned (the near side keeps its level) and at its level.
 * @param frames length of the mix; what is shorter is played again from its start
 */
export function placeLayer([left, right]: Sides, { level, pan, delay, detune }: Placement, frames: number, sampleRate: number): Sides {
  const placing = new Placing()
  const pitch = detune === 0 ? null : new PitchShift()
  const machine = new Machine()
  placing.prepare(sampleRate, machine)
  placing.set({ pan, delay }, true)
  pitch?.prepare(sampleRate, machine)
  pitch?.set({ cents: detune, apart: 0, tone: 20_000, mix: 100 }, true)
  // a shifted voice comes late by so much on average: it is let out that much early
  const ahead = pitch ? Math.round((PITCH_LATENCY_MS / 1000) * sampleRate) : 0
  const gain = dbToGain(level)
  const out: Sides = [new Float32Array(frames), new Float32Array(frames)]
  const block = createBlock(machine)
  for (let start = 0; start < frames + ahead; start += CHUNK) {
    const count = Math.min(CHUNK, frames + ahead - start)
    block.stereo = true
    for (let i = 0; i < count; i++) {
      block.left[i] = gain * left[(start + i) % left.length]
      block.right[i] = gain * right[(start + i) % right.length]
    }
    pitch?.tick()
    placing.tick()
    pitch?.process(block)
    placing.process(block)
    spreadToStereo(block)
    for (let i = Math.max(0, ahead - start); i < count; i++) {
      out[0][start + i - ahead] = block.left[i]
      out[1][start + i - ahead] = block.right[i]
    }
  }
  return out
}

export interface MixFigures {
  readonly output: OutputMeasures
  readonly stereo: StereoFigures
  /** dB of each third octave of the sum over the loudest layer in it. */
  readonly buildUp: readonly Band[]
  /** Of each layer as it stands in the mix. */
  readonly layers: readonly OutputMeasures[]
}

/** The sum of layers and what it measures. @throws RangeError without a layer */
export function mixLayers(stems: readonly Sides[], sampleRate: number): { sum: Sides; figures: MixFigures } {
  if (stems.length === 0) throw new RangeError('A mix needs at least one layer that is on.')
  const frames = Math.max(...stems.map(([l]) => l.length))
  const sum: Sides = [new Float32Array(frames), new Float32Array(frames)]
  for (const stem of stems) for (const side of [0, 1] as const) for (let n = 0; n < stem[side].length; n++) sum[side][n] += stem[side][n]
  return {
    sum,
    figures: {
      output: outputMeasures(sum, sampleRate),
      stereo: stereoFigures(sum, sampleRate),
      buildUp: buildUp(sum, stems, sampleRate),
      layers: stems.map((stem) => outputMeasures(stem, sampleRate)),
    },
  }
}
