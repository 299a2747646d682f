import type { Control } from '@fulgor/core/preset'
import { listenToMidi } from '../../state/midi'
import { learningChosen } from '../../state/controlsSlice'
import { notified } from '../../state/notices'
import { useAppDispatch, useAppSelector, useAppStore } from '../../state/store'
import { bindingWords } from './words'
import { reasonOf } from '../../background/tasks'

/** The controller or note that moves a source or presses a switch, learnt by moving it. */
export function MidiLearn({ id, midi, onForget }: { id: string; midi: Control['midi']; onForget: () => void }) {
  const dispatch = useAppDispatch()
  const store = useAppStore()
  const { learning, midi: inputs } = useAppSelector((s) => s.controls)
  const learn = async () => {
    try {
      if (inputs === null) await listenToMidi(store)
      dispatch(learningChosen(learning === id ? null : id))
    } catch (error) {
      dispatch(notified({ kind: 'warning', text: reasonOf(error) }))
    }
  }
  return (
    <span className="flex flex-wrap items-baseline justify-end gap-x-2">
      <span className="num" data-midi={midi ? `${midi.type} ${midi.channel} ${midi.number}` : ''}>
        {bindingWords(midi)}
      </span>
      <button type="button" className="act" aria-pressed={learning === id} onClick={() => void learn()}>
        {learning === id ? 'move it now …' : 'Learn'}
      </button>
      {midi && (
        <button type="button" className="act" onClick={onForget}>
          Forget
        </button>
      )}
      {inputs?.length === 0 && <span className="text-ink3">no MIDI input is plugged in</span>}
    </span>
  )
}
