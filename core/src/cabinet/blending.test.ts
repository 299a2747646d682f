import { describe, expect, it } from 'vitest'
import { createBench, createChannel, defaultMic } from '@fulgor/core/catalogue'
import { readWav, writeWav } from '@fulgor/core/formats'
import {
  alignTo,
  audible,
  benchOf,
  blendId,
  blendResponse,
  cancellation,
  channelSpectrum,
  CURVE_HZ,
  curvePower,
  DEFAULT_EXPORT,
  exportBlend,
  filesOf,
  loudnessGainDb,
  MAX_CHANNELS,
  pinkWeights,
  spectrumOf,
  type BenchChannel,
  type ChannelSource,
  type ExportSettings,
  type MicBench,
  type SoundFile,
} from '.'

const rate = 48_000
const none = () => null

function random(seed: number): () => number {
  let state = seed
  return () => (state = (state * 16_807) % 2_147_483_647) / 2_147_483_647
}

/** A band-limited made-up response that starts at `at` frames, a fraction included. */
function response(seed: number, at = 40, frames = 2_048): Float64Array {
  const next = random(seed)
  const parts = Array.from({ length: 5 }, () => ({
    hz: 120 * Math.pow(40, next()),
    decay: 0.0008 + 0.003 * next(),
    gain: next() - 0.3,
    phase: 6 * next(),
  }))
  return Float64Array.from({ length: frames }, (_, n) => {
    const t = (n - at) / rate
    // a smooth rise keeps it band-limited
    return t <= 0
      ? 0
      : parts.reduce(
          (s, p) => s + p.gain * Math.exp(-t / p.decay) * (1 - Math.exp(-t / 0.0002)) ** 3 * Math.sin(2 * Math.PI * p.hz * t + p.phase),
          0,
        )
  })
}

const file = (taps: ArrayLike<number>, sampleRate = rate): SoundFile => ({ sampleRate, channels: [Float32Array.from(taps)] })
const fileChannel = (id: string, change: Partial<BenchChannel> = {}): BenchChannel => ({
  ...createChannel(id, { kind: 'file', file: id, name: id, side: 'sum' }),
  ...change,
})
const benchOfFiles = (...channels: BenchChannel[]): MicBench => ({ ...createBench(), channels })

describe('alignment', () => {
  it('finds delay and polarity of 1,000 known cases within a tenth of a sample', () => {
    const next = random(7)
    let worst = 0
    let turned = 0
    for (let i = 0; i < 1_000; i++) {
      const seed = 1 + Math.floor(next() * 1e6)
      const delay = (next() - 0.5) * 400
      const inverted = next() < 0.5
      const gain = 0.1 + 2 * next()
      const a = spectrumOf(response(seed, 300), 8_192, rate)
      const b = spectrumOf(
        response(seed, 300 + delay).map((x) => (inverted ? -gain : gain) * x),
        8_192,
        rate,
      )
      const found = alignTo(a, b)
      worst = Math.max(worst, Math.abs(found.lateUs * 1e-6 * rate - delay))
      if (found.inverted !== inverted) turned++
    }
    expect(turned).toBe(0)
    expect(worst).toBeLessThan(0.1)
  }, 60_000)

  it('holds in noise and for unlike tone', () => {
    const next = random(3)
    const a = response(99, 100)
    const noisy = response(99, 117.4).map((x) => -x + 0.002 * (next() - 0.5))
    const found = alignTo(spectrumOf(a, 8_192, rate), spectrumOf(noisy, 8_192, rate))
    expect(found.inverted).toBe(true)
    expect(found.lateUs * 1e-6 * rate).toBeCloseTo(17.4, 1)
    expect(found.likeness).toBeGreaterThan(0.9)
  })

  it('lays a farther microphone on a nearer one, and the sum loses nothing any more', () => {
    const bench = createBench()
    const far: ChannelSource = { ...(defaultMic('ribbon') as Extract<ChannelSource, { kind: 'mic' }>), distance: 120, offset: 20 }
    const channels = [createChannel('a'), createChannel('b', far)]
    const spectra = channels.map((c) => channelSpectrum(bench.cab, c, 2_048, rate, none))
    const [a, b] = spectra
    if (!a || !b) throw new Error('no spectrum')
    const { lateUs, inverted } = alignTo(a, b)
    // 95 mm farther, and a ribbon of another tone
    expect(lateUs).toBeGreaterThan(150)
    expect(lateUs).toBeLessThan(350)
    const lost = (delay: number, turn: boolean) => {
      const second = channelSpectrum(bench.cab, { ...channels[1], delay, inverted: turn }, 2_048, rate, none)
      if (!second) throw new Error('no spectrum')
      const re = a.re.map((x, k) => x + second.re[k])
      const im = a.im.map((x, k) => x + second.im[k])
      return cancellation([curvePower(a), curvePower(second)], curvePower({ re, im, binHz: a.binHz }))
    }
    expect(lost(0, false).zones.length).toBeGreaterThan(0)
    expect(lost(0, false).lostDb).toBeGreaterThan(0.5)
    expect(lost(-lateUs, inverted).lostDb).toBeLessThan(0.15)
  })
})

