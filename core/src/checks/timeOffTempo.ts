import { modelOf } from '@fulgor/core/catalogue'
import { partName, resolveStage, stagesOf, tempoOf } from '@fulgor/core/preset'
import { nearestNote, noteMs } from '@fulgor/core/stage'
import type { Check, Finding } from './finding'
import { db } from './heard'

/** Share by which a time may miss a note value: closer it is meant exactly, farther it is another rhythm (common practice, no source). */
const EXACT = 0.012
const NEAR = 0.09

/** A typed time that nearly fits the tempo of the song. */
export const timeOffTempo: Check = {
  id: 'time-off-tempo',
  why: 'Repeats that miss the beat by a few per cent drift against the band, a little more with each one. A note value follows the tempo by itself. A time that is meant to float should be clearly away from every note value.',
  find(preset) {
    return preset.snapshots.flatMap((snapshot) =>
      stagesOf(preset.chain).flatMap((stage): Finding[] => {
        const { family, sync = [] } = modelOf(stage.model)
        const { on, params } = resolveStage(preset, stage, snapshot.id)
        if (!on || family !== 'delay') return []
        const tempo = tempoOf(preset, snapshot.id)
        return sync.flatMap(({ time, note }): Finding[] => {
          const ms = Number(params[time])
          if (params[note] !== 'free' || ms < 120) return []
          const nearest = nearestNote(ms, tempo)
          const wanted = noteMs(tempo, nearest.id)
          const off = Math.abs(ms - wanted) / wanted
          if (off < EXACT || off > NEAR) return []
          return [
            {
              rule: timeOffTempo.id,
              severity: 'warning',
              where: [stage.id],
              snapshots: [snapshot.id],
              figure: `${partName(preset, stage.id)} repeats every ${db(ms)} ms in ${snapshot.name}; a ${nearest.name.toLowerCase()} at ${tempo} bpm is ${db(wanted)}.`,
              amount: { value: Math.abs(ms - wanted), unit: 'ms', against: 'off the beat' },
              reason: `After four repeats it is ${db(4 * Math.abs(ms - wanted))} ms beside the beat.`,
              mends: [
                {
                  label: `Follow the tempo: ${nearest.name.toLowerCase()}`,
                  edits: [{ type: 'setParam', stage: stage.id, snapshot: snapshot.id, param: note, value: nearest.id }],
                  safe: true,
                },
              ],
            },
          ]
        })
      }),
    )
  },
}
