import { modelOf } from '@fulgor/core/catalogue'
import { effectiveParams, partName, resolveStage, riffOf, stagesOf, tempoOf } from '@fulgor/core/preset'
import { riffOnsets } from '@fulgor/core/riffs'
import { mixGains } from '@fulgor/core/signal'
import { CLEAR_DB, echoPattern, maskingAmong, wetAgainstDryDb } from '@fulgor/core/stage'
import type { Check, Finding } from './finding'
import { db, grouped, listed } from './heard'

/** Repeats that fall on the next notes of the riff nearly as loud as they are. */
export const delayDrowns: Check = {
  id: 'delay-drowns',
  why: 'A repeat that falls on the next note, or some 50 ms behind it, covers its attack when it is nearly as loud. All repeats of all notes before add up. Softer or darker repeats stay out of the way; repeats that are part of the part should be as loud as the notes, and hit the gaps.',
  find(preset) {
    const hits = preset.snapshots.flatMap((snapshot) => {
      const tempo = tempoOf(preset, snapshot.id)
      const onsets = riffOnsets(riffOf(preset, snapshot.id).id, tempo)
      if (onsets === null || snapshot.role === 'ambience' || snapshot.role === 'effect') return []
      return stagesOf(preset.chain).flatMap((stage) => {
        const { echoes, family } = modelOf(stage.model)
        const { on, params, bench } = resolveStage(preset, stage, snapshot.id)
        if (!on || family !== 'delay' || !echoes || typeof params.mix !== 'number') return []
        const { dry, wet } = mixGains(params.mix)
        const wetDb = wetAgainstDryDb(wet, dry)
        if (!Number.isFinite(wetDb)) return []
        const lines = echoes(effectiveParams({ model: stage.model, bench }, params, tempo))
        const pattern = lines.flatMap((l) => echoPattern(l.time, l.feedback / 100, wetDb + l.level))
        const under = maskingAmong(
          pattern,
          onsets.map((s) => s * 1000),
        )
        if (under === null || under >= CLEAR_DB / 2) return []
        const mix = Math.max(0, Math.floor(Math.min(50, 50 * wet) * Math.pow(10, -(CLEAR_DB / 2 - under) / 20)))
        return [{ stage, snapshot, under, mix }]
      })
    })
    return grouped(hits, (h) => h.stage.id).map((same): Finding => {
      const worst = same.reduce((a, b) => (b.under < a.under ? b : a))
      return {
        rule: delayDrowns.id,
        severity: 'note',
        where: [worst.stage.id],
        snapshots: same.map((h) => h.snapshot.id),
        figure: `Repeats of ${partName(preset, worst.stage.id)} lie ${db(worst.under)} dB under the next notes in ${listed(same.map((h) => h.snapshot.name))}.`,
        amount: { value: CLEAR_DB / 2 - worst.under, unit: 'dB', against: `${CLEAR_DB / 2} dB under and more keep the notes` },
        reason: 'The riff’s notes drown in its repeats.',
        mends: [
          {
            label: `Mix at ${worst.mix} %`,
            edits: same.map((h) => ({ type: 'setParam', stage: h.stage.id, snapshot: h.snapshot.id, param: 'mix', value: h.mix })),
          },
        ],
      }
    })
  },
}
