import { hearThere, type Place, type PlaceBacking } from '@fulgor/core/place'
import { sentenceOf } from '../api/api'
import { fetchPlace, fetchRecording } from './fetched'
import { browserStorage } from '../storage/storage'
import { SAMPLE_RATE } from '../threads/rate'
import { notified } from './notices'
import { placeChosen, type HeardBacking } from './player'
import type { Thunk } from './store'

const HERE = 'fulgor.here'

/** Id of the place that the player sits at; null: never said. Goes with the machine, and is kept in this browser. */
export const hereId = (): string | null => browserStorage.read(HERE)
export const sitHere = (id: string): void => void browserStorage.write(HERE, id)

/** Listens through a place, as it is heard from where one sits; null: as it comes. */
export const listenThrough =
  (id: string | null): Thunk<Promise<void>> =>
  async (dispatch) => {
    if (id === null) {
      dispatch(placeChosen(null))
      return
    }
    const sits = hereId()
    let place: Place
    let here: Place | null = null
    try {
      place = (await fetchPlace(dispatch, id)).document
      if (sits !== null && sits !== id) here = (await fetchPlace(dispatch, sits).catch(() => null))?.document ?? null
    } catch (error) {
      dispatch(placeChosen(null))
      dispatch(notified({ kind: 'warning', text: `The place is not to be had: ${sentenceOf(error)}` }))
      return
    }
    // without a place of one's own only what the other one does to the sound is heard
    const from: Place = here ?? { ...place, response: [], correction: null }
    const backing = place.backing ? await dispatch(heardBacking(place.backing)) : null
    const { name, mono, correction } = place
    dispatch(placeChosen({ id, name, mono, correction, taps: hearThere(from, place, SAMPLE_RATE), backing }))
  }

/** What plays along at a place; one that is not in the Kit any more is told, and the place is heard without it. */
const heardBacking =
  ({ recording, lufs }: PlaceBacking): Thunk<Promise<HeardBacking | null>> =>
  async (dispatch) => {
    try {
      const { name, file, part, tempo } = (await fetchRecording(dispatch, recording)).document
      return { name, file, part, lufs, tempo }
    } catch (error) {
      dispatch(notified({ kind: 'warning', text: `The place is heard without its backing: ${sentenceOf(error)}` }))
      return null
    }
  }
