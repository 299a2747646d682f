import type { Command } from 'commander'
import { THIRD_OCTAVES } from '@fulgor/core/measure'
import { inspectReference, statementsOf, UnfitReference, type ReferenceReport } from '@fulgor/core/match'
import { LONGEST_S, VIEWS, type View } from '@fulgor/core/recording'
import { InputError, numberOption } from '../input'
import { figure, print, table } from '../output'
import { readSoundFile } from '../soundFile'

/** A stretch of a file as it is looked at. */
export async function stretchOf(path: string, o: { readonly from?: string; readonly to?: string }) {
  const { channels, sampleRate } = await readSoundFile(path)
  const seconds = channels[0].length / sampleRate
  if (seconds > LONGEST_S.reference)
    throw new InputError(`${path}: it lasts ${Math.round(seconds)} s; ${LONGEST_S.reference} s are read at most`)
  const from = o.from === undefined ? 0 : numberOption('from', o.from, 0, seconds)
  const to = o.to === undefined ? seconds : numberOption('to', o.to, from, seconds)
  const sides = channels.map((x) => x.subarray(Math.round(from * sampleRate), Math.round(to * sampleRate)))
  return { sides, sampleRate }
}

export function viewOption(text: string): View {
  const found = VIEWS.find((v) => v === text)
  if (!found) throw new InputError(`--view: must be ${VIEWS.join(', ')}, not “${text}”`)
  return found
}

const json = (r: ReferenceReport) => ({
  durationS: r.seconds,
  integratedLufs: r.lufs,
  loudnessRangeLu: r.rangeLu,
  peakDbfs: r.peakDbfs,
  crestDb: r.crestDb,
  centroidHz: r.centroidHz,
  tiltDbPerOctave: r.tiltDb,
  thirdOctave: r.bands.db.map((db, k) => ({ hz: THIRD_OCTAVES[k], db, spreadDb: r.bands.spread[k] })),
  tempo: r.tempo,
  tuning: r.tuning,
  sides: r.sides,
  echo: r.echo,
  ringS: r.ring,
  tremolo: r.modulation,
  widthPercent: r.width.percent,
  widthByThirdOctave: r.width.bands.map((percent, k) => ({ hz: THIRD_OCTAVES[k], percent })),
  cutHz: r.cut,
  others: r.others,
  voice: r.voice,
  trusted: r.trusted,
})

export function addReference(program: Command): void {
  program
    .command('reference')
    .description('recordings to be matched: what one is')
    .command('inspect')
    .description('tempo, tuning, sides, echo, room, coding, other players, level and tone of a recording (WAV, AIFF, FLAC)')
    .argument('<file>')
    .option('--from <s>', 'start of the stretch')
    .option('--to <s>', 'end of the stretch')
    .option('--view <side>', VIEWS.join(', '), 'mid')
    .option('--json', 'one JSON value')
    .action(async (path: string, o: { from?: string; to?: string; view: string; json?: boolean }) => {
      const view = viewOption(o.view)
      const { sides, sampleRate } = await stretchOf(path, o)
      let report: ReferenceReport
      try {
        report = inspectReference(sides, sampleRate, view)
      } catch (error) {
        if (error instanceof UnfitReference) throw new InputError(`${path}: ${error.message}`)
        throw error
      }
      print(o.json ?? false, json(report), () => [
        `${path}: ${report.seconds.toFixed(1)} s, ${figure(report.lufs, 'LUFS')}, crest ${figure(report.crestDb, 'dB')}, brightness ${figure(report.centroidHz, 'Hz', 0)}, tilt ${figure(report.tiltDb, 'dB an octave')}`,
        ...table([
          ['', 'figure', 'sure, %', ''],
          ...statementsOf(report).map((s) => [s.name, s.value, String(Math.round(100 * s.confidence)), s.words]),
        ]),
      ])
    })
}
