import { modelOf } from '@fulgor/core/catalogue'
import { tempoOf, type Preset, type StageNode } from '@fulgor/core/preset'
import { sourceOf } from '../../threads/riffSource'
import { SAMPLE_RATE } from '../../threads/rate'
import { renderers } from '../../threads/crews'
import { useWish } from '../../background/useWish'
import { useAppSelector } from '../../state/store'

/**
 * Where the level pot of a pedal stands when the pedal by itself is as loud as a hard strum of the preset's guitar, dB; null for other
 * stages, and until it is known.
 */
export function useOwnUnity(preset: Preset, stage: StageNode): number | null {
  const tempo = useAppSelector((s) => tempoOf(preset, s.editor.snapshot))
  const { level } = modelOf(stage.model).params
  const isPot = level.kind === 'number' && level.pot === true
  const source = sourceOf(preset, null, { id: 'open-chords', strength: 'hard' })
  const { level: _level, ...params } = stage.params
  const args = [{ ...stage, params }, source, tempo, SAMPLE_RATE] as const
  const key = isPot ? JSON.stringify(args) : null
  return useWish(renderers, [key], () => (key === null ? null : renderers.job('ownUnity', [...args], { key, rank: 'now', keep: 64 })), {
    afterMs: 150,
  }).answer
}
