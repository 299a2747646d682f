import { combineSlices } from '@reduxjs/toolkit'
import { api } from '../api/api'
import { connectionReducer } from '../api/connection'
import { boardReducer } from './boardSlice'
import { cellsReducer } from './cellsSlice'
import { controlsReducer } from './controlsSlice'
import { nothingOpen, type EditorState } from './editorState'
import { measuresReducer } from './measures'
import { noticesReducer } from './notices'
import { playerReducer } from './player'
import { readingsReducer } from './readings'
import { shelfReducer } from './shelf'

/** All that the page knows, by its parts; the editor takes its place as soon as it is there (see editor.ts). */
export const reducer = combineSlices({
  [api.reducerPath]: api.reducer,
  board: boardReducer,
  cells: cellsReducer,
  connection: connectionReducer,
  controls: controlsReducer,
  editor: (state: EditorState = nothingOpen) => state,
  measures: measuresReducer,
  player: playerReducer,
  notices: noticesReducer,
  readings: readingsReducer,
  shelf: shelfReducer,
})
