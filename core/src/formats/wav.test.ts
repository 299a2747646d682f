import { describe, expect, it } from 'vitest'
import { readWav, WavError, wavFrames, wavHead, wavLayout, wavSamples, writeWav } from '.'

const tone = Float32Array.from({ length: 1000 }, (_, n) => 0.8 * Math.sin(n * 0.05))

/** A header by hand, after Microsoft & IBM 1991 and the extensible format. */
function wav(options: {
  format?: number
  channels?: number
  rate?: number
  bits?: number
  extensible?: boolean
  extra?: boolean
  data: Uint8Array
}) {
  const { format = 1, channels = 1, rate = 48_000, bits = 16, extensible, extra, data } = options
  const fmt = new DataView(new ArrayBuffer(extensible ? 40 : 16))
  fmt.setUint16(0, extensible ? 0xfffe : format, true)
  fmt.setUint16(2, channels, true)
  fmt.setUint32(4, rate, true)
  fmt.setUint32(8, (rate * channels * bits) / 8, true)
  fmt.setUint16(12, (channels * bits) / 8, true)
  fmt.setUint16(14, bits, true)
  if (extensible) {
    fmt.setUint16(16, 22, true)
    fmt.setUint16(18, bits, true)
    fmt.setUint16(24, format, true)
  }
  const chunk = (id: string, body: Uint8Array) => {
    const size = new DataView(new ArrayBuffer(4))
    size.setUint32(0, body.length, true)
    return [...new TextEncoder().encode(id), ...new Uint8Array(size.buffer), ...body, ...(body.length % 2 ? [0] : [])]
  }
  const body = [
    ...new TextEncoder().encode('WAVE'),
    ...(extra ? chunk('LIST', new Uint8Array(7)) : []),
    ...chunk('fmt ', new Uint8Array(fmt.buffer)),
    ...chunk('data', data),
  ]
  return Uint8Array.from(chunk('RIFF', Uint8Array.from(body)))
}

describe('WAV', () => {
  it.each([
    [16, -89],
    [24, -137],
    [32, -140],
  ] as const)('keeps a signal through %s bits within its rounding', (bits, db) => {
    const back = readWav(writeWav([tone, tone], 44_100, bits))
    expect(back).toMatchObject({ sampleRate: 44_100, bits, float: bits === 32 })
    const worst = Math.max(...back.channels[1].map((x, n) => Math.abs(x - tone[n])))
    expect(20 * Math.log10(worst + 1e-12)).toBeLessThan(db)
  })

  it('reads known bytes: 8, 16, 24, 32 bits, extensible, extra chunks', () => {
    expect([...readWav(wav({ data: Uint8Array.of(0, 0x40, 0, 0xc0) })).channels[0]]).toEqual([0.5, -0.5])
    expect([...readWav(wav({ bits: 24, data: Uint8Array.of(0, 0, 0x40, 0, 0, 0xc0) })).channels[0]]).toEqual([0.5, -0.5])
    expect([...readWav(wav({ bits: 32, data: Uint8Array.of(0, 0, 0, 0x40, 0, 0, 0, 0xc0) })).channels[0]]).toEqual([0.5, -0.5])
    // 8 bits are unsigned: 128 is silence
    expect([...readWav(wav({ bits: 8, data: Uint8Array.of(0x80, 0xc0, 0x40, 0) })).channels[0]]).toEqual([0, 0.5, -0.5, -1])
    const float = new Uint8Array(Float32Array.of(0.25, 1.5).buffer)
    expect([...readWav(wav({ format: 3, bits: 32, extensible: true, extra: true, data: float })).channels[0]]).toEqual([0.25, 1.5])
  })

  it.each([16, 24, 32] as const)('tells from its head where any stretch lies, %s bits', (bits) => {
    const sides = [0.3, -0.2].map((gain) => Float32Array.from({ length: 5_000 }, (_, n) => gain * Math.sin(n / 7)))
    const bytes = writeWav(sides, 44_100, bits)
    const layout = wavLayout(bytes.subarray(0, 64), bytes.length)
    expect(layout).toMatchObject({ dataAt: 44, frames: 5_000, channels: 2, sampleRate: 44_100, missing: 0 })
    const { dataAt, align } = layout
    const stretch = wavFrames(bytes.subarray(dataAt + 1_000 * align, dataAt + 1_300 * align), layout)
    const whole = readWav(bytes).channels
    stretch.forEach((x, side) => expect([...x]).toEqual([...whole[side].subarray(1_000, 1_300)]))
    // a file that was cut short holds what is there
    expect(wavLayout(bytes.subarray(0, 64), dataAt + 400 * align)).toMatchObject({ frames: 400, missing: 4_600 })
    expect(() => wavLayout(bytes.subarray(0, 30), bytes.length)).toThrow(WavError)
  })

  it.each([16, 24, 32] as const)('written piece by piece it is the same file, %s bits', (bits) => {
    const sides = [tone, tone.map((x) => -x / 3)]
    const pieces = [0, 300, 700].map((from, k) =>
      wavSamples(
        sides.map((x) => x.subarray(from, [300, 700, 1_000][k])),
        bits,
      ),
    )
    const whole = [wavHead(1_000, 2, 48_000, bits), ...pieces].flatMap((p) => [...p])
    expect(whole).toEqual([...writeWav(sides, 48_000, bits)])
  })

  it('says that a file would be too long', () => {
    expect(() => wavHead(1e9, 2, 48_000, 24)).toThrow('4 GB')
  })

  it('holds integers at full scale', () => {
    expect([...readWav(writeWav([[2, -2]], 48_000, 16)).channels[0]]).toEqual([32767 / 32768, -1])
  })

  it.each([
    ['text', new TextEncoder().encode('hello, this is no sound at all'), 'not a WAV file'],
    ['an empty file', new Uint8Array(0), 'not a WAV file'],
    ['no data', wav({ data: new Uint8Array(0) }), 'no sound'],
    ['12 bits', wav({ bits: 12, data: new Uint8Array(12) }), 'not read'],
    ['three channels', wav({ channels: 3, data: new Uint8Array(12) }), '3 channels'],
    ['an impossible rate', wav({ rate: 7, data: new Uint8Array(4) }), 'sample rate'],
    ['NaN', wav({ format: 3, bits: 32, data: new Uint8Array(Float32Array.of(NaN).buffer) }), 'finite'],
  ])('refuses %s with the reason', (_, bytes, reason) => {
    expect(() => readWav(bytes)).toThrow(reason)
  })

  it('never fails but with a reason, on 3,000 damaged files', () => {
    const good = wav({ bits: 24, channels: 2, extra: true, data: new Uint8Array(600).fill(3) })
    let seed = 1
    const random = (n: number) => (seed = (seed * 16807) % 2147483647) % n
    for (let k = 0; k < 3000; k++) {
      const bytes = good.slice(0, random(2) ? good.length : random(good.length))
      for (let hit = 0; hit < 1 + random(6); hit++) if (bytes.length > 0) bytes[random(Math.min(bytes.length, 80))] = random(256)
      try {
        expect(readWav(bytes).channels[0].length).toBeGreaterThan(0)
      } catch (error) {
        expect(error).toBeInstanceOf(WavError)
      }
    }
  })
})
