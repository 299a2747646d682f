import { edit } from '../edit'
import type { MidiPlan } from './description'

export const midiEdits = {
  setMidiPlan: edit<{ plan: MidiPlan }>((preset, { plan }) => ({ ...preset, midiPlan: plan })),
}
