import { useEffect, useRef, useState } from 'react'
import { modelOf, type StageModel } from '@fulgor/core/catalogue'
import { applyEdit, type Edit, type Preset, type StageNode } from '@fulgor/core/preset'
import { riffSource } from '../../audio/riffSource'
import { renderWorkers, SAMPLE_RATE } from '../../audio/workers'
import { edit } from '../../state/actions'
import { trialChosen } from '../../state/player'
import { useAppDispatch, useAppSelector, useAppStore } from '../../state/store'
import { figure } from '../../ui/format'
import { PaperDialog } from '../../ui/PaperDialog'
import { focusRow } from './focusRow'
import { Catalogue } from './Catalogue'

/** Another model for a stage: each one that is marked sounds in its place, as loud as the one that stands there. */
export function ModelDialog({ preset, stage, onClose }: { preset: Preset; stage: StageNode; onClose: () => void }) {
  const dispatch = useAppDispatch()
  const store = useAppStore()
  const lit = useAppSelector((s) => s.editor.snapshot)
  const wish = useRef(0)
  const reference = useRef<Promise<number | null> | null>(null)
  const [told, setTold] = useState('Arrow keys try a model, as loud as what stands there; Escape leaves all as it was.')
  useEffect(() => () => void dispatch(trialChosen(null)), [dispatch])
  const loudness = (of: Preset) => {
    const snapshot = lit ?? of.snapshots[0].id
    const { quality } = store.getState().player
    return renderWorkers()[0].loudnessWith({ preset: of, snapshot, riff: riffSource(of, snapshot), sampleRate: SAMPLE_RATE, quality })
  }
  const change = (model: string, gainDb: number): Edit => ({ type: 'changeModel', stage: stage.id, model, gainDb })

  /** dB that bring the preset with another model to the loudness that it has; what follows may compress, so it is asked twice. */
  const matched = async (model: string): Promise<number> => {
    reference.current ??= loudness(preset)
    const wanted = await reference.current
    let gain = 0
    for (let round = 0; round < 2 && wanted !== null; round++) {
      const found = await loudness(applyEdit(preset, change(model, gain)))
      if (found === null) break
      gain = Math.max(-50, Math.min(50, gain + wanted - found))
    }
    return Math.round(gain * 10) / 10
  }
  const mark = async (model: StageModel) => {
    const mine = ++wish.current
    setTold(`${model.name}: measuring …`)
    const gain = await matched(model.id)
    if (mine !== wish.current) return
    dispatch(trialChosen(applyEdit(preset, change(model.id, gain))))
    setTold(`${model.name}, ${figure(gain, 1, true)} dB to be as loud.`)
  }
  const take = async (model: StageModel) => {
    wish.current++
    const gain = model.id === stage.model ? 0 : await matched(model.id)
    if (model.id !== stage.model) dispatch(edit(change(model.id, gain)))
    onClose()
    focusRow(stage.id)
  }
  const close = () => {
    onClose()
    focusRow(stage.id)
  }
  return (
    <PaperDialog open onClose={close} title={`Another model for ${stage.name ?? modelOf(stage.model).name}`} wide>
      <Catalogue
        verb="takes"
        first={modelOf(stage.model).family}
        now={stage.model}
        onMark={(model) => void mark(model)}
        onTake={(model) => void take(model)}
      />
      <p className="mt-2 flex items-baseline gap-3 text-[12px] text-ink2">
        <span aria-live="polite" data-trial="">
          {told}
        </span>
        <button type="button" className="btn ml-auto" onClick={close}>
          Leave it
        </button>
      </p>
    </PaperDialog>
  )
}
