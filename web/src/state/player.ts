import type { PlaceBand } from '@fulgor/core/place'
import type { Part, View } from '@fulgor/core/recording'
import { createSlice, type PayloadAction } from '@reduxjs/toolkit'
import { castDraft } from 'immer'
import type { Preset } from '@fulgor/core/preset'
import type { Quality } from '@fulgor/core/signal'
import { browserStorage } from '../storage/storage'

/** How the chosen stage is held up for judging: switched over level-matched, or only what it adds or takes away. */
export type Judging = 'none' | 'switched' | 'difference'

/** The player's own input; kept in this browser. */
export interface LiveSettings {
  /** Empty: the browser's default. */
  deviceId: string
  channel: 'left' | 'right' | 'sum'
  /** What the browser is asked for. */
  buffer: 'smallest' | 'balanced' | 'safe'
  /** dB. */
  trim: number
  /** Peak of the hardest strum at calibration before the trim, dBFS; null: not calibrated. */
  hardPeakDbfs: number | null
  /** ms out and in again, as measured; null: not measured. */
  latencyMs: number | null
}

/** A candidate that is tried in place of what a cabinet plays. */
export interface Audition {
  readonly stage: string
  /** Id of its response. */
  readonly response: string
  /** dB that it is turned up by to be as loud. */
  readonly gainDb: number
}

/** A recording that is heard as the other side of the comparison. */
export interface Against {
  readonly key: string
  readonly name: string
  readonly file: string
  readonly parts: readonly Part[]
  readonly view: View
  /** Of what is heard of it; null where it is not known. */
  readonly lufs: number | null
}

export interface Trial {
  readonly preset: Preset
  readonly gainDb: number
}

/** A place as it is heard. */
export interface ListeningPlace {
  readonly id: string
  readonly name: string
  readonly mono: boolean
  readonly taps: Float64Array
  /** What the player sets against the place; only an export that is asked to takes it. */
  readonly correction: readonly PlaceBand[] | null
  /** The band that is heard along there; null: none. */
  readonly backing: HeardBacking | null
}

/** A backing as it is heard. */
export interface HeardBacking {
  readonly name: string
  readonly file: string
  readonly part: Part | null
  readonly lufs: number
  readonly tempo: number | null
}

export interface PlayerState {
  playing: boolean
  loop: boolean
  /** A: the sheet as it stands; B: the last saved version. */
  side: 'A' | 'B'
  /** Both sides summed, as in a mono house. */
  mono: boolean
  quality: Quality
  judging: Judging
  /** The place that is listened through; null: as it comes. Never in an export. */
  place: ListeningPlace | null
  /** B is this recording instead of the last saved version. */
  against: Against | null
  /** All modulation, delay and reverb silent. */
  dry: boolean
  source: 'riff' | 'live'
  live: LiveSettings
  recording: boolean
  audition: Audition | null
  /** A whole preset that is tried in place of the sheet, turned up by so many dB to be as loud. */
  trial: Trial | null
  error: string | null
}

const SETTINGS = 'fulgor.player'
const fresh: LiveSettings = { deviceId: '', channel: 'left', buffer: 'smallest', trim: 0, hardPeakDbfs: null, latencyMs: null }

function kept(): { quality: Quality; live: LiveSettings } {
  try {
    const { quality, live } = JSON.parse(browserStorage.read(SETTINGS) ?? '{}') as { quality?: Quality; live?: Partial<LiveSettings> }
    return { quality: quality === 'high' || quality === 'highest' ? quality : 'live', live: { ...fresh, ...live } }
  } catch {
    return { quality: 'live', live: fresh }
  }
}

/** Keeps in this browser what of the player goes with the machine. */
export const keepPlayer = ({ quality, live }: PlayerState): void => {
  browserStorage.write(SETTINGS, JSON.stringify({ quality, live }))
}

const initialState: PlayerState = {
  playing: false,
  loop: true,
  side: 'A',
  mono: false,
  place: null,
  against: null,
  judging: 'none',
  dry: false,
  source: 'riff',
  recording: false,
  audition: null,
  trial: null,
  error: null,
  ...kept(),
}

const player = createSlice({
  name: 'player',
  initialState,
  reducers: {
    trialChosen(state, { payload }: PayloadAction<Trial | null>) {
      state.trial = castDraft(payload)
    },
    playingChanged(state, { payload }: PayloadAction<boolean>) {
      state.playing = payload
      if (payload) state.error = null
    },
    loopChanged(state, { payload }: PayloadAction<boolean>) {
      state.loop = payload
    },
    sideChosen(state, { payload }: PayloadAction<'A' | 'B'>) {
      state.side = payload
    },
    monoChanged(state, { payload }: PayloadAction<boolean>) {
      state.mono = payload
    },
    placeChosen(state, { payload }: PayloadAction<ListeningPlace | null>) {
      state.place = castDraft(payload)
    },
    againstChosen(state, { payload }: PayloadAction<Against | null>) {
      state.against = castDraft(payload)
      if (!payload) state.side = 'A'
    },
    qualityChosen(state, { payload }: PayloadAction<Quality>) {
      state.quality = payload
    },
    judgingChanged(state, { payload }: PayloadAction<Judging>) {
      state.judging = payload
    },
    dryChanged(state, { payload }: PayloadAction<boolean>) {
      state.dry = payload
    },
    sourceChosen(state, { payload }: PayloadAction<'riff' | 'live'>) {
      state.source = payload
    },
    liveChanged(state, { payload }: PayloadAction<Partial<LiveSettings>>) {
      state.live = { ...state.live, ...payload }
    },
    auditionChosen(state, { payload }: PayloadAction<Audition | null>) {
      state.audition = payload
    },
    recordingChanged(state, { payload }: PayloadAction<boolean>) {
      state.recording = payload
    },
    playerFailed(state, { payload }: PayloadAction<string>) {
      state.error = payload
      state.playing = false
      state.recording = false
    },
  },
})

export const {
  trialChosen,
  playingChanged,
  loopChanged,
  sideChosen,
  monoChanged,
  placeChosen,
  againstChosen,
  qualityChosen,
  judgingChanged,
  dryChanged,
  sourceChosen,
  liveChanged,
  auditionChosen,
  recordingChanged,
  playerFailed,
} = player.actions
export const playerReducer = player.reducer
