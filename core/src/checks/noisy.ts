import { modelOf } from '@fulgor/core/catalogue'
import { partName, resolveStage, stagesOf, type Edit } from '@fulgor/core/preset'
import { OPENS_ABOVE_DB } from '@fulgor/core/reading'
import type { Finding, SoundCheck } from './finding'
import { db, heardOf } from './heard'
import { readingBefore } from './inputLevel'

/** dB between riff and noise at rest under which the noise is heard between notes in a quiet house (common practice, no source). */
const QUIET = 36

/** A snapshot whose noise at rest comes close to its music. */
export const noisy: SoundCheck = {
  id: 'noisy',
  why: 'Gain lifts hum and hiss of the guitar with the notes, and compression brings them closer to them. At rest nothing covers them. A gate closes between the notes; less gain keeps them apart in the first place, and a single coil turned away from transformers hums less.',
  find(heard, newId) {
    const { preset } = heard
    return heardOf(heard).flatMap(({ snapshot, reading }): Finding[] => {
      const { noiseDbfs, output, guitar } = reading
      if (noiseDbfs === null || output.rmsDbfs === null || guitar.noisePeakDbfs === null) return []
      const ratio = output.rmsDbfs - noiseDbfs
      if (ratio >= QUIET) return []
      const gate = stagesOf(preset.chain).find((s) => modelOf(s.model).family === 'gate')
      const worst = loser(heard, snapshot.id)
      const threshold = Math.min(-20, Math.ceil(guitar.noisePeakDbfs + OPENS_ABOVE_DB))
      const edits: readonly Edit[] = gate
        ? resolveStage(preset, gate, snapshot.id).on
          ? []
          : [{ type: 'setOn', stage: gate.id, snapshot: snapshot.id, on: true }]
        : gateFirst(
            newId(),
            snapshot.id,
            threshold,
            preset.snapshots.map((s) => s.id),
          )
      return [
        {
          rule: noisy.id,
          severity: 'warning',
          where: worst ? [worst.stage] : [],
          snapshots: [snapshot.id],
          figure: `${snapshot.name} is ${db(ratio)} dB above its noise at rest.`,
          amount: { value: QUIET - ratio, unit: 'dB', against: `under ${QUIET} dB` },
          reason: worst
            ? `${partName(preset, worst.stage)} brings them ${db(worst.lost)} dB closer; ${Math.round(reading.guitar.humShare * 100)} % of the noise is hum.`
            : 'It is heard between the notes.',
          mends: edits.length === 0 ? [] : [{ label: gate ? 'Switch the gate on here' : 'A gate at the guitar, here', edits }],
        },
      ]
    })
  },
}

/** A gate in front, on in one snapshot only. */
const gateFirst = (stage: string, snapshot: string, threshold: number, all: readonly string[]): readonly Edit[] => [
  { type: 'addStage', stage, model: 'gate', lane: null, index: 0 },
  { type: 'setParam', stage, snapshot: null, param: 'threshold', value: threshold },
  ...(all.length > 1
    ? [{ type: 'setOn', stage, snapshot: null, on: false } as const, { type: 'setOn', stage, snapshot, on: true } as const]
    : []),
]

/** The stage that brings riff and noise closest to each other, and by how many dB. */
function loser({ preset, readings }: Parameters<SoundCheck['find']>[0], snapshot: string): { stage: string; lost: number } | null {
  const reading = readings[snapshot]
  if (!reading) return null
  const apart = (r: { rmsDbfs: number | null; noiseDbfs: number | null } | undefined) =>
    r?.rmsDbfs == null || r.noiseDbfs === null ? null : r.rmsDbfs - r.noiseDbfs
  const lost = stagesOf(preset.chain).flatMap(({ id }) => {
    const before = apart(readingBefore(preset, reading, id))
    const after = apart(reading.stages[id])
    return before === null || after === null ? [] : [{ stage: id, lost: before - after }]
  })
  const worst = lost.reduce<{ stage: string; lost: number } | null>((a, b) => (a === null || b.lost > a.lost ? b : a), null)
  return worst && worst.lost > 3 ? worst : null
}
