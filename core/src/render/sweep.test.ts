import { describe, expect, it } from 'vitest'
import { responseLibrary } from '@fulgor/core/cabinet'
import { demoPresets } from '@fulgor/core/demo'
import { loudness } from '@fulgor/core/measure'
import {
  applyEdit,
  createControl,
  frozen,
  inputDbAt,
  loudnessJump,
  movedBy,
  readyMoveEdit,
  readyMoves,
  resolveValues,
  type Preset,
  createTarget,
} from '@fulgor/core/preset'
import { synthesiseRiff } from '@fulgor/core/riffs'
import { Renderer, renderPreset } from '.'

const RATE = 48_000
const context = { responses: responseLibrary(RATE), quality: 'live' as const }
const dry = synthesiseRiff('open-chords', 'hard', 96, RATE).slice(0, 1.5 * RATE)
const snapshot = 'storm'
const aim = (stage: string, param: string, from: number, to: number, shape: 'linear' | 'exponential' = 'linear') =>
  createTarget(`${stage}-${param}`, stage, param, from, to, { shape, heel: 0, toe: 0 })
const targets = [
  aim('amp', 'gain', 2, 7.5),
  aim('eq', 'gain2', -4, 2),
  aim('delay', 'mix', 8, 34, 'exponential'),
  aim('out', 'level', 0, -6),
]
const bare: Preset = { ...demoPresets[0].preset, controls: [], board: undefined }
const swept = applyEdit(bare, { type: 'addControl', control: { ...createControl('c', 'pedal', 'Pedal'), targets } })

describe('a sweep', () => {
  it('measures what each point gives when it is set by hand and rendered by itself', () => {
    const renderer = new Renderer(context)
    const passing = new Set([...movedBy(swept, snapshot, { c: 0 }).keys()])
    for (const position of [0, 0.25, 0.5, 0.85, 1]) {
      const there = frozen(swept, snapshot, resolveValues(swept, snapshot, { c: position }))
      const taps = renderer.render({ preset: there, snapshot, dryKey: 'riff', dry, sampleRate: RATE, passing })
      let next = taps.next()
      while (!next.done) next = taps.next()
      const { left, right } = next.value.sound

      // straight between the ends; (e^(4x) − 1)/(e^4 − 1) for the late one, from its formula
      const late = Math.expm1(4 * position) / Math.expm1(4)
      const byHand = targets.reduce((preset, { stage, param, from, to, curve }) => {
        const share = curve.shape === 'linear' ? position : late
        return applyEdit(preset, { type: 'setParam', stage, snapshot, param, value: Number(from) + (Number(to) - Number(from)) * share })
      }, bare)
      const alone = renderPreset({ preset: byHand, snapshot, dry, sampleRate: RATE }, context)
      const [one, two] = [
        [left, right],
        [alone.left, alone.right],
      ].map((s) => loudness(s, RATE).integratedLufs)
      expect(one).not.toBeNull()
      expect(Math.abs((one ?? 0) - (two ?? 0)), String(position)).toBeLessThan(1e-6)
    }
  })

  it.each(['fade-out', 'volume-before', 'volume-after', 'delay-in', 'clean-up'])('of the ready move %s has no jump', (id) => {
    let n = 0
    const move = readyMoves.find((m) => m.id === id)
    if (!move) throw new Error(id)
    const { edit, control } = readyMoveEdit(move, { preset: bare, snapshot, newId: () => `n${++n}` }, null)
    const made = applyEdit(bare, edit)
    const source = made.controls?.find((c) => c.id === control)
    if (!source) throw new Error(id)
    const short = dry.subarray(0, RATE / 2)
    const lufs = Array.from({ length: 21 }, (_, i) => {
      const there = frozen(made, snapshot, resolveValues(made, snapshot, { [control]: i / 20 }))
      const gain = Math.pow(10, inputDbAt(source, i / 20) / 20)
      const { left, right } = renderPreset({ preset: there, snapshot, dry: short.map((x) => x * gain), sampleRate: RATE }, context)
      return loudness([left, right], RATE).integratedLufs
    })
    expect(loudnessJump(lufs), lufs.join(' ')).toBeNull()
  })
})
