import { readMidiMessage, type MidiMessage } from '@fulgor/core/formats'
import { edit, presentPreset } from '../state/actions'
import { learningChosen, midiChanged, moveControl } from '../state/controls'
import type { Store, Thunk } from '../state/store'

/** One message: learnt by the source that waits for it, or it moves what listens to it. */
export const midiReceived =
  (message: MidiMessage): Thunk =>
  (dispatch, getState) => {
    const { controls } = getState()
    const preset = presentPreset(getState())
    const { type, channel, number, value } = message
    if (!preset || type === 'program') return
    if (controls.learning !== null) {
      if (value === 0) return
      dispatch(edit({ type: 'changeControl', control: controls.learning, change: { midi: { type, channel, number } } }))
      dispatch(learningChosen(null))
    }
    for (const control of presentPreset(getState())?.controls ?? []) {
      const { midi } = control
      if (midi?.type !== type || midi.number !== number || (midi.channel !== 0 && midi.channel !== channel)) continue
      dispatch(moveControl(control, type === 'note' ? (value > 0 ? 1 : 0) : value / 127))
    }
  }

/** Listens to every MIDI input of this machine, also to those that are plugged in later. @throws Error in words when it may not */
export async function listenToMidi(store: Store): Promise<void> {
  if (!('requestMIDIAccess' in navigator)) throw new Error('This browser has no MIDI. The sliders here stand in for a pedalboard.')
  let access: MIDIAccess
  try {
    access = await navigator.requestMIDIAccess()
  } catch (error) {
    throw new Error('This browser was not allowed to use MIDI: allow it for this page.', { cause: error })
  }
  const listen = () => {
    for (const input of access.inputs.values())
      input.onmidimessage = ({ data }) => {
        const message = data ? readMidiMessage(data) : null
        if (message) store.dispatch(midiReceived(message))
      }
    store.dispatch(midiChanged([...access.inputs.values()].map((input) => input.name ?? 'a MIDI input')))
  }
  access.onstatechange = listen
  listen()
}
