export { bandsDb, comparePlaces, correctSides, differenceWords, hearThere, proposeCorrection, type PlaceDifference } from './compare'
export {
  backingFields,
  MAX_PLACE_BANDS,
  PLACE_FORMAT,
  PLACE_LUFS,
  PLACE_VERSION,
  placeBandFields,
  placeDocFields,
  PLACES_TO_BEGIN,
  placeSchema,
  readPlace,
  type Place,
  type PlaceBacking,
  type PlaceBand,
} from './description'
export { bandsFrom, curveOfImpulse, readCurve, UnfitCurve, type Curve } from './measured'
export { CONTOUR_HZ, contour, louderBalance, PHON_RANGE } from './equalLoudness'
export { allowedHours, LIMIT_DBA } from './exposure'
