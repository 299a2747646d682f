import type { Command } from 'commander'
import { writeWav } from '@fulgor/core/formats'
import { outputMeasures, stageMeasures } from '@fulgor/core/measure'
import type { Preset, Snapshot } from '@fulgor/core/preset'
import { playedRiff, soundOf } from '@fulgor/core/reading'
import { Renderer, type Sound, type Tap } from '@fulgor/core/render'
import { InputError, numberOption, readPresetFile, readWavFile, writeFile } from '../input'
import { figure, print, table, fileNames } from '../output'
import { buildContext, drySignal, qualityOption, withoutSilence, withRoom } from '../sound'
import { onHand } from './guitar'
import { measureJson, measureLines } from './measure'

interface RenderOptions {
  preset: string
  di?: string
  guitar?: string
  position?: string
  volume?: string
  tone?: string
  out: string
  snapshot?: string
  allSnapshots?: boolean
  taps?: boolean
  bits: string
  quality: string
  json?: boolean
}

/** Finds a snapshot by name, id or number. */
export function pickSnapshot(preset: Preset, wanted: string): Snapshot {
  const lower = wanted.toLowerCase()
  const found = preset.snapshots.find((s, i) => s.name.toLowerCase() === lower || s.id === wanted || String(i + 1) === wanted)
  if (!found)
    throw new InputError(`--snapshot: “${wanted}” is not in this preset; it has ${preset.snapshots.map((s) => s.name).join(', ')}`)
  return found
}

/** Renders to the end, handing each stage's sound on. */
export function renderAll(renderer: Renderer, job: Parameters<Renderer['render']>[0], onTap: (tap: Tap) => void = () => undefined): Sound {
  const taps = renderer.render(job)
  for (;;) {
    const { value, done } = taps.next()
    if (done) return value.sound
    onTap(value)
  }
}

const RATE = 48_000

/** A snapshot's own riff on the guitar that plays it. */
function riffOn(file: string, preset: Preset, snapshot: Snapshot, sampleRate: number): Float32Array {
  const played = playedRiff(preset, snapshot.id)
  if (!played) throw new InputError(`${file}: “${snapshot.name}” plays a recording of the player; give it by --di`)
  return soundOf(played, sampleRate)
}

const channelsOf = ({ left, right, stereo }: Sound) => (stereo ? [left, right] : [left])

export function addRender(program: Command): void {
  program
    .command('render')
    .description('a dry signal through a preset, as WAV, with its measures')
    .requiredOption('--preset <file>', 'preset document')
    .option('--di <file>', 'dry signal; without it the preset’s own riff')
    .option('--guitar <file>', 'guitar document, or a shipped guitar by name; without it the preset’s own')
    .option('--position <n>', 'pickup position of the guitar, by number or name')
    .option('--volume <n>', 'where the guitar’s volume stands, 0 to 10')
    .option('--tone <n>', 'where the guitar’s tone control stands, 0 to 10')
    .requiredOption('--out <file>', 'WAV to write; with --all-snapshots one file each, named after it')
    .option('--snapshot <name>', 'snapshot by name or number; without it the first one')
    .option('--all-snapshots', 'every snapshot')
    .option('--taps', 'measures after every stage')
    .option('--bits <n>', '16, 24 or 32 (float)', '24')
    .option('--quality <name>', 'oversampling of clipping stages: live (4x), high (8x) or highest (16x)', 'high')
    .option('--json', 'one JSON value')
    .action((o: RenderOptions) => {
      const preset = onHand(readPresetFile(o.preset), o)
      const di = o.di === undefined ? null : drySignal(o.di, readWavFile(o.di))
      const sampleRate = di?.sampleRate ?? RATE
      const bits = numberOption('bits', o.bits, 16, 32)
      if (bits !== 16 && bits !== 24 && bits !== 32) throw new InputError('--bits: must be 16, 24 or 32')
      const snapshots = o.allSnapshots
        ? preset.snapshots
        : [o.snapshot === undefined ? preset.snapshots[0] : pickSnapshot(preset, o.snapshot)]
      const renderer = new Renderer(buildContext(sampleRate, qualityOption(o.quality)))
      const files = o.allSnapshots
        ? fileNames(
            o.out,
            snapshots.map((s) => s.name),
          )
        : [o.out]
      const results = snapshots.map((snapshot, i) => {
        const taps: object[] = []
        const played = di?.dry ?? riffOn(o.preset, preset, snapshot, sampleRate)
        // what rings on behind the last note is part of the sound
        const dry = withRoom(played, sampleRate)
        const dryKey = di ? 'di' : JSON.stringify(playedRiff(preset, snapshot.id))
        const whole = renderAll(renderer, { preset, snapshot: snapshot.id, dryKey, dry, sampleRate }, (tap) => {
          if (o.taps) taps.push({ stage: tap.stage, ...stageMeasures(channelsOf(tap.sound), sampleRate) })
        })
        const sound = withoutSilence(whole, played.length)
        const over = framesOver(sound)
        const out = files[i]
        const measures = outputMeasures([sound.left, sound.right], sampleRate)
        return {
          sound,
          measures,
          over,
          result: {
            out,
            snapshot: snapshot.name,
            sampleRate,
            framesOverFullScale: over,
            cut: over > 0 && bits !== 32,
            ...measureJson(measures),
            ...(o.taps ? { taps } : {}),
          },
        }
      })
      for (const { sound, result } of results) writeFile(result.out, writeWav([sound.left, sound.right], sampleRate, bits))
      print(o.json ?? false, o.allSnapshots ? results.map((r) => r.result) : results[0].result, () =>
        results.flatMap(({ result, measures, over }) => [
          `${result.out} (${result.snapshot})`,
          ...(over > 0 ? [overWords(over, measures.truePeakDbtp, bits)] : []),
          ...measureLines(measures),
          ...(result.taps ? tapLines(result.taps as TapLine[]) : []),
        ]),
      )
    })
}

const framesOver = ({ left, right }: Sound): number => left.reduce((n, x, k) => n + (Math.abs(x) > 1 || Math.abs(right[k]) > 1 ? 1 : 0), 0)

const overWords = (frames: number, peak: number | null, bits: number): string =>
  `  ${frames} frames leave above full scale (${figure(peak, 'dBTP')}): ${bits === 32 ? 'kept, as the file holds floats' : 'cut off in the file; lower the Output, or write --bits 32'}`

type TapLine = { stage: string } & ReturnType<typeof stageMeasures>

const tapLines = (taps: readonly TapLine[]): string[] =>
  table([
    ['after', 'RMS', 'true peak', 'crest', 'brightness'],
    ...taps.map((t) => [
      t.stage,
      figure(t.rmsDbfs, 'dBFS'),
      figure(t.truePeakDbtp, 'dBTP'),
      figure(t.crestDb, 'dB'),
      figure(t.centroidHz, 'Hz', 0),
    ]),
  ])
