import type { Command } from 'commander'
import { byWeight, checkPreset, checkSound, isAside, overCeiling, sparing, type Finding } from '@fulgor/core/checks'
import { partName, type Preset } from '@fulgor/core/preset'
import { playedRiff, readingSignals, readSnapshot, soundOf, voiceIn, type Reading } from '@fulgor/core/reading'
import { Renderer } from '@fulgor/core/render'
import type { Strength } from '@fulgor/core/riffs'
import { InputError, readPresetFile, readWavFile } from '../input'
import { print } from '../output'
import { buildContext, drySignal, qualityOption } from '../sound'

const RATE = 48_000
/** Exit statuses: something is worth knowing; something will go wrong. */
const NOTES = 3
const WARNINGS = 4
export function addCheck(program: Command): void {
  program
    .command('check')
    .description(
      `what will go wrong with a preset, and why; exit status ${NOTES} when something is worth knowing, ${WARNINGS} when something will go wrong`,
    )
    .argument('<preset>', 'preset document')
    .option('--di <file>', 'dry signal, for a preset that plays a recording of the player')
    .option('--quality <name>', 'oversampling of clipping stages: live (4x), high (8x) or highest (16x)', 'live')
    .option('--values-only', 'only the rules that need no sound')
    .option('--json', 'one JSON value')
    .action((file: string, o: { di?: string; quality: string; valuesOnly?: boolean; json?: boolean }) => {
      const preset = readPresetFile(file)
      let ids = 0
      const newId = () => `new-${++ids}`
      const readings = o.valuesOnly ? {} : readAll(file, preset, o)
      const peaks = Object.fromEntries(Object.entries(readings).map(([id, r]) => [id, r.output.truePeakDbtp]))
      const all = byWeight([...overCeiling(preset, peaks), ...checkSound({ preset, readings }, newId), ...checkPreset(preset, newId)])
      const open = sparing(preset, all, newId).filter((f) => !isAside(preset, f))
      print(
        o.json ?? false,
        open.map(({ rule, severity, where, snapshots, figure, reason, mends }) => ({
          rule,
          severity,
          where,
          snapshots: snapshots ?? null,
          figure,
          reason,
          mend: mends.map((m) => m.label),
        })),
        () => [
          ...(open.length === 0 ? ['Nothing found.'] : open.flatMap((f) => wordsOf(preset, f))),
          ...(all.length > open.length ? [`${all.length - open.length} set aside.`] : []),
        ],
      )
      if (open.some((f) => f.severity === 'warning')) process.exitCode = WARNINGS
      else if (open.length > 0) process.exitCode = NOTES
    })
}

function wordsOf(preset: Preset, { severity, where, figure, reason, mends, rule }: Finding): string[] {
  const place = where.map((id) => partName(preset, id)).join(', ')
  return [
    `${severity === 'warning' ? 'WILL GO WRONG' : 'worth knowing'}  ${rule}${place ? `  (${place})` : ''}`,
    `  ${figure} ${reason}`,
    ...mends.map((m) => `  - ${m.label}`),
  ]
}

function readAll(file: string, preset: Preset, o: { di?: string; quality: string }): Record<string, Reading> {
  const di = o.di === undefined ? null : drySignal(o.di, readWavFile(o.di))
  const sampleRate = di?.sampleRate ?? RATE
  const renderer = new Renderer(buildContext(sampleRate, qualityOption(o.quality)))
  const readings: Record<string, Reading> = {}
  const riffs = new Map<string, Float32Array>()
  for (const { id, name } of preset.snapshots) {
    const played = (strength?: Strength) => {
      const shipped = playedRiff(preset, id, strength)
      if (!shipped) throw new InputError(`${file}: “${name}” plays a recording of the player; give it by --di`)
      const key = JSON.stringify(shipped)
      const samples = riffs.get(key) ?? soundOf(shipped, sampleRate)
      riffs.set(key, samples)
      return { key, samples }
    }
    const riff = di ? { key: 'di', samples: di.dry } : played()
    const hand = di ? null : { soft: played('soft'), hard: played('hard') }
    const reading = readSnapshot(
      { preset, snapshot: id, ...readingSignals(riff, hand, voiceIn(preset, id), sampleRate), sampleRate },
      (of, snapshot, from) => renderer.render({ preset: of, snapshot, dryKey: from.key, dry: from.samples, sampleRate }),
    )
    let next = reading.next()
    while (!next.done) next = reading.next()
    readings[id] = next.value
  }
  return readings
}
