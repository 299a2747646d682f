import { modelOf } from '@fulgor/core/catalogue'
import { effectiveParams, partName, partsOf, pathTo, placeOf, resolveStage, stagesOf, tempoOf } from '@fulgor/core/preset'
import { mixGains } from '@fulgor/core/signal'
import type { Check, Finding } from './finding'
import { db, grouped, listed } from './heard'

/** dB under the dry sound from which repeats fill a dip that is heard; turns of the wave that they must be beside it (common practice, no source). */
const FILLS = -12
const BESIDE = 0.2

/** A tremolo whose dips are filled by the repeats of a delay behind it. */
export const tremoloFilled: Check = {
  id: 'tremolo-filled',
  why: 'A delay behind a tremolo repeats its waves at another moment: the repeats are loud where it is soft, and the pulse blurs. Behind the delay the tremolo moves everything together. Before it the repeats are trembling themselves, which some want.',
  find(preset) {
    const hits = preset.snapshots.flatMap((snapshot) => {
      const tempo = tempoOf(preset, snapshot.id)
      const on = stagesOf(preset.chain).filter((s) => resolveStage(preset, s, snapshot.id).on)
      return on
        .filter((s) => s.model === 'modulation.tremolo')
        .flatMap((tremolo) =>
          on.flatMap((delay) => {
            const { family, echoes } = modelOf(delay.model)
            const { params, bench } = resolveStage(preset, delay, snapshot.id)
            const behind = partsOf(pathTo(preset.chain, delay.id)).some((s) => s.id === tremolo.id)
            if (family !== 'delay' || !echoes || !behind || typeof params.mix !== 'number') return []
            const moving = resolveStage(preset, tremolo, snapshot.id)
            const rate = Number(effectiveParams({ model: tremolo.model }, moving.params, tempo).rate)
            const [line] = echoes(effectiveParams({ model: delay.model, bench }, params, tempo))
            const turns = (line.time / 1000) * rate
            const { dry, wet } = mixGains(params.mix)
            const level = 20 * Math.log10(wet / Math.max(1e-6, dry)) + line.level
            return Math.abs(turns - Math.round(turns)) > BESIDE && level > FILLS ? [{ tremolo, delay, snapshot, level, ms: line.time }] : []
          }),
        )
    })
    return grouped(hits, (h) => `${h.tremolo.id} ${h.delay.id}`).map((same): Finding => {
      const [{ tremolo, delay, level, ms }] = same
      const [from, to] = [placeOf(preset, tremolo.id), placeOf(preset, delay.id)]
      return {
        rule: tremoloFilled.id,
        severity: 'note',
        where: [tremolo.id, delay.id],
        snapshots: same.map((h) => h.snapshot.id),
        figure: `Repeats of ${partName(preset, delay.id)} fall ${Math.round(ms)} ms later into the dips of ${partName(preset, tremolo.id)}, ${db(Math.max(0, -level))} dB under the notes, in ${listed(same.map((h) => h.snapshot.name))}.`,
        amount: { value: level - FILLS, unit: 'dB' },
        reason: 'The pulse of the tremolo blurs.',
        mends:
          from && to && from.lane === to.lane
            ? [{ label: 'Tremolo behind the delay', edits: [{ type: 'moveStage', stage: tremolo.id, lane: to.lane, index: to.index }] }]
            : [],
      }
    })
  },
}
