import { findLane, placeOf, stagesOf, type Place, type Preset } from '@fulgor/core/preset'

/** Where a new stage goes: behind the chosen one, first in a chosen lane, and never behind the output. */
export function placeFor(preset: Preset, chosen: string | null): { place: Place; where: string; row: number | null } {
  const lane = chosen ? findLane(preset, chosen) : undefined
  if (lane && chosen)
    return { place: { lane: chosen, index: 0 }, where: `at the top of lane ${lane.split.lanes.indexOf(lane.lane) + 1}`, row: null }
  const number = stagesOf(preset.chain).findIndex((s) => s.id === chosen) + 1
  const last = preset.chain.at(-1)
  const output = last?.kind === 'stage' && last.model === 'output'
  const at = chosen ? placeOf(preset, chosen) : undefined
  if (!at || (output && chosen === last.id)) {
    const index = preset.chain.length - (output ? 1 : 0)
    return { place: { lane: null, index }, where: output ? 'before the output' : 'at the end', row: null }
  }
  return {
    place: { lane: at.lane, index: at.index + 1 },
    where: `after row ${number}`,
    row: number,
  }
}
