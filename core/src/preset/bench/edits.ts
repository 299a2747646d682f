import { MAX_CHANNELS, type MicBench } from '@fulgor/core/cabinet'
import { BENCH_RESPONSE } from '@fulgor/core/catalogue'
import { requireStage } from '../chain/chain'
import { mapStage } from '../chain/map'
import { edit } from '../edit'
import { mapCell } from '../snapshots/cellEdits'
import { resolveStage } from '../snapshots/resolve'
import { findSnapshot } from '../snapshots/snapshots'

export const benchEdits = {
  /**
   * The first bench of a cabinet, or of a snapshot, is also what it plays from then on. `touched` names what was moved: moves of the same
   * thing that follow each other quickly are one step of undo.
   */
  setBench: edit<{ stage: string; snapshot: string | null; bench: MicBench; touched: string }>(
    (preset, { stage: id, snapshot, bench }) => {
      const stage = requireStage(preset, id)
      if (stage.model !== 'cabinet') throw new RangeError('Only a cabinet has a mic bench.')
      if (bench.channels.length > MAX_CHANNELS) throw new RangeError(`A blend holds at most ${MAX_CHANNELS} channels.`)
      if (snapshot === null)
        return mapStage(preset, id, (s) => ({
          ...s,
          bench,
          params: s.bench === undefined ? { ...s.params, response: BENCH_RESPONSE } : s.params,
        }))
      const first = findSnapshot(preset, snapshot)?.stages[id]?.bench === undefined
      const heard = first && resolveStage(preset, stage, snapshot).params.response !== BENCH_RESPONSE
      return mapCell(preset, snapshot, id, (cell) => ({
        ...cell,
        bench,
        ...(heard ? { params: { ...cell.params, response: BENCH_RESPONSE } } : {}),
      }))
    },
    { joins: ({ stage, snapshot, touched }) => `${stage} ${snapshot} ${touched}` },
  ),
}
