import { PLACES_TO_BEGIN, type Place } from '@fulgor/core/place'

const LOUD = 'Loud rehearsal'

/** Where the pit guitarist hears the show and the recordings. */
/** @param backing id of the recording of the band */
export const demoPlaces = (backing: string): { id: string; document: Place }[] =>
  PLACES_TO_BEGIN.map((document) => ({
    id: `demo-${document.name.toLowerCase().replace(/[^a-z]+/g, '-')}`,
    document: document.name === LOUD ? { ...document, backing: { recording: backing, lufs: -20 } } : document,
  }))
