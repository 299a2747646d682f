import { describe, expect, it } from 'vitest'
import { responseLibrary } from '@fulgor/core/cabinet'
import { modelOf } from '@fulgor/core/catalogue'
import { demoPresets } from '@fulgor/core/demo'
import { loudness } from '@fulgor/core/measure'
import { frozen, judgedDry, partsOf, resolveValues, withStage, withStageMatched, type ChainNode, type Preset } from '@fulgor/core/preset'
import { synthesiseRiff } from '@fulgor/core/riffs'
import { Engine, renderPreset, type Plan } from '.'

const rate = 48_000
const context = {
  quality: 'live' as const,
  responses: responseLibrary(rate),
}
const riff = synthesiseRiff('open-chords', 'hard', 96, rate).slice(0, rate)

function play(chain: readonly ChainNode[], values: Plan['values']): Float32Array[] {
  const engine = new Engine({ chain, values }, context, rate)
  const left = new Float32Array(riff)
  const right = new Float32Array(left.length)
  engine.process(left, right, left.length)
  return [left, right]
}
const worst = (a: readonly Float32Array[], b: readonly Float32Array[]) =>
  Math.max(...a.map((channel, c) => channel.reduce((most, y, n) => Math.max(most, Math.abs(y - b[c][n])), 0)))
const peak = (a: readonly Float32Array[]) => Math.max(...a.map((channel) => channel.reduce((most, y) => Math.max(most, Math.abs(y)), 0)))

/** The chain without its modulation, delays and reverbs, and without lanes that held nothing else. */
function withoutEffects(preset: Preset): readonly ChainNode[] {
  const effect = (model: string) => ['modulation', 'delay', 'reverb'].includes(modelOf(model).family)
  const strip = (nodes: readonly ChainNode[]): ChainNode[] =>
    nodes.flatMap((node): ChainNode[] => {
      if (node.kind === 'stage') return effect(node.model) ? [] : [node]
      const lanes = node.lanes.map((lane) => ({
        ...lane,
        on: lane.on && !(lane.nodes.length > 0 && partsOf(lane.nodes).every((s) => effect(s.model))),
        nodes: strip(lane.nodes),
      }))
      return [{ ...node, lanes }]
    })
  return strip(preset.chain)
}

describe('judging dry', () => {
  it.each(demoPresets.map((d) => d.id))('%s sounds as if its effects had never been there', (id) => {
    const preset = demoPresets.find((d) => d.id === id)?.preset ?? demoPresets[0].preset
    for (const { id: snapshot } of preset.snapshots) {
      const judged = play(preset.chain, judgedDry(preset.chain, resolveValues(preset, snapshot)))
      const bare = { ...preset, chain: withoutEffects(preset) }
      const values = judgedDry(
        bare.chain,
        resolveValues(
          {
            ...bare,
            snapshots: preset.snapshots.map((s) => ({
              ...s,
              stages: Object.fromEntries(Object.entries(s.stages).filter(([key]) => partsOf(bare.chain).some((p) => p.id === key))),
            })),
          },
          snapshot,
        ),
      )
      const muted = Object.fromEntries(
        Object.entries(values).map(([key, value]) => [key, judgedDry(preset.chain, resolveValues(preset, snapshot))[key] ?? value]),
      )
      expect(worst(judged, play(bare.chain, muted)) / peak(judged)).toBeLessThan(1e-9)
    }
  })
})

describe('what a stage adds', () => {
  const preset = demoPresets[0].preset
  const values = resolveValues(preset, 'storm')

  it('is nothing for an output at 0 dB, and all that a reverb adds for a reverb', () => {
    const difference = (stage: string) => {
      const on = play(preset.chain, withStage(values, stage, true))
      const off = play(preset.chain, withStage(values, stage, false))
      return on.map((channel, c) => channel.map((y, n) => y - off[c][n]))
    }
    expect(peak(difference('out'))).toBeLessThan(1e-12)
    const hall = difference('hall')
    // the same as the hall alone, wet, on what comes into it: it is linear
    const wetOnly = { ...values, hall: { on: true, params: { ...values.hall.params, mix: 100 } } }
    const wet = play(preset.chain, wetOnly)
    const share = Math.min(1, Number(values.hall.params.mix) / 50)
    expect(
      worst(
        hall,
        wet.map((channel) => channel.map((y) => y * share)),
      ) / peak(hall),
    ).toBeLessThan(1e-6)
  })

  it('in front of what clips it is matched where it stands: the amp is given the same level with it as without it', () => {
    const drive = preset.chain.filter((node) => node.id === 'drive')
    const lufs = (of: Plan['values']) => loudness(play(drive, of), rate).integratedLufs ?? 0
    const [on, off] = [true, false].map((state) => lufs(withStage(values, 'drive', state)))
    expect(Math.abs(on - off)).toBeGreaterThan(1)
    expect(lufs(withStageMatched(withStage(values, 'drive', true), 'drive', on - off))).toBeCloseTo(on, 2)
    expect(lufs(withStageMatched(withStage(values, 'drive', false), 'drive', off - on))).toBeCloseTo(off, 2)
  })

  it('a level-matched comparison is within 0.1 LU for every stage', () => {
    const lufs = (of: Plan['values']) => {
      const { left, right } = renderPreset({ preset: frozen(preset, 's', of), snapshot: 's', dry: riff, sampleRate: rate }, context)
      return { value: loudness([left, right], rate).integratedLufs ?? 0, left, right }
    }
    for (const { id } of partsOf(preset.chain)) {
      const here = lufs(values)
      const there = lufs(withStage(values, id, !values[id].on))
      const gain = Math.pow(10, (here.value - there.value) / 20)
      const matched = loudness([there.left.map((y) => y * gain), there.right.map((y) => y * gain)], rate).integratedLufs ?? 0
      expect([id, Math.abs(matched - here.value) < 0.1]).toEqual([id, true])
    }
  })
})
