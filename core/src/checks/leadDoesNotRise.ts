import { CEILING_DBTP } from '@fulgor/core/measure'
import { targetOf, trimOf, trimsExactly, resolveStage, type Edit } from '@fulgor/core/preset'
import type { Finding, SoundCheck } from './finding'
import { db, heardOf } from './heard'

/** LU that a lead must stand above the rhythm sounds to be heard as one, and that a clean may (common practice, no source). */
const LEAD_RISES = 1.5
const CLEAN_RISES = 1.5

/** A lead that is no louder than what it leads over, and a clean that jumps out. */
export const leadDoesNotRise: SoundCheck = {
  id: 'lead-and-clean',
  why: 'A lead stands out of the band by level and mids; common are 2 to 4 LU. A clean sound has more peaks at the same loudness and is easily set too loud against driven ones. Some leave the rise to a pedal or to the sound engineer: then set this aside.',
  find(heard) {
    const { preset } = heard
    const all = heardOf(heard).filter(({ snapshot, reading }) => !snapshot.ignored && reading.output.integratedLufs !== null)
    const lufs = (role: string) => all.filter((h) => h.snapshot.role === role).map((h) => Number(h.reading.output.integratedLufs))
    const rhythm = lufs('rhythm').sort((a, b) => a - b)
    if (rhythm.length === 0) return []
    const middle = rhythm[Math.floor((rhythm.length - 1) / 2)]
    const trim = trimOf(preset)
    return all.flatMap(({ snapshot, reading }): Finding[] => {
      const rise = Number(reading.output.integratedLufs) - middle
      const lead = snapshot.role === 'lead' && rise < LEAD_RISES
      const clean = snapshot.role === 'clean' && rise > CLEAN_RISES
      if (!lead && !clean) return []
      const change = targetOf(preset, snapshot) - Number(reading.output.integratedLufs)
      const edits: Edit[] = []
      if (trim && trimsExactly(preset, trim)) {
        const now = Number(resolveStage(preset, trim.stage, snapshot.id).params[trim.param])
        const value = Math.max(trim.spec.min, Math.min(trim.spec.max, Math.round((now + change) * 10) / 10))
        edits.push({ type: 'setParam', stage: trim.stage.id, snapshot: snapshot.id, param: trim.param, value })
      }
      const peak = reading.output.truePeakDbtp ?? 0
      return [
        {
          rule: leadDoesNotRise.id,
          severity: 'warning',
          where: trim ? [trim.stage.id] : [],
          snapshots: [snapshot.id],
          figure: lead
            ? `${snapshot.name} is a lead and stands ${db(rise, true)} LU against the rhythm sounds.`
            : `${snapshot.name} is clean and stands ${db(rise, true)} LU over the rhythm sounds.`,
          amount: {
            value: lead ? LEAD_RISES - rise : rise - CLEAN_RISES,
            unit: 'LU',
            against: lead ? `a lead rises ${LEAD_RISES}` : `up to ${CLEAN_RISES}`,
          },
          reason: lead ? 'The solo goes under.' : 'It jumps out when it comes.',
          // louder than the ceiling is no mend
          mends:
            edits.length > 0 && Math.abs(change) > 0.5 && (lead ? change > 0 && peak + change < CEILING_DBTP : change < 0)
              ? [{ label: `To its target, ${db(change, true)} dB`, edits, safe: true }]
              : [],
        },
      ]
    })
  },
}
