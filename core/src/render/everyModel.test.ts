import { describe, expect, it } from 'vitest'
import { responseLibrary } from '@fulgor/core/cabinet'
import { catalogue, modelOf } from '@fulgor/core/catalogue'
import { blankPreset, createLane, createStage, resolveValues, type ChainNode } from '@fulgor/core/preset'
import { synthesiseRiff } from '@fulgor/core/riffs'
import { Machine, resample } from '@fulgor/core/signal'
import { Engine, renderPreset } from '.'
import { runThrough } from './offline'
import { StageRunner } from './stageRunner'

const rate = 48_000
const contextAt = (sampleRate: number) => ({
  quality: 'live' as const,
  responses: responseLibrary(sampleRate),
})
const riff = synthesiseRiff('open-chords', 'hard', 96, rate).slice(0, rate / 2)
const preset = (chain: readonly ChainNode[]) => ({ ...blankPreset('x'), chain })

function live(chain: readonly ChainNode[], size: number): Float32Array[] {
  const engine = new Engine({ chain, values: resolveValues(preset(chain), null) }, contextAt(rate), rate)
  const left = new Float32Array(riff)
  const right = new Float32Array(left.length)
  for (let at = 0; at < left.length; at += size) {
    const count = Math.min(size, left.length - at)
    engine.process(left.subarray(at, at + count), right.subarray(at, at + count), count)
  }
  return [left, right]
}
const offline = (chain: readonly ChainNode[]): Float32Array[] => {
  const { left, right } = renderPreset({ preset: preset(chain), snapshot: null, dry: riff, sampleRate: rate }, contextAt(rate))
  return [left, right]
}
/** Index of the first sample in which two sounds differ, −1 when none does. */
const difference = (a: readonly Float32Array[], b: readonly Float32Array[]): number =>
  Math.max(...a.map((channel, c) => channel.findIndex((y, n) => y !== b[c][n])))
const rms = (x: Float32Array) => Math.sqrt(x.reduce((sum, y) => sum + y * y, 0) / x.length)

describe.each(catalogue.map((m) => m.id))('%s', (id) => {
  const chain = [createStage('x', id)]

  it('gives the same samples in pieces of any number of chunks, offline, and in a lane', () => {
    const whole = live(chain, riff.length)
    expect(difference(whole, live(chain, 192))).toBe(-1)
    expect(difference(whole, offline(chain))).toBe(-1)
    const lanes: ChainNode[] = [{ kind: 'parallel', id: 'p', lanes: [createLane('a', chain), createLane('b', [], { level: -20 })] }]
    expect(difference(live(lanes, 128), offline(lanes))).toBe(-1)
  })

  it('starts anew after a reset', () => {
    const machine = new Machine()
    const runner = new StageRunner('x', modelOf(id), contextAt(rate), rate, machine)
    runner.apply({ x: { on: true, params: chain[0].params } }, true)
    const input = { left: new Float32Array(riff.subarray(0, 9_600)), right: new Float32Array(9_600), stereo: false }
    const first = runThrough(runner, machine, input)
    runner.reset()
    runner.apply({ x: { on: true, params: chain[0].params } }, true)
    const again = runThrough(runner, machine, input)
    expect(difference([first.left, first.right], [again.left, again.right])).toBe(-1)
    expect(first.left.some((y) => y !== 0)).toBe(true)
  })

  it.each([44_100, 96_000])('sounds alike at %s Hz', (sampleRate) => {
    const there = renderPreset(
      { preset: preset(chain), snapshot: null, dry: resample(riff, rate, sampleRate), sampleRate },
      contextAt(sampleRate),
    )
    const here = renderPreset({ preset: preset(chain), snapshot: null, dry: riff, sampleRate: rate }, contextAt(rate))
    expect(there.left.every(Number.isFinite)).toBe(true)
    expect(Math.abs(20 * Math.log10(rms(there.left) / rms(here.left)))).toBeLessThan(1)
  })

  it('passes its input while it is off, late by its own latency', () => {
    const { latency } = new StageRunner('x', modelOf(id), contextAt(rate), rate, new Machine())
    const [left] = live([{ ...createStage('x', id), on: false }], 128)
    // a gate's dry side-chain and all else have no part in it
    for (let n = 4_800; n < 9_600; n++) expect(Math.abs(left[n] - riff[n - latency])).toBeLessThan(1e-7)
  })
})

describe('trails', () => {
  const trailing = catalogue.filter((m) => m.family === 'reverb' || (m.family === 'delay' && m.id !== 'delay.doubler'))
  it.each(trailing.map((m) => m.id))('%s rings on when it is switched off, and takes in nothing new', (id) => {
    const chain = [createStage('x', id, { ...('mix' in modelOf(id).params ? { mix: 60 } : {}) })]
    const engine = new Engine({ chain, values: resolveValues(preset(chain), null) }, contextAt(rate), rate)
    const block = (fill: (n: number) => number, seconds: number) => {
      const left = Float32Array.from({ length: Math.round(seconds * rate) }, (_, n) => fill(n))
      const right = new Float32Array(left.length)
      engine.process(left, right, left.length)
      return left
    }
    block((n) => riff[n % riff.length], 1)
    const off = resolveValues(preset([{ ...chain[0], on: false }]), null)
    engine.setValues(off)
    const tail = block(() => 0, 1.5)
    expect(rms(tail.slice(0, rate / 2))).toBeGreaterThan(1e-4)
    // the dry path is whole meanwhile
    block(() => 0, 12)
    const dry = block((n) => riff[n], 0.4)
    expect(Math.abs(20 * Math.log10(rms(dry) / rms(new Float32Array(riff.slice(0, dry.length)))))).toBeLessThan(0.2)
  })
})
