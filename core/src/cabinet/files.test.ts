import { describe, expect, it } from 'vitest'
import { readSound, SoundFileError, writeWav } from '@fulgor/core/formats'
import {
  BAND_HZ,
  groupKinds,
  inDirection,
  inspectResponse,
  measureOf,
  regionDb,
  resampledResponse,
  spectrumOf,
  timbreDistance,
  type Timbre,
} from '.'

const rate = 48_000

function random(seed: number): () => number {
  let state = seed
  return () => (state = (state * 16_807) % 2_147_483_647) / 2_147_483_647
}

const decaying = (frames = 2_048, at = 40, hz = 900): Float32Array =>
  Float32Array.from({ length: frames }, (_, n) =>
    n < at ? 0 : 0.7 * Math.exp(-(n - at) / 120) * Math.sin((2 * Math.PI * hz * (n - at + 1)) / rate),
  )

const sound = (channels: Float32Array[], sampleRate = rate) => ({ sampleRate, bits: 24, channels })

describe('a file’s report', () => {
  it('tells frames, rate, channels, peak and where it starts', () => {
    const report = inspectResponse(sound([decaying()]))
    expect(report).toMatchObject({
      frames: 2_048,
      sampleRate: rate,
      channels: 1,
      bits: 24,
      onsetSamples: 40,
      polarity: 'positive',
      clipped: 0,
    })
    const peak = decaying().reduce((m, x) => Math.max(m, Math.abs(x)), 0)
    expect(report.peakDbfs).toBeCloseTo(20 * Math.log10(peak), 6)
  })

  it('tells polarity, DC and clipping', () => {
    expect(inspectResponse(sound([decaying().map((x) => -x)])).polarity).toBe('negative')
    expect(inspectResponse(sound([decaying().map((x) => x + 0.02)])).dc).toBeCloseTo(
      0.02 + decaying().reduce((s, x) => s + x, 0) / 2_048,
      5,
    )
    const clipped = decaying().map((x) => Math.max(-1, Math.min(1, x * 4)))
    expect(inspectResponse(sound([clipped])).clipped).toBeGreaterThan(10)
  })

  // exp(−t/τ): its energy is 60 dB down after 6.91 τ / 2 by Schroeder's integration of exp(−2t/τ)
  it('tells the length until −60 dB', () => {
    const tau = 0.01
    const noise = random(4)
    const taps = Float32Array.from({ length: 24_000 }, (_, n) => (noise() - 0.5) * Math.exp(-n / (tau * rate)))
    expect(inspectResponse(sound([taps])).lengthMs).toBeCloseTo(6.91 * tau * 1000, -1)
  })

  it('of an impulse: flat bands, loudness 0 dB', () => {
    const taps = new Float32Array(512)
    taps[10] = 1
    const { bands, loudnessDb } = inspectResponse(sound([taps]))
    expect(loudnessDb).toBeCloseTo(0, 6)
    expect(Math.max(...bands) - Math.min(...bands)).toBeLessThanOrEqual(0.1)
  })

  it.each([44_100, 96_000, 192_000])('of a response at %s Hz is that of the same one at 48 kHz', (other) => {
    const frames = Math.round((2_048 * other) / rate)
    const there = Float32Array.from({ length: frames }, (_, n) => {
      const t = n / other - 40 / rate
      return t < 0 ? 0 : (rate / other) * 0.7 * Math.exp((-t * rate) / 120) * Math.sin(2 * Math.PI * 900 * t)
    })
    const a = inspectResponse(sound([decaying()]))
    const b = inspectResponse(sound([there], other))
    expect(b.loudnessDb).toBeCloseTo(a.loudnessDb, 0)
    expect(timbreDistance(a, b)).toBeLessThan(0.3)
  })

  it('knows equal samples in other files, and unlike ones', () => {
    const as = (bits: 16 | 24 | 32, taps = decaying()) => inspectResponse(readSound(writeWav([taps], rate, bits))).fingerprint
    const on16 = readSound(writeWav([decaying()], rate, 16)).channels[0] as Float32Array<ArrayBuffer>
    expect(as(24, on16)).toBe(as(16, on16))
    expect(as(24)).toBe(as(24))
    expect(as(24)).not.toBe(as(24, decaying(2_048, 41)))
  })

  it('refuses a file that was cut short, by its missing samples', () => {
    const bytes = writeWav([decaying(100)], rate, 16)
    expect(() => inspectResponse(readSound(bytes.slice(0, bytes.length - 20)))).toThrow('10 of its 100 samples are missing')
    const whole = aiff(decaying(100), 24)
    expect(() => inspectResponse(readSound(whole.slice(0, whole.length - 30)))).toThrow('10 of its 100')
  })

  it('refuses silence and songs', () => {
    expect(() => inspectResponse(sound([new Float32Array(100)]))).toThrow('silent')
    expect(() => inspectResponse(sound([decaying(rate * 11)]))).toThrow('11.0 s long')
  })
})

