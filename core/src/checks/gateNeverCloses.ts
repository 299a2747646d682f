import { modelOf } from '@fulgor/core/catalogue'
import { partName, resolveStage, stagesOf, type Edit } from '@fulgor/core/preset'
import { CLOSES_ABOVE_DB, OPENS_ABOVE_DB } from '@fulgor/core/reading'
import type { SoundCheck } from './finding'
import { db, grouped, heardOf, listed } from './heard'

/** A gate whose closing level lies under the noise stays open. */
export const gateNeverCloses: SoundCheck = {
  id: 'gate-never-closes',
  why: 'A gate closes when what it hears falls below its threshold less the hysteresis. Where the noise of the resting guitar is louder than that, it stays open between the notes, and hum and hiss go through as if it were not there.',
  find({ preset, readings }) {
    const hits = heardOf({ preset, readings }).flatMap(({ snapshot, reading }) =>
      stagesOf(preset.chain).flatMap((stage) => {
        if (modelOf(stage.model).family !== 'gate') return []
        const { on, params } = resolveStage(preset, stage, snapshot.id)
        const noise = params.key === 'dry' ? reading.guitar.noisePeakDbfs : (reading.stages[stage.id]?.noiseInPeakDbfs ?? null)
        const closes = Number(params.threshold) - Number(params.hysteresis)
        return on && noise !== null && noise > closes ? [{ stage, snapshot, noise, closes, threshold: Number(params.threshold) }] : []
      }),
    )
    return grouped(hits, (h) => h.stage.id).map((same) => {
      const worst = same.reduce((a, b) => (b.noise > a.noise ? b : a))
      const threshold = Math.min(-20, Math.ceil(worst.noise + OPENS_ABOVE_DB))
      const hysteresis = OPENS_ABOVE_DB - CLOSES_ABOVE_DB
      const edits = same.flatMap(({ stage, snapshot }): Edit[] => [
        { type: 'setParam', stage: stage.id, snapshot: snapshot.id, param: 'threshold', value: threshold },
        { type: 'setParam', stage: stage.id, snapshot: snapshot.id, param: 'hysteresis', value: hysteresis },
      ])
      return {
        rule: gateNeverCloses.id,
        severity: 'warning',
        where: [worst.stage.id],
        snapshots: same.map((h) => h.snapshot.id),
        figure: `${partName(preset, worst.stage.id)} never closes in ${listed(same.map((h) => h.snapshot.name))}: it closes at ${db(worst.closes)} dBFS, and the noise peaks at ${db(worst.noise)}.`,
        amount: { value: worst.noise - worst.closes, unit: 'dB', against: 'noise over where it closes' },
        reason: 'Between the notes hum and hiss go through.',
        mends: [{ label: `Open at ${db(threshold)}, close at ${db(threshold - hysteresis)}`, edits }],
      }
    })
  },
}
