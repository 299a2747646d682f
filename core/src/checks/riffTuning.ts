import { tuningName, tuningOffsets } from '@fulgor/core/guitar'
import { handOf, riffOf, type Edit, type Preset, type RiffChoice, type Snapshot, type UsedGuitar } from '@fulgor/core/preset'
import { TUNINGS } from '@fulgor/core/riffs'
import type { Check, Finding } from './finding'
import { grouped, listed } from './heard'

/** Semitones from which a string counts as tuned otherwise. */
const OTHERWISE = 0.25

/** Off E standard, low string to high, that a riff has by itself; its tuning's name. Null where it goes with the guitar. */
function ownTuning(preset: Preset, riff: RiffChoice): { offsets: readonly number[]; name: string; on: string | null } | null {
  const named = TUNINGS.find((t) => t.id === riff.tuning)
  if (named) return { offsets: named.offsets, name: named.name, on: null }
  const made = riff.made && preset.guitars.find((g) => g.id === riff.made?.guitar)
  return made ? { offsets: tuningOffsets(made), name: tuned(made), on: made.name } : null
}

const tuned = (guitar: UsedGuitar): string => tuningName(guitar.strings.map((s) => s.note))

const withoutTuning = ({ tuning: _tuning, ...riff }: RiffChoice): RiffChoice => riff

/** A riff whose strings are tuned otherwise than those of the guitar that plays. */
export const riffTuning: Check = {
  id: 'riff-tuning',
  why: 'A string tuned lower is louder in the lows and looser under the hand: drive, gate and low cuts that are right for one tuning boom or choke in another. What is measured on a riff holds for the guitar that is tuned like it.',
  find(preset) {
    const hits = preset.snapshots.flatMap((snapshot) => {
      const riff = riffOf(preset, snapshot.id)
      const own = ownTuning(preset, riff)
      if (!own) return []
      const { profile } = handOf(preset, snapshot.id)
      const guitar = tuningOffsets(profile)
      const apart = own.offsets.map((offset, string) => offset - guitar[string])
      const [most] = [...apart].sort((a, b) => Math.abs(b) - Math.abs(a))
      return Math.abs(most) > OTHERWISE ? [{ snapshot, riff, own, profile, most }] : []
    })
    return grouped(hits, (h) => `${JSON.stringify(h.riff)} ${h.profile.id}`).map((same): Finding => {
      const [{ own, profile, most, riff }] = same
      const names = listed(same.map((h) => h.snapshot.name))
      const semitones = `${Math.abs(most).toFixed(1).replace('.0', '')} semitone${Math.abs(most) === 1 ? '' : 's'} ${most < 0 ? 'lower' : 'higher'}`
      const heardOn = own.on === null ? own.name : `${own.name} (recorded on ${own.on})`
      return {
        rule: riffTuning.id,
        severity: 'note',
        where: [],
        snapshots: same.map((h) => h.snapshot.id),
        figure: `${names}: the riff is in ${heardOn}, ${profile.name} in ${tuned(profile)}; its strings lie up to ${semitones}.`,
        amount: { value: 100 * Math.abs(most), unit: 'cents' },
        reason: 'What is heard and measured there is of a guitar that is not tuned like yours.',
        mends: riff.tuning
          ? [
              {
                label: 'Play the riff as the guitar is tuned',
                edits: withoutTunings(
                  preset,
                  same.map((h) => h.snapshot),
                ),
              },
            ]
          : [],
      }
    })
  },
}

/** Snapshots without a riff of their own share the preset's. */
function withoutTunings(preset: Preset, snapshots: readonly Snapshot[]): Edit[] {
  const own = snapshots.flatMap(({ id, riff }): Edit[] =>
    riff ? [{ type: 'setPlan', snapshot: id, plan: { riff: withoutTuning(riff) } }] : [],
  )
  return own.length < snapshots.length ? [{ type: 'setRiff', riff: withoutTuning(preset.riff) }, ...own] : own
}