describe('cancellation', () => {
  // two equal impulses, τ apart: nulls at (2k+1)/(2τ), a third of the octaves around each 3 dB or more under one of them
  it('finds the nulls of two equal sounds 250 µs apart at 2 and 6 kHz', () => {
    const a = spectrumOf([1], 8_192, rate)
    const late = new Float64Array(64)
    late[12] = 1
    const b = spectrumOf(late, 8_192, rate)
    const sum = { re: a.re.map((x, k) => x + b.re[k]), im: a.im.map((x, k) => x + b.im[k]), binHz: a.binHz }
    const { zones, deepest } = cancellation([curvePower(a), curvePower(b)], curvePower(sum))
    const nulls = zones.map((z) => z.hz)
    expect(nulls[0] / 2_000).toBeCloseTo(1, 1)
    expect(nulls[1] / 6_000).toBeCloseTo(1, 1)
    // |1 + e^{-jφ}| = 2|cos(φ/2)| falls under −3 dB where |cos(φ/2)| < 0.354: from 0.77 to 1.23 of the null
    expect(zones[0].fromHz / 2_000).toBeCloseTo(0.77, 1)
    expect(zones[0].toHz / 2_000).toBeCloseTo(1.23, 1)
    expect(deepest?.depthDb).toBeLessThan(-25)
  })

  it('finds none where channels agree, or where there is one', () => {
    const a = curvePower(spectrumOf(response(5), 8_192, rate))
    expect(
      cancellation(
        [a, a],
        a.map((p) => 4 * p),
      ),
    ).toMatchObject({ zones: [], lostDb: 0 })
    expect(cancellation([a], a).zones).toEqual([])
  })
})

