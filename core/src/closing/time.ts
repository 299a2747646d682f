import { noteOfLag, type ReferenceReport, type Taste } from '@fulgor/core/match'
import { NOTE_VALUES } from '@fulgor/core/stage'
import { tempoOf, type Edit, type ParamMap, type Preset } from '@fulgor/core/preset'
import { added, anyOf, heardOf, setAll, type Proposal } from './proposal'

/** Sides that lie further apart than this are no doubling, ms. */
const DOUBLING_MS = [5, 50] as const
/** % of mix at which wet and dry are equal (decision 5). */
const EVEN_MIX = 50
const DRIER = 0.6

const NOTE = new Map(NOTE_VALUES.map(({ id, name }) => [name, id]))

/** A stage of a family with new values, or a new one behind the cabinet. */
function put(preset: Preset, snapshot: string, family: string, model: string, params: ParamMap, id: string): Edit | null {
  const there = heardOf(preset, snapshot, family)
  if (there) {
    const same = there.model === model
    return {
      type: 'all',
      edits: [
        ...(same ? [] : [{ type: 'changeModel', stage: there.id, model, gainDb: 0 } as const]),
        ...setAll(there.id, snapshot, params),
      ],
    }
  }
  const beside = heardOf(preset, snapshot, 'cabinet') ?? anyOf(preset, 'cabinet') ?? heardOf(preset, snapshot, 'amp')
  return beside ? { type: 'all', edits: added(preset, snapshot, id, model, beside.id, true, params) } : null
}

/**
 * Delay, doubling and reverb that fit what was found in a recording.
 * @param ids of new stages, three
 */
export function timeProposals(
  preset: Preset,
  snapshot: string,
  { echo, ring, sides, tempo }: Pick<ReferenceReport, 'echo' | 'ring' | 'sides' | 'tempo'>,
  tastes: readonly Taste[],
  ids: readonly string[],
): Proposal[] {
  const found: Proposal[] = []
  const add = (name: string, detail: string, kind: string, edit: Edit | null, warning?: string) => {
    if (edit) found.push({ id: `time ${kind}`, step: 'time', name, detail, kind, edit, ...(warning === undefined ? {} : { warning }) })
  }
  const less = tastes.includes('drier') ? DRIER : 1
  if (echo.value) {
    const { lagMs, db, repeats } = echo.value
    // a note value of the recording is that note value at the preset's own tempo too
    const name = noteOfLag(lagMs, tempo.value)
    const note = name === null ? null : (NOTE.get(name) ?? null)
    const mix = Math.max(3, Math.min(EVEN_MIX, Math.round(less * EVEN_MIX * Math.pow(10, db / 20))))
    const feedback = repeats ? 35 : 0
    add(
      `Delay ${note === null ? `${Math.round(lagMs)} ms` : (name as string).toLowerCase()}, mix ${mix} %`,
      note === null
        ? 'as heard; no note value of its tempo'
        : `${Math.round(lagMs)} ms there${tempo.value !== null && Math.abs(tempo.value - tempoOf(preset, snapshot)) > 0.5 ? `, at this preset’s ${tempoOf(preset, snapshot)} bpm another time` : ''}`,
      'delay',
      put(
        preset,
        snapshot,
        'delay',
        'delay.digital',
        { note: note ?? 'free', time: Math.min(2_000, Math.max(1, Math.round(lagMs))), feedback, mix },
        ids[0],
      ),
    )
  }
  if (sides.value) {
    const { kind, lagMs, rateHz } = sides.value
    if (kind === 'delayed' && lagMs !== null && lagMs >= DOUBLING_MS[0] && lagMs <= DOUBLING_MS[1])
      add(
        `Doubling ${lagMs.toFixed(0)} ms`,
        'one take, one side later',
        'doubling',
        put(
          preset,
          snapshot,
          'none',
          'delay.doubler',
          { delay: Math.round(lagMs), depth: 0, spread: 100, mix: Math.round(less * EVEN_MIX) },
          ids[1],
        ),
        `combs from ${Math.round(500 / lagMs)} Hz on in a mono house`,
      )
    if (kind === 'chorus' && rateHz !== null)
      add(
        `Chorus at ${rateHz.toFixed(2)} Hz`,
        'the sides move at an even pace',
        'doubling',
        put(
          preset,
          snapshot,
          'modulation',
          'modulation.chorus',
          { note: 'free', rate: Math.round(rateHz * 100) / 100, mix: Math.round(less * EVEN_MIX) },
          ids[1],
        ),
      )
  }
  if (ring.value !== null) {
    const decay = ring.value
    const model = decay <= 0.8 ? 'reverb.room' : decay <= 2.5 ? 'reverb.plate' : 'reverb.hall'
    const mix = Math.round(less * 18)
    add(
      `${model === 'reverb.room' ? 'Room' : model === 'reverb.plate' ? 'Plate' : 'Hall'} ${decay.toFixed(1)} s, mix ${mix} %`,
      'its decay in the rests; how much of it is for the ear',
      'reverb',
      put(
        preset,
        snapshot,
        'reverb',
        model,
        { decayNote: 'free', decay: Math.min(12, Math.max(0.2, Math.round(decay * 100) / 100)), mix },
        ids[2],
      ),
    )
  }
  return found
}
