import { clippingStages, type Edit, partName, placeOf, resolveStage, stagesOf } from '@fulgor/core/preset'
import type { Finding, SoundCheck } from './finding'
import { db, heardOf, normalThd } from './heard'
import { bandPowerDb } from './bands'

/** dB that 80–200 Hz may stand over 400–1,600 Hz before a stage that clips hard (common practice, no source). */
const BOOM = 4
const HIGH_GAIN = 15

/** More lows than mids into hard clipping: palm mutes turn to mud. */
export const boomBeforeGain: SoundCheck = {
  id: 'boom-before-gain',
  why: 'What is loudest before the clipping decides what is distorted. Lows that go in stronger than the mids come out as a soft, slow boom under every palm mute, and an EQ behind the amp cannot take it back. A cut before it tightens; a vintage, loose low end is a choice.',
  find(heard, newId) {
    const { preset } = heard
    return heardOf(heard).flatMap(({ snapshot, reading }): Finding[] => {
      const first = clippingStages(preset, snapshot.id).at(0)
      const bands = first && reading.stages[first.id]?.before
      if (!first || !bands || normalThd(preset, snapshot.id, reading) < HIGH_GAIN) return []
      const { id } = first
      const over = bandPowerDb(bands, 80, 200) - bandPowerDb(bands, 400, 1_600)
      if (!(over > BOOM)) return []
      const place = placeOf(preset, id)
      const eq = stagesOf(preset.chain).find(
        (s) =>
          s.model === 'eq.parametric' &&
          placeOf(preset, s.id)?.lane === place?.lane &&
          resolveStage(preset, s, snapshot.id).on &&
          (placeOf(preset, s.id)?.index ?? 99) < (place?.index ?? 0),
      )
      const stage = eq?.id ?? newId()
      const set = (param: string, value: string | number): Edit => ({
        type: 'setParam',
        stage,
        snapshot: eq ? snapshot.id : null,
        param,
        value,
      })
      const add: Edit[] = eq || !place ? [] : [{ type: 'addStage', stage, model: 'eq.parametric', lane: place.lane, index: place.index }]
      return [
        {
          rule: boomBeforeGain.id,
          severity: 'warning',
          where: [id],
          snapshots: [snapshot.id],
          hz: 125,
          figure: `80 to 200 Hz stand ${db(over)} dB over the mids into ${partName(preset, id)} in ${snapshot.name}.`,
          amount: { value: over, unit: 'dB', against: `up to ${BOOM}` },
          reason: 'Palm mutes boom, and behind the clipping a cut is too late.',
          mends: [{ label: 'Cut below 150 Hz before it', edits: [...add, set('lowSlope', '12'), set('lowCut', 150)] }],
        },
      ]
    })
  },
}
