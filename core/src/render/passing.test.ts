import { describe, expect, it } from 'vitest'
import { responseLibrary } from '@fulgor/core/cabinet'
import { demoPresets } from '@fulgor/core/demo'
import { applyEdit } from '@fulgor/core/preset'
import { Renderer, type Tap } from '.'

const RATE = 48_000
const preset = demoPresets[0].preset
const dry = Float32Array.from({ length: 4_800 }, (_, i) => 0.3 * Math.sin((2 * Math.PI * 196 * i) / RATE))
const whole = (renderer: Renderer, of = preset, passing?: readonly string[]): Map<string, Tap> => {
  const job = { preset: of, snapshot: 'storm', dryKey: 'sine', dry, sampleRate: RATE, ...(passing ? { passing: new Set(passing) } : {}) }
  const taps = renderer.render(job)
  const found = new Map<string, Tap>()
  for (let next = taps.next(); ; next = taps.next()) {
    found.set(next.value.stage, next.value)
    if (next.done) return found
  }
}
const context = { responses: responseLibrary(RATE), quality: 'live' as const }

describe('a rendering whose later stages are not kept', () => {
  it('sounds the same, and shares what comes before them', () => {
    const renderer = new Renderer(context)
    const first = whole(renderer, preset, ['amp'])
    const again = whole(renderer, preset, ['amp'])
    expect(again.get('drive')?.sound).toBe(first.get('drive')?.sound)
    expect(again.get('amp')?.sound).not.toBe(first.get('amp')?.sound)
    expect(again.get('out')?.sound.left).toEqual(first.get('out')?.sound.left)
    expect(first.get('out')?.sound.left).toEqual(whole(new Renderer(context)).get('out')?.sound.left)
  })

  it('takes what was kept before', () => {
    const renderer = new Renderer(context)
    const kept = whole(renderer)
    expect(whole(renderer, preset, ['amp']).get('out')?.sound).toBe(kept.get('out')?.sound)
    const moved = applyEdit(preset, { type: 'setParam', stage: 'out', snapshot: 'storm', param: 'level', value: -6 })
    const other = whole(renderer, moved, ['out'])
    expect(other.get('hall')?.sound).toBe(kept.get('hall')?.sound)
    // -6 dB is a factor of 10^(-6/20)
    const last = (taps: Map<string, Tap>) => taps.get('out')?.sound.left.at(-1) ?? 0
    expect(last(other) / last(kept)).toBeCloseTo(Math.pow(10, -6 / 20), 6)
  })
})
