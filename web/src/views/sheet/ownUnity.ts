import { useEffect, useState } from 'react'
import { modelOf } from '@fulgor/core/catalogue'
import { tempoOf, type Preset, type StageNode } from '@fulgor/core/preset'
import { sourceOf } from '../../audio/riffSource'
import { renderWorkers, SAMPLE_RATE } from '../../audio/workers'
import { useAppSelector } from '../../state/store'

/**
 * Where the level pot of a pedal stands when the pedal by itself is as loud as a hard strum of the preset's guitar, dB; null for other
 * stages, and until it is known.
 */
export function useOwnUnity(preset: Preset, stage: StageNode): number | null {
  const tempo = useAppSelector((s) => tempoOf(preset, s.editor.snapshot))
  const [unity, setUnity] = useState<number | null>(null)
  const { level } = modelOf(stage.model).params
  const isPot = level.kind === 'number' && level.pot === true
  const source = sourceOf(preset, null, { id: 'open-chords', strength: 'hard' })
  const { level: _level, ...params } = stage.params
  const request = isPot ? JSON.stringify({ stage: { ...stage, params }, source, tempo }) : null
  useEffect(() => {
    setUnity(null)
    if (request === null) return
    const wanted = JSON.parse(request) as { stage: StageNode; source: typeof source; tempo: number }
    let current = true
    const timer = setTimeout(() => {
      void renderWorkers()[1]
        .ownUnity(wanted.stage, wanted.source, wanted.tempo, SAMPLE_RATE)
        .then((db) => {
          if (current) setUnity(db)
        })
    }, 150)
    return () => {
      current = false
      clearTimeout(timer)
    }
  }, [request])
  return unity
}