describe('a blend', () => {
  it('is one response whatever the number of channels, at unity loudness for pink noise', () => {
    const channels = Array.from({ length: MAX_CHANNELS }, (_, i) => fileChannel(`f${i}`, { level: -i, delay: 13.7 * i, pan: 0 }))
    const files = (id: string) => file(response(Number(id.slice(1)) + 1))
    const { left, right } = blendResponse(benchOfFiles(...channels), rate, files)
    expect(left).toHaveLength(2_048)
    expect(right).toBeNull()
    const s = spectrumOf(left, 8_192, rate)
    expect(loudnessGainDb(s.re, s.im, s.binHz, pinkWeights(s.re.length, s.binHz))).toBeCloseTo(0, 1)
  })

  it('sums as by hand: level, polarity, whole frames of delay', () => {
    const a = response(11)
    const b = response(12)
    const bench = benchOfFiles(fileChannel('a'), fileChannel('b', { level: -6.0206, inverted: true, delay: (10 / rate) * 1e6 }))
    const { left, gainDb } = blendResponse(bench, rate, (id) => file(id === 'a' ? a : b))
    const by = Math.pow(10, gainDb / 20)
    const wanted = Array.from({ length: 1_700 }, (_, n) => by * (a[n] - 0.5 * (b[n - 10] ?? 0)))
    const start = left.findIndex((x) => Math.abs(x) > 1e-4) - wanted.findIndex((x) => Math.abs(x) > 1e-4)
    const peak = Math.max(...wanted.map(Math.abs))
    for (let n = 60; n < 1_500; n++) expect(Math.abs(left[n + start] - wanted[n]) / peak).toBeLessThan(2e-5)
  })

  it('pans by balance: hard left is silent on the right', () => {
    const { left, right } = blendResponse(benchOfFiles(fileChannel('a', { pan: -100 }), fileChannel('b')), rate, (id) =>
      file(response(id === 'a' ? 1 : 2)),
    )
    expect(right).not.toBeNull()
    const alone = blendResponse(benchOfFiles(fileChannel('b')), rate, () => file(response(2))).left
    const energy = (x: Float64Array) => x.reduce((s, v) => s + v * v, 0)
    expect(energy(left)).not.toBeCloseTo(energy(right ?? left), 3)
    // what is right is the second one alone, but for level and lead
    const ratio = Math.sqrt(energy(right ?? left) / energy(alone))
    const peakOf = (x: Float64Array) => x.reduce((m, v) => Math.max(m, Math.abs(v)), 0)
    expect(peakOf(right ?? left) / peakOf(alone)).toBeCloseTo(ratio, 2)
  })

  // a balance control leaves the near side as it is and takes the far side down in a straight line: half way is half, −6.02 dB
  it.each([
    [50, 0.5],
    [-50, 2],
    [80, 0.2],
    [-25, 4 / 3],
  ])('pans by balance: at %s the left side is %s of the right', (pan, share) => {
    const { left, right } = blendResponse(benchOfFiles(fileChannel('a', { pan })), rate, () => file(response(1)))
    const peakOf = (x: Float64Array) => x.reduce((m, v) => Math.max(m, Math.abs(v)), 0)
    expect(peakOf(left) / peakOf(right ?? left)).toBeCloseTo(share, 3)
  })

  // handbook arithmetic: −3.0, −7.0, −12.3 dB at 1, 2 and 4 times the corner of a first-order cut
  it('cuts as told', () => {
    const impulse = new Float64Array(2_048)
    impulse[40] = 1
    const at = (change: Partial<BenchChannel>, hz: number) => {
      const s = channelSpectrum(createBench().cab, fileChannel('i', change), 2_048, rate, () => file(impulse))
      if (!s) throw new Error('no spectrum')
      const k = Math.round(hz / s.binHz)
      return 20 * Math.log10(Math.hypot(s.re[k], s.im[k]))
    }
    expect(at({ highSlope: '6', highCut: 4_000 }, 4_000)).toBeCloseTo(-3, 1)
    expect(at({ highSlope: '6', highCut: 4_000 }, 8_000)).toBeCloseTo(-7, 1)
    expect(at({ highSlope: '6', highCut: 4_000 }, 16_000)).toBeCloseTo(-12.3, 1)
    expect(at({ lowSlope: '12', lowCut: 200 }, 100)).toBeCloseTo(-12.3, 0)
    expect(at({ lowSlope: '24', lowCut: 200 }, 200)).toBeCloseTo(-3, 0)
  })

  it('mute and solo choose what sounds', () => {
    const [a, b, c] = ['a', 'b', 'c'].map((id) => fileChannel(id))
    expect(audible([a, { ...b, muted: true }, c]).map((x) => x.id)).toEqual(['a', 'c'])
    expect(audible([a, { ...b, solo: true }, c]).map((x) => x.id)).toEqual(['b'])
    expect(audible([{ ...a, solo: true, muted: true }, b]).map((x) => x.id)).toEqual(['b'])
  })

  it('is silent without channels or files, and never NaN', () => {
    for (const bench of [benchOfFiles(), benchOfFiles(fileChannel('gone'))]) {
      const { left } = blendResponse(bench, rate, none)
      expect(left.every((x) => x === 0)).toBe(true)
    }
  })

  it('travels as an id that says everything, apart from what does not sound', () => {
    const bench = benchOfFiles(fileChannel('a'.repeat(64)), fileChannel('b'.repeat(64), { muted: true }))
    expect(filesOf(blendId(bench))).toEqual(['a'.repeat(64)])
    expect(benchOf(blendId(bench))?.channels).toHaveLength(1)
    expect(benchOf('open-1x12-coil')).toBeNull()
  })
})

