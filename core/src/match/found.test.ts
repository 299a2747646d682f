import { describe, expect, it } from 'vitest'
import { echoOf } from '@fulgor/core/measure'
import { playRiff, shippedRiffs } from '@fulgor/core/riffs'
import { cutOf, inspectReference, modulationOf, octaveIn, othersIn, statementsOf, sidesOf, tempoOfSound, tuningOfSound, voiceIn } from '.'

/*
 * What is found of constructed recordings whose truth is known: riffs of the string model, struck unevenly, through a plain clipper and
 * two low-passes, with noise under them. 266 cases; the tables count what was taken for what.
 */

const RATE = 48_000
const RIFFS = shippedRiffs.map((r) => r.id)
/** Without strokes that could tell a tempo. */
const HELD = 'long-note'

const noise = (seed: number) => {
  let state = seed
  return () => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0
    return state / 2 ** 31 - 1
  }
}

const kept = new Map<string, Float32Array>()
function recorded(id: string, bpm: number, { off = 0, take = 2 } = {}): Float32Array {
  const key = `${id} ${bpm} ${off} ${take}`
  let x = kept.get(key)
  if (!x) {
    const dry = playRiff(id, RATE, { strength: 'hard', bpm, take, tuning: [off, off, off, off, off, off], noise: null })
    const hiss = noise(id.length * 77 + take)
    let [a, b] = [0, 0]
    x = Float32Array.from(dry, (v) => {
      a += 0.4 * (Math.tanh(12 * v) - a)
      b += 0.4 * (a - b)
      return 0.3 * b + 2e-5 * hiss()
    })
    kept.set(key, x)
  }
  return x
}

const later = (x: Float32Array, msAt: (n: number) => number) =>
  x.map((_, n) => {
    const place = n - (msAt(n) * RATE) / 1_000
    const k = Math.floor(place)
    return k > 0 ? x[k] + (place - k) * (x[k + 1] - x[k]) : 0
  })

