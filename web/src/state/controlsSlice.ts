import { createSlice, type PayloadAction } from '@reduxjs/toolkit'

interface ControlsState {
  /** Where each source stands, 0 heel to 1 toe. */
  positions: Readonly<Record<string, number>>
  /** Sources that act: those that wait for pickup or a first move do not. */
  engaged: Readonly<Record<string, boolean>>
  /** Sources that a switch has let go of: they leave their targets to the snapshot, wherever they are moved. */
  resting: readonly string[]
  /** Source that takes the next MIDI message as its own. */
  learning: string | null
  /** MIDI inputs that are listened to; null while MIDI is not used. */
  midi: readonly string[] | null
  /** MIDI outputs that can be sent to. */
  outputs: readonly string[]
}

const initialState: ControlsState = { positions: {}, engaged: {}, resting: [], learning: null, midi: null, outputs: [] }

const controls = createSlice({
  name: 'controls',
  initialState,
  reducers: {
    sourceMoved(state, { payload }: PayloadAction<{ id: string; position: number; engaged: boolean }>) {
      state.positions = { ...state.positions, [payload.id]: payload.position }
      // a change here makes a new plan for the audio thread, a mere move does not
      if (state.engaged[payload.id] !== payload.engaged) state.engaged = { ...state.engaged, [payload.id]: payload.engaged }
    },
    engagementsSet(state, { payload }: PayloadAction<ControlsState['engaged']>) {
      state.engaged = payload
    },
    restingSet(state, { payload }: PayloadAction<readonly string[]>) {
      state.resting = [...payload]
    },
    sourcesForgotten: (state) => ({ ...initialState, midi: state.midi, outputs: state.outputs }),
    learningChosen(state, { payload }: PayloadAction<string | null>) {
      state.learning = payload
    },
    midiChanged(state, { payload }: PayloadAction<{ inputs: readonly string[]; outputs: readonly string[] }>) {
      state.midi = [...payload.inputs]
      state.outputs = [...payload.outputs]
    },
  },
})
export const { sourceMoved, engagementsSet, restingSet, sourcesForgotten, learningChosen, midiChanged } = controls.actions
export const controlsReducer = controls.reducer