describe('export', () => {
  const bench: MicBench = {
    ...createBench(),
    channels: [createChannel('a'), { ...createChannel('b', { ...defaultMic('ribbon') }), level: -3, delay: -180.4 }],
  }
  const cases = ([44_100, 48_000, 96_000] as const).flatMap((sampleRate) =>
    ([16, 24, 32] as const).map((bits) => [sampleRate, bits] as const),
  )

  it.each(cases)('at %s Hz and %s bits, loaded back in, gives the blend within −80 dB', (sampleRate, bits) => {
    const { channels } = exportBlend(bench, { ...DEFAULT_EXPORT, sampleRate, bits, fadeMs: 0 }, none)
    const wav = readWav(writeWav(channels, sampleRate, bits))
    expect([wav.sampleRate, wav.bits]).toEqual([sampleRate, bits])
    const here = blendResponse(bench, rate, none).left
    const back = blendResponse(benchOfFiles(fileChannel('x')), rate, () => wav).left
    const peak = here.reduce((m, x) => Math.max(m, Math.abs(x)), 0)
    const errors = [-3, -2, -1, 0, 1, 2, 3].map((shift) => {
      let worst = 0
      for (let n = 8; n < 1_700; n++) worst = Math.max(worst, Math.abs(here[n] - back[n + shift]))
      return 20 * Math.log10(worst / peak)
    })
    expect(Math.min(...errors)).toBeLessThan(-80)
  })

  it('has the length, the fade and the level that were asked for', () => {
    const make = (change: Partial<ExportSettings>) => exportBlend(bench, { ...DEFAULT_EXPORT, ...change }, none)
    expect(make({}).channels[0]).toHaveLength(2_048)
    expect(make({ lengthMs: 200, sampleRate: 96_000 }).channels[0]).toHaveLength(19_200)
    expect(make({ lengthMs: 500 }).channels[0]).toHaveLength(24_000)
    expect(Math.abs(make({ fadeMs: 20 }).channels[0].at(-1) ?? 1)).toBeLessThan(1e-6)
    const peak = make({}).channels[0].reduce((m, x) => Math.max(m, Math.abs(x)), 0)
    expect(20 * Math.log10(peak)).toBeCloseTo(-0.3, 2)
    const unity = make({ normalise: 'loudness', bits: 32 })
    const s = spectrumOf(unity.channels[0], 8_192, rate)
    expect(loudnessGainDb(s.re, s.im, s.binHz, pinkWeights(s.re.length, s.binHz))).toBeCloseTo(0, 1)
  })

  it('as minimum phase keeps the tone and begins at once', () => {
    const far: MicBench = { ...bench, channels: [{ ...bench.channels[0], delay: 3_000 }] }
    const plain = exportBlend(far, { ...DEFAULT_EXPORT, normalise: 'loudness', bits: 32 }, none).channels[0]
    const early = exportBlend(far, { ...DEFAULT_EXPORT, normalise: 'loudness', bits: 32, minimumPhase: true }, none).channels[0]
    const [a, b] = [plain, early].map((taps) => curvePower(spectrumOf(taps, 8_192, rate)))
    CURVE_HZ.forEach((hz, i) => {
      if (hz > 60 && hz < 6_000) expect(Math.abs(10 * Math.log10(a[i] / b[i]))).toBeLessThan(0.3)
    })
    expect(early.findIndex((x) => Math.abs(x) > 0.05)).toBeLessThanOrEqual(plain.findIndex((x) => Math.abs(x) > 0.05))
  })

  it('refuses to save silence', () => {
    expect(() => exportBlend(benchOfFiles(), DEFAULT_EXPORT, none)).toThrow('silent')
  })
})
