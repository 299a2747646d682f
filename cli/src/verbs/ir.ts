import type { Command } from 'commander'
import {
  alignTo,
  blendResponse,
  cancellation,
  channelSpectrum,
  curvePower,
  inspectResponse,
  MAX_CHANNELS,
  onsetOf,
  spectrumOf,
  sumOf,
  type BenchChannel,
  type HalfSpectrum,
  type MicBench,
  type SoundFile,
} from '@fulgor/core/cabinet'
import { channelSpecs, createBench, createChannel } from '@fulgor/core/catalogue'
import { writeWav } from '@fulgor/core/formats'
import { InputError, numberOption, writeFile } from '../input'
import { figure, print, table } from '../output'
import { readSoundFile } from '../soundFile'

const RATE = 48_000

export function addIr(program: Command): void {
  const ir = program.command('ir').description('impulse responses: read, align and blend')
  ir.command('inspect')
    .description('length, level, polarity, onset, clipping and tone of an impulse response (WAV, AIFF, FLAC)')
    .argument('<file>')
    .option('--json', 'one JSON value')
    .action(async (path: string, o: { json?: boolean }) => {
      const report = inspect(path, await readSoundFile(path))
      print(o.json ?? false, report, () => [
        `${path}: ${report.frames} samples, ${report.channels === 1 ? 'mono' : 'stereo'}, ${report.sampleRate} Hz, ${report.bits} bits`,
        ...table([
          ['peak', figure(report.peakDbfs, 'dBFS')],
          ['loudness', figure(report.loudnessDb, 'dB')],
          ['first sound', `${report.onsetSamples} samples`],
          ['until −60 dB', figure(report.lengthMs, 'ms')],
          ['polarity', report.polarity],
          ['brightness', figure(report.centroidHz, 'Hz', 0)],
          ['DC', report.dc.toExponential(2)],
          ['clipped', `${report.clipped} samples`],
        ]),
      ])
    })
  ir.command('blend')
    .description('sums impulse responses into one, at 48 kHz; the first is the main one')
    .argument('<files...>')
    .option('--gain <dB,dB,…>', 'level of each, dB', '')
    .option('--align', 'delay and polarity of each against the first, by cross-correlation')
    .option('--frames <n>', 'length of the blend at 48 kHz: 2048, 9600 or 24000', '2048')
    .requiredOption('--out <file>', 'WAV to write, 32-bit float')
    .option('--json', 'one JSON value')
    .action(blend)
}

function inspect(path: string, file: SoundFile & { bits: number }): ReturnType<typeof inspectResponse> {
  try {
    return inspectResponse(file)
  } catch (error) {
    if (error instanceof RangeError) throw new InputError(`${path}: ${error.message}`)
    throw error
  }
}

async function blend(paths: string[], o: { gain: string; align?: boolean; frames: string; out: string; json?: boolean }): Promise<void> {
  if (paths.length < 2 || paths.length > MAX_CHANNELS)
    throw new InputError(`ir blend takes 2 to ${MAX_CHANNELS} files, not ${paths.length}`)
  const frames = Number(o.frames)
  if (![2_048, 9_600, 24_000].includes(frames)) throw new InputError(`--frames: must be 2048, 9600 or 24000, not “${o.frames}”`)
  const gains =
    o.gain === '' ? [] : o.gain.split(',').map((text) => numberOption('gain', text, channelSpecs.level.min, channelSpecs.level.max))
  if (gains.length > paths.length) throw new InputError(`--gain: ${gains.length} levels for ${paths.length} files`)
  const files = new Map<string, SoundFile>()
  for (const path of paths) {
    const file = await readSoundFile(path)
    inspect(path, file)
    files.set(path, file)
  }
  const source = (id: string) => files.get(id) ?? null
  const placed = paths.map((path, i): BenchChannel => ({
    ...createChannel(`c${i}`, { kind: 'file', file: path, name: path, side: 'sum' }),
    level: gains[i] ?? 0,
  }))
  const bench: MicBench = { ...createBench(), channels: placed, frames }
  const spectra = placed.map((c) => spectrum(bench, c, source))
  const lags = spectra.map((s, i) => (i === 0 ? { lateUs: 0, inverted: false, likeness: 1 } : alignTo(spectra[0], s)))
  const aligned = placed.map((c, i): BenchChannel => ({ ...c, delay: -lags[i].lateUs, inverted: lags[i].inverted }))
  const channels = o.align ? aligned : placed
  const { left, gainDb } = blendResponse({ ...bench, channels }, RATE, source)
  writeFile(o.out, writeWav([Float32Array.from(left)], RATE, 32))
  const before = loss(bench, placed, source)
  const after = loss(bench, channels, source)
  const result = {
    out: o.out,
    frames: left.length,
    sampleRate: RATE,
    onsetSamples: onsetOf(left),
    gainDb,
    channels: paths.map((path, i) => ({
      file: path,
      levelDb: channels[i].level,
      lateUs: lags[i].lateUs,
      polarity: lags[i].inverted ? 'inverted' : 'normal',
      likeness: lags[i].likeness,
      appliedDelayUs: channels[i].delay,
      appliedInverted: channels[i].inverted,
    })),
    before: { lostDb: before.lostDb, deepest: before.deepest },
    after: { lostDb: after.lostDb, deepest: after.deepest },
  }
  const deep = ({ lostDb, deepest }: typeof before) =>
    `${lostDb.toFixed(2)} dB lost${deepest ? `, deepest ${deepest.depthDb.toFixed(1)} dB at ${deepest.hz.toFixed(0)} Hz` : ''}`
  print(o.json ?? false, result, () => [
    `${o.out}: ${left.length} samples at ${RATE} Hz, first sound after ${result.onsetSamples}`,
    ...table([
      ['file', 'late', 'polarity', 'level'],
      ...result.channels.map((c) => [c.file, `${c.lateUs.toFixed(1)} µs`, c.polarity, figure(c.levelDb, 'dB')]),
    ]),
    `before: ${deep(before)}`,
    `after: ${deep(after)}`,
  ])
}

function spectrum(bench: MicBench, channel: BenchChannel, source: (id: string) => SoundFile | null): HalfSpectrum {
  return channelSpectrum(bench.cab, channel, bench.frames, RATE, source) ?? spectrumOf([0], 8_192, RATE)
}

function loss(bench: MicBench, channels: readonly BenchChannel[], source: (id: string) => SoundFile | null) {
  const spectra = channels.map((c) => spectrum(bench, c, source))
  return cancellation(spectra.map(curvePower), curvePower(sumOf(spectra.map((s) => ({ spectrum: s })))))
}