describe('what a recording is', () => {
  it('its tempo within half a beat a minute, or half or double of it', () => {
    const cases = RIFFS.filter((id) => id !== HELD).flatMap((id) => [84, 117, 152].map((bpm) => [id, bpm] as const))
    const right = cases.filter(([id, bpm]) => {
      const found = tempoOfSound(recorded(id, bpm), RATE)
      return found.value !== null && [0.5, 1, 2].some((m) => Math.abs((found.value ?? 0) - m * bpm) < 0.5)
    })
    expect(cases).toHaveLength(30)
    // bends and stops leave too few even strokes
    expect(right.length).toBeGreaterThanOrEqual(26)
    expect(tempoOfSound(recorded(HELD, 117), RATE).value).toBeNull()
  })

  it('its pitch within 4 cents, and how low it is tuned', () => {
    // a note that bends and one that is held in feedback are off pitch by themselves
    const even = RIFFS.filter((id) => !['bends', HELD].includes(id))
    const cases = even.flatMap((id) => [-2, -1, -0.3, 0, 0.2].map((off) => [id, off] as const))
    const cents = (off: number) => 100 * (off - Math.round(off))
    const right = cases.filter(([id, off]) => {
      const { value } = tuningOfSound(recorded(id, 117, { off }), RATE)
      return value !== null && Math.abs(value.cents - cents(off)) < 4
    })
    expect(cases).toHaveLength(45)
    expect(right).toHaveLength(45)
    for (const id of ['palm-muted', 'open-chords', 'low-riff'])
      for (const off of [-2, -1, 0]) expect(tuningOfSound(recorded(id, 117, { off }), RATE).value?.lowest).toBe(off)
  }, 240_000)

  it('its sides: one sound, one sound widened, or two takes', () => {
    const table: Record<string, Record<string, number>> = {}
    const wrongLag: string[] = []
    for (const id of RIFFS) {
      const x = recorded(id, 117)
      let held = 0
      const cases: readonly (readonly [string, Float32Array, Float32Array])[] = [
        ['mono', x, x],
        ['two takes', x, recorded(id, 117, { take: 3 })],
        ['delayed', x, later(x, () => 14)],
        ['delayed', later(x, () => 6.3), x],
        ['chorus', x, later(x, (n) => 8 + 2 * Math.sin((2 * Math.PI * 0.6 * n) / RATE))],
        ['chorus', x, later(x, (n) => 8 + Math.sin((2 * Math.PI * 1.5 * n) / RATE))],
        ['wide', x, x.map((v) => v - 0.75 * (held += 0.15 * (v - held)))],
      ]
      cases.forEach(([truth, left, right], k) => {
        const { value } = sidesOf(left, right, RATE)
        const kind = value?.kind ?? 'not enough to say'
        const row = (table[truth] ??= {})
        row[kind] = (row[kind] ?? 0) + 1
        if (kind === 'delayed' && Math.abs((value?.lagMs ?? 0) - (k === 2 ? 14 : 6.3)) > 0.05) wrongLag.push(id)
        if (kind === 'chorus' && Math.abs((value?.rateHz ?? 0) - (k === 4 ? 0.6 : 1.5)) > 0.03) wrongLag.push(id)
      })
    }
    expect(table.mono).toEqual({ mono: 11 })
    expect(table.delayed).toEqual({ delayed: 22 })
    expect(table.chorus.chorus).toBeGreaterThanOrEqual(21)
    expect(table['two takes']['two takes']).toBeGreaterThanOrEqual(10)
    expect(table['two takes'].delayed ?? 0).toBe(0)
    // a tone that differs little is one sound to one side
    expect((table.wide.wide ?? 0) + (table.wide.panned ?? 0)).toBe(11)
    expect(wrongLag).toEqual([])
  }, 240_000)

  it('its echo within a tenth of a millisecond and 2 dB; none where there is none', () => {
    const echoes = [null, [375.3, -10], [468.8, -14], [121.7, -8]] as const
    let [right, missed, invented] = [0, 0, 0]
    for (const id of RIFFS)
      for (const echo of echoes) {
        const x = recorded(id, 117)
        const lag = echo ? Math.round((echo[0] * RATE) / 1_000) : 0
        const gain = echo ? Math.pow(10, echo[1] / 20) : 0
        const { value } = echoOf(
          x.map((v, n) => v + (n >= lag ? gain * x[n - lag] : 0)),
          RATE,
        )
        if (!echo) invented += value ? 1 : 0
        else if (!value) missed++
        else if (Math.abs(value.lagMs - echo[0]) < 0.1 && Math.abs(value.db - echo[1]) < 2) right++
        else invented++
      }
    expect(right).toBeGreaterThanOrEqual(31)
    expect(missed + invented).toBeLessThanOrEqual(3)
  }, 240_000)

  it('whether it was cut off by a coder, and where', () => {
    const wrong: string[] = []
    for (const id of RIFFS)
      for (const cut of [null, 11_000, 16_000]) {
        // a windowed sinc of 401 taps, as steep as coders cut
        const hiss = noise(5)
        const x = recorded(id, 117).map((v) => v + 3e-4 * hiss())
        const taps = Array.from({ length: 401 }, (_, n) => {
          const t = n - 200
          const w = 0.42 - 0.5 * Math.cos((2 * Math.PI * n) / 400) + 0.08 * Math.cos((4 * Math.PI * n) / 400)
          return cut === null
            ? t === 0
              ? 1
              : 0
            : w * (t === 0 ? (2 * cut) / RATE : Math.sin((2 * Math.PI * cut * t) / RATE) / (Math.PI * t))
        })
        const short = x.subarray(0, 3 * RATE)
        const y = cut === null ? short : short.map((_, n) => taps.reduce((sum, h, k) => sum + (n >= k ? h * short[n - k] : 0), 0))
        const { value } = cutOf([y], RATE)
        if (cut === null ? value !== null : Math.abs((value ?? 0) - cut) > 250) wrong.push(`${id} ${cut}: ${value}`)
      }
    expect(wrong).toEqual([])
  }, 240_000)

  it('who else plays', () => {
    const wrong: string[] = []
    for (const id of ['open-chords', 'lead-line', 'arpeggio', 'low-riff', 'octaves', 'bends']) {
      const x = recorded(id, 117)
      const hiss = noise(9)
      // a hit of bright noise on each beat, and a bass on its root
      const drums = x.map((v, n) => v + 0.6 * hiss() * Math.exp(-((n % 24_615) / RATE) / 0.04))
      const bass = x.map((v, n) => v + 0.15 * Math.sin((2 * Math.PI * 49 * n) / RATE))
      const found = [x, drums, bass].map((y) => othersIn(y, RATE).words)
      if (found[0].includes(' in it') || !found[1].includes('drums') || !found[2].includes('bass')) wrong.push(`${id}: ${found.join('; ')}`)
    }
    expect(wrong).toEqual([])
  }, 240_000)

  it('a tremolo by its rate within 2 %, never one where there is none', () => {
    const rates = [3.1, 5.3, 7.4]
    // what is struck all the time swings by itself: there nothing is said
    const held = ['lead-line', 'low-riff', 'arpeggio', 'octaves', HELD]
    const trembling = (x: Float32Array, hz: number) => x.map((v, n) => v * (0.65 + 0.35 * Math.sin((2 * Math.PI * hz * n) / RATE)))
    const found = RIFFS.flatMap((id) =>
      rates.map((hz) => ({ id, hz, told: modulationOf(trembling(recorded(id, 117), hz), RATE).value?.rateHz ?? null })),
    )
    const right = found.filter(({ hz, told }) => told !== null && Math.abs(told / hz - 1) < 0.02)
    expect(found.filter(({ hz, told }) => told !== null && Math.abs(told / hz - 1) >= 0.02)).toEqual([])
    expect(right.filter(({ id }) => held.includes(id)).length).toBeGreaterThanOrEqual(12)
    for (const id of RIFFS)
      for (const bpm of [84, 117, 152]) expect([id, bpm, modulationOf(recorded(id, bpm), RATE).value]).toEqual([id, bpm, null])
  }, 240_000)

  it('its width, whole and by bands: nothing in mono, half of two who share nothing', () => {
    const [a, b] = [noise(5), noise(91)].map((next) => Float32Array.from({ length: 6 * RATE }, () => 0.1 * next()))
    expect(inspectReference([a, a], RATE).width.percent).toBeCloseTo(0, 6)
    const two = inspectReference([a, b], RATE)
    expect(Math.abs(two.width.percent - 50)).toBeLessThan(1)
    for (const percent of two.width.bands.slice(8)) expect(Math.abs((percent ?? 0) - 50)).toBeLessThan(8)
    expect(statementsOf(two).find((s) => s.name === 'Width')?.words).toMatch(/^lows 5\d|^lows 4\d/)
  }, 60_000)

  it('an octave along under a single line, and what cannot be told', () => {
    /** A voice at another pitch of the same sound: short grains, played faster or slower. */
    const voiceAt = (x: Float32Array, ratio: number) => {
      const y = new Float32Array(x.length)
      const grain = 2_400
      for (let at = 0; at + grain * Math.max(1, ratio) < x.length - 1; at += grain / 2)
        for (let n = 0; n < grain; n++) {
          const place = at + n * ratio
          const k = Math.floor(place)
          y[at + n] += (0.5 - 0.5 * Math.cos((2 * Math.PI * n) / grain)) * (x[k] + (place - k) * (x[k + 1] - x[k]))
        }
      return y
    }
    const told = (id: string, drive: number, ratio: number | null) => {
      const dry = Float32Array.from(playRiff(id, RATE, { strength: 'normal', bpm: 117, take: 1, noise: null }))
      const along = ratio === null ? null : voiceAt(dry, ratio)
      return octaveIn(
        dry.map((v, n) => Math.tanh(drive * (v + 0.7 * (along?.[n] ?? 0))) / drive),
        RATE,
      )
    }
    const cases = ['lead-line', 'bends', 'long-note'].flatMap((id) => [0.1, 12].map((drive) => [id, drive] as const))
    for (const [id, drive] of cases) {
      expect([id, drive, 'below', (told(id, drive, 0.5).value ?? 0) > 3.5]).toEqual([id, drive, 'below', true])
      expect([id, drive, 'none', told(id, drive, null).value]).toEqual([id, drive, 'none', null])
      expect([id, drive, 'above', told(id, drive, 2).value]).toEqual([id, drive, 'above', null])
    }
    expect(told('octaves', 12, null).words).toContain('octave pair')
    for (const id of ['open-chords', 'sixteenth-strum', 'stabs', 'arpeggio'])
      expect(told(id, 12, null)).toEqual({ value: null, confidence: 0, words: 'several notes at once' })
  })

  it('a voice by itself, and no string for one', () => {
    // made-up speech: pulses with a gliding pitch through three formants, syllables and pauses
    const speech = (seed: number, hz: number) => {
      const random = noise(seed)
      const next = () => 0.5 + 0.5 * random()
      const out = new Float32Array(8 * RATE)
      for (let at = 0; at < out.length;) {
        const length = Math.round((0.12 + 0.16 * next()) * RATE)
        const [from, to] = [hz * (0.85 + 0.4 * next()), hz * (0.75 + 0.5 * next())]
        const formants = [300 + 600 * next(), 900 + 1_400 * next(), 2_300 + 600 * next()].map((f) => ({ f, a: 0, b: 0 }))
        let phase = 0
        for (let n = 0; n < length && at + n < out.length; n++) {
          phase += (from * Math.pow(to / from, n / length)) / RATE
          const pulse = phase >= 1 ? 1 : 0
          phase -= pulse
          const r = Math.exp((-Math.PI * 90) / RATE)
          for (const s of formants) {
            const v = pulse + 2 * r * Math.cos((2 * Math.PI * s.f) / RATE) * s.a - r * r * s.b
            s.b = s.a
            s.a = v
            out[at + n] += 0.02 * v * Math.sin((Math.PI * n) / length)
          }
        }
        at += length + (next() < 0.25 ? Math.round(0.15 * RATE) : 0)
      }
      return out
    }
    for (const [k, hz] of [95, 110, 140, 200, 230].entries())
      expect([hz, voiceIn(speech(k + 1, hz), RATE).value !== null]).toEqual([hz, true])
    for (const id of RIFFS) expect([id, voiceIn(recorded(id, 117), RATE).value]).toEqual([id, null])
    expect(statementsOf(inspectReference([speech(3, 140)], RATE)).find((s) => s.name === 'Other players')?.value).toBe('a voice')
  }, 240_000)
})
