export {
  checkList,
  deskSheet,
  gigRows,
  gigSheet,
  orderOf,
  pressWords,
  songAbout,
  type GigPart,
  type GigSheet,
  type GigSong,
  type Night,
  type NightLevels,
  type SheetList,
} from './gig'
export { NIGHT_TICKS, nightFile, type NightEvent, type NightFile } from './midi'