it('a response at another rate filters alike', () => {
  const here = decaying()
  const there = resampledResponse(here, rate, 96_000)
  const [a, b] = [spectrumOf(here, 8_192, rate), spectrumOf(there, 16_384, 96_000)]
  for (let k = 10; k < 2_000; k += 50) expect(Math.hypot(a.re[k], a.im[k])).toBeCloseTo(Math.hypot(b.re[k], b.im[k]), 2)
})

describe('malformed files', () => {
  /** Good files of every kind to damage. */
  const good = (): Uint8Array[] => [
    writeWav([decaying(300)], rate, 16),
    writeWav([decaying(300), decaying(300)], 44_100, 24),
    writeWav([decaying(300)], 96_000, 32),
    aiff(decaying(300), 16),
    aiff(decaying(300), 24),
  ]

  it('3,000 damaged ones are refused with a reason or read as finite numbers, never a crash', () => {
    const next = random(11)
    const outcomes = { read: 0, refused: 0 }
    const originals = good()
    for (let i = 0; i < 3_000; i++) {
      const bytes = originals[i % originals.length].slice()
      const how = next()
      let damaged = bytes
      if (how < 0.3) damaged = bytes.slice(0, Math.floor(next() * bytes.length))
      else if (how < 0.6)
        for (let k = 0; k < 1 + next() * 6; k++) damaged[Math.floor(next() * Math.min(64, bytes.length))] = Math.floor(next() * 256)
      else if (how < 0.8) for (let k = 0; k < 40; k++) damaged[Math.floor(next() * bytes.length)] = Math.floor(next() * 256)
      else if (how < 0.9) damaged = Uint8Array.from({ length: Math.floor(next() * 500) }, () => Math.floor(next() * 256))
      else
        damaged = Uint8Array.from([
          ...bytes.slice(0, 12),
          ...Array.from({ length: 60 }, () => Math.floor(next() * 256)),
          ...bytes.slice(12),
        ])
      try {
        const { channels, sampleRate } = readSound(damaged)
        expect(channels.length === 1 || channels.length === 2).toBe(true)
        expect(sampleRate).toBeGreaterThan(0)
        expect(channels.every((c) => c.length > 0 && c.every(Number.isFinite))).toBe(true)
        outcomes.read++
      } catch (error) {
        expect(error).toBeInstanceOf(SoundFileError)
        expect((error as Error).message.length).toBeGreaterThan(8)
        outcomes.refused++
      }
    }
    expect(outcomes.read + outcomes.refused).toBe(3_000)
    expect(outcomes.refused).toBeGreaterThan(1_000)
    expect(outcomes.read).toBeGreaterThan(300)
  })

  it.each([
    [new Uint8Array(0), 'empty'],
    [new TextEncoder().encode('This is a letter, no sound.'), 'no WAV, AIFF or FLAC'],
    [new TextEncoder().encode('fLaC....'), 'FLAC is not read here'],
    [aiff(decaying(10), 16).slice(0, 30), 'cut short'],
  ])('%# says %s', (bytes, reason) => {
    expect(() => readSound(bytes)).toThrow(reason)
  })

  it('reads AIFF as it reads WAV', () => {
    const taps = readSound(writeWav([decaying(200)], rate, 24)).channels[0]
    const { channels, sampleRate, bits } = readSound(aiff(decaying(200), 24))
    expect([sampleRate, bits]).toEqual([rate, 24])
    taps.forEach((x, n) => expect(channels[0][n]).toBeCloseTo(x, 6))
  })
})

// AIFF-C with the encoding “sowt”: the same samples with their lowest byte first (its description of 1991)
it.each([16, 24] as const)('reads little-endian AIFF-C of %s bits', (bits) => {
  const data = decaying(200)
  const plain = aiff(data, bits)
  const width = bits / 8
  const head = 12 + 8 + 18 + 16
  const sound = plain.slice(head)
  const turned = Uint8Array.from(sound, (_, n) => sound[Math.floor(n / width) * width + (width - 1 - (n % width))])
  const text = (t: string) => [...new TextEncoder().encode(t)]
  const size = (n: number) => [(n >>> 24) & 255, (n >>> 16) & 255, (n >>> 8) & 255, n & 255]
  const common = [...text('COMM'), ...size(24), ...plain.slice(20, 38), ...text('sowt'), 0, 0]
  const body = [...text('AIFC'), ...common, ...text('SSND'), ...size(8 + turned.length), ...size(0), ...size(0), ...turned]
  const { channels } = readSound(Uint8Array.from([...text('FORM'), ...size(body.length), ...body]))
  data.forEach((x, n) => expect(channels[0][n]).toBeCloseTo(x, bits === 16 ? 4 : 6))
})

