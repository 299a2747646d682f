import { PLACES_TO_BEGIN } from '@fulgor/core/place'

/** Where the pit guitarist hears the show and the recordings. */
export const demoPlaces = PLACES_TO_BEGIN.map((document) => ({
  id: `demo-${document.name.toLowerCase().replace(/[^a-z]+/g, '-')}`,
  document,
}))
