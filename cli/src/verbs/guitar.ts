import type { Command } from 'commander'
import { DocumentError } from '@fulgor/core/document'
import {
  dryChannel,
  GUITARS,
  measureGuitar,
  profileOf,
  readGuitar,
  UnfitRecording,
  type GuitarMeasure,
  type GuitarProfile,
} from '@fulgor/core/guitar'
import { THIRD_OCTAVES } from '@fulgor/core/measure'
import { applyEdit, usedGuitar, type Edit, type Preset } from '@fulgor/core/preset'
import { InputError, numberOption, readJsonFile, readWavFile } from '../input'
import { figure, print, table } from '../output'

/** A guitar from a document, or a shipped one by its name. */
export function guitarFrom(file: string): GuitarProfile {
  const shipped = GUITARS.find((g) => g.name.toLowerCase() === file.toLowerCase())
  if (shipped) return shipped
  try {
    return profileOf(readGuitar(readJsonFile(file)))
  } catch (error) {
    if (error instanceof DocumentError) throw new InputError(`${file}: ${error.message}`)
    throw error
  }
}

/** The preset on a guitar, at these settings in every snapshot; what it keeps for a guitar of that name counts. */
export function onHand(
  preset: Preset,
  o: { readonly guitar?: string; readonly position?: string; readonly volume?: string; readonly tone?: string },
): Preset {
  if (o.guitar === undefined && o.position === undefined && o.volume === undefined && o.tone === undefined) return preset
  const profile = o.guitar === undefined ? null : guitarFrom(o.guitar)
  const known = profile && preset.guitars.find((g) => g.name === profile.name)
  const id = known?.id ?? (profile ? 'command-line' : preset.hand.guitar)
  const guitar = profile ?? preset.guitars.find((g) => g.id === id) ?? preset.guitars[0]
  const position = o.position === undefined ? (profile ? 0 : preset.hand.position) : positionOf(guitar, o.position)
  const edits: Edit[] = [
    ...(profile ? [{ type: 'putGuitar', guitar: usedGuitar(id, profile) } as const] : []),
    {
      type: 'setHand',
      snapshot: null,
      hand: {
        guitar: id,
        position,
        ...(o.volume === undefined ? {} : { volume: numberOption('volume', o.volume, 0, 10) }),
        ...(o.tone === undefined ? {} : { tone: numberOption('tone', o.tone, 0, 10) }),
      },
    },
    ...preset.snapshots.map((s) => ({ type: 'setHand', snapshot: s.id, hand: null }) as const),
  ]
  return applyEdit(preset, { type: 'all', edits })
}

function positionOf(guitar: GuitarProfile, wanted: string): number {
  const found = guitar.positions.findIndex((p, i) => String(i + 1) === wanted || p.name.toLowerCase() === wanted.toLowerCase())
  if (found < 0)
    throw new InputError(
      `--position: “${wanted}” is none of “${guitar.name}”; it has ${guitar.positions.map((p, i) => `${i + 1} ${p.name}`).join(', ')}`,
    )
  return found
}

const measureJson = (m: GuitarMeasure) => ({
  durationS: m.durationS,
  segments: m.segments,
  softPeakDbfs: m.soft.peakDbfs,
  softRmsDbfs: m.soft.rmsDbfs,
  normalPeakDbfs: m.normal.peakDbfs,
  normalRmsDbfs: m.normal.rmsDbfs,
  hardPeakDbfs: m.hard.peakDbfs,
  hardRmsDbfs: m.hard.rmsDbfs,
  centroidHz: m.centroidHz,
  thirdOctave: m.bands.map((db, k) => ({ hz: THIRD_OCTAVES[k], db })),
  humDbfs: m.humDbfs,
  mainsHz: m.mains,
  hissDbfs: m.hissDbfs,
  a4Hz: m.pitch?.a4 ?? null,
  cents: m.pitch?.cents ?? null,
  warnings: m.warnings,
})

export function addGuitar(program: Command): void {
  const guitar = program.command('guitar').description('guitars: what a dry recording tells of one')
  guitar
    .command('measure')
    .argument('<file>', 'WAV of one pickup position: rest, then soft, normal and hard strums, in any order')
    .option('--channel <side>', 'left or right, where the file holds two signals')
    .option('--guitar <file>', 'guitar document or shipped guitar whose strings the notes belong to', GUITARS[0].name)
    .description('level, brightness, hum, hiss and pitch of a dry recording, and where its rest and strums are')
    .option('--json', 'one JSON value')
    .action((file: string, o: { channel?: string; guitar: string; json?: boolean }) => {
      if (o.channel !== undefined && o.channel !== 'left' && o.channel !== 'right')
        throw new InputError(`--channel: must be left or right, not “${o.channel}”`)
      const of = guitarFrom(o.guitar)
      const wav = readWavFile(file)
      let measure: GuitarMeasure
      try {
        const side = o.channel === undefined ? undefined : o.channel === 'left' ? 0 : 1
        const { samples, note } = dryChannel(wav.channels, wav.channels.length === 2 ? side : undefined)
        measure = measureGuitar(samples, wav.sampleRate, of, note)
      } catch (error) {
        if (error instanceof UnfitRecording) throw new InputError(`${file}: ${error.message}`)
        throw error
      }
      print(o.json ?? false, measureJson(measure), () => linesOf(measure))
    })
}

const linesOf = (m: GuitarMeasure): string[] => [
  ...table([
    ['strums', 'peak, dBFS', 'RMS, dBFS', 'found'],
    ...(['soft', 'normal', 'hard'] as const).map((s) => [
      s,
      m[s].peakDbfs.toFixed(1),
      m[s].rmsDbfs.toFixed(1),
      String(m.segments.filter((x) => x.kind === s).length),
    ]),
  ]),
  `brightness ${figure(m.centroidHz, 'Hz')}`,
  `hum ${figure(m.humDbfs, 'dBFS')} of ${m.mains} Hz mains, hiss ${figure(m.hissDbfs, 'dBFS')}`,
  m.pitch ? `tuned to ${figure(m.pitch.a4, 'Hz')}` : 'no pitch is clear',
  ...m.warnings.map((w) => `NOTE  ${w}`),
]