/** A plain AIFF after the format's description of 1989, rate 48,000 as an 80-bit float (400E BB80 0…). */
function aiff(data: Float32Array, bits: 16 | 24): Uint8Array {
  const width = bits / 8
  const out: number[] = []
  const text = (t: string) => out.push(...new TextEncoder().encode(t))
  const u32 = (v: number) => out.push((v >>> 24) & 255, (v >>> 16) & 255, (v >>> 8) & 255, v & 255)
  const u16 = (v: number) => out.push((v >>> 8) & 255, v & 255)
  text('FORM')
  u32(4 + 26 + 16 + data.length * width)
  text('AIFFCOMM')
  u32(18)
  u16(1)
  u32(data.length)
  u16(bits)
  out.push(0x40, 0x0e, 0xbb, 0x80, 0, 0, 0, 0, 0, 0)
  text('SSND')
  u32(8 + data.length * width)
  u32(0)
  u32(0)
  for (const x of data) {
    const v = Math.max(-(2 ** (bits - 1)), Math.min(2 ** (bits - 1) - 1, Math.round(x * 2 ** (bits - 1))))
    if (bits === 24) out.push((v >> 16) & 255)
    out.push((v >> 8) & 255, v & 255)
  }
  return Uint8Array.from(out)
}

describe('ranking', () => {
  const timbre = (tilt: number, bump = 0, centroidHz = 1_800): Timbre => ({
    centroidHz,
    bands: BAND_HZ.map((hz) => tilt * Math.log2(hz / 900) + (hz >= 80 && hz <= 250 ? bump : 0)),
  })

  it('measures regions as the mean power of their bands', () => {
    expect(regionDb({ centroidHz: 0, bands: BAND_HZ.map(() => -3) }, 'body')).toBeCloseTo(-3, 9)
    expect(measureOf(timbre(0, 0, 2_222), 'brightness')).toBe(2_222)
    expect(measureOf(timbre(0, 6), 'body')).toBeCloseTo(6, 1)
  })

  it('takes the mean difference of third octaves as the distance', () => {
    expect(timbreDistance(timbre(0), timbre(0))).toBe(0)
    // six of the 21 bands from 80 Hz to 8 kHz differ by 3 dB
    expect(timbreDistance(timbre(0), timbre(0, 3))).toBeCloseTo((6 * 3) / 21, 6)
  })

  it('“like this, but” keeps to the direction and puts the most alike first', () => {
    const all = [timbre(0, 0, 2_000), timbre(1, 0, 2_600), timbre(3, 0, 3_200), timbre(-1, 0, 1_500), timbre(0, 4, 2_000)]
    expect(inDirection(all, all[0], 'brighter')).toEqual([1, 2])
    expect(inDirection(all, all[0], 'darker')).toEqual([3])
    // a falling tilt has more body, too
    expect(inDirection(all, all[0], 'thicker')).toEqual([4, 3])
    expect(inDirection(all, all[0], 'thinner')[0]).toBe(1)
  })

  it('groups 500 files of 20 made-up kinds into those 20', () => {
    const next = random(21)
    const centres = Array.from({ length: 20 }, () => BAND_HZ.map(() => 16 * (next() - 0.5)))
    const truth = Array.from({ length: 500 }, (_, i) => i % 20)
    const all = truth.map((kind): Timbre => ({ centroidHz: 1_500, bands: centres[kind].map((db) => db + 1.2 * (next() - 0.5)) }))
    const kinds = groupKinds(all, 20)
    expect(kinds).toHaveLength(20)
    for (const { members, representative, spreadDb } of kinds) {
      expect(new Set(members.map((m) => truth[m])).size).toBe(1)
      expect(members[0]).toBe(representative)
      expect(spreadDb).toBeLessThan(1)
    }
    expect(kinds.flatMap((k) => k.members).sort((a, b) => a - b)).toEqual(truth.map((_, i) => i))
  })

  it('makes no more kinds than there are unlike files', () => {
    const same = Array.from({ length: 9 }, () => timbre(1))
    expect(groupKinds(same, 4)).toHaveLength(1)
    expect(groupKinds([], 4)).toEqual([])
    expect(groupKinds([timbre(0), timbre(2)], 9)).toHaveLength(2)
  })
})
