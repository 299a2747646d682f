import { hears, snapshotOf } from '@fulgor/core/board'
import { readMidiMessage, writeMidiMessage, type MidiMessage } from '@fulgor/core/formats'
import { edit, presentPreset } from './actions'
import { footMoved } from './board'
import { loadSnapshot, moveControl } from './controls'
import { learningChosen, midiChanged } from './controlsSlice'
import type { Store, Thunk } from './store'

/** One message: learnt by what waits for it, or it moves, presses or loads what it stands for. @param at ms of the page's clock */
export const midiReceived =
  (message: MidiMessage, at: number): Thunk =>
  (dispatch, getState) => {
    const { controls } = getState()
    const preset = presentPreset(getState())
    if (!preset) return
    const { type, channel, number, value } = message
    if (controls.learning !== null && type !== 'program') {
      if (value === 0) return
      const midi = { type, channel, number }
      const isSwitch = preset.board?.switches.some((s) => s.id === controls.learning)
      dispatch(
        edit(
          isSwitch
            ? { type: 'changeSwitch', id: controls.learning, change: { midi } }
            : { type: 'changeControl', control: controls.learning, change: { midi } },
        ),
      )
      dispatch(learningChosen(null))
      // what is learnt is not pressed with it
      if (isSwitch) return
    }
    const present = presentPreset(getState()) ?? preset
    for (const control of present.controls ?? []) {
      if (hears(control.midi, message)) dispatch(moveControl(control, type === 'note' ? (value > 0 ? 1 : 0) : value / 127))
    }
    for (const own of present.board?.switches ?? []) {
      if (hears(own.midi, message)) dispatch(footMoved(own, type === 'note' ? value > 0 : value >= 64, at))
    }
    const snapshot = snapshotOf(present, message)
    if (snapshot) dispatch(loadSnapshot(snapshot.id))
  }

let opened: MIDIAccess | null = null

/** Sends messages to every MIDI output that is plugged in, in their order. */
export function sendMidi(messages: readonly MidiMessage[]): void {
  for (const output of opened?.outputs.values() ?? []) for (const message of messages) output.send(writeMidiMessage(message))
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
      input.onmidimessage = ({ data, timeStamp }) => {
        const message = data ? readMidiMessage(data) : null
        if (message) store.dispatch(midiReceived(message, timeStamp))
      }
    const names = (ports: Iterable<MIDIPort>) => [...ports].map((port) => port.name ?? 'a MIDI device')
    store.dispatch(midiChanged({ inputs: names(access.inputs.values()), outputs: names(access.outputs.values()) }))
  }
  opened = access
  access.onstatechange = listen
  listen()
}
