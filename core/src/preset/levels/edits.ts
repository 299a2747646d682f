import { requireStage } from '../chain/chain'
import { edit } from '../edit'
import { resetCell, setParam } from '../snapshots/cellEdits'
import type { RiffChoice } from './description'

export const levelEdits = {
  setTarget: edit<{ lufs: number }>((preset, { lufs }) => ({ ...preset, targetLufs: lufs }), { joins: () => '' }),
  setRiff: edit<{ riff: RiffChoice }>((preset, { riff }) => ({ ...preset, riff })),
  /** What levelling turns; null: the last Output. */
  setTrim: edit<{ stage: string | null }>((preset, { stage }) => {
    const { trim: _, ...rest } = preset
    return stage === null ? rest : { ...rest, trim: requireStage(preset, stage).id }
  }),
  setLevels: edit<{ stage: string; param: string; levels: Readonly<Record<string, number>> }>((preset, { stage, param, levels }) =>
    Object.entries(levels).reduce((p, [snapshot, level]) => {
      // what meets the target with the base's level needs none of its own
      const shared = requireStage(p, stage).params[param] === level
      return shared ? resetCell(p, stage, snapshot, param) : setParam(p, stage, snapshot, param, level)
    }, preset),
  ),
}
