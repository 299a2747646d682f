import { startAutosave } from '../state/autosave'
import { startBoard } from '../state/board'
import { startControls } from '../state/controls'
import { listen, store } from '../state/store'
import { startKeepingUndo } from '../state/undoStore'
import { renderers } from '../threads/crews'
import { startMeasuring } from './measuring'
import { Player } from './player'
import { startReading } from './reading'

// on two processors the page draws on the other one
startMeasuring(listen, renderers, navigator.hardwareConcurrency <= 2)
startReading(listen, renderers)
startControls(listen)
startBoard(listen)
startKeepingUndo(listen, () => store.getState())
const { save } = startAutosave(listen, store)

/** What lives beside the store from the first opened preset on, for as long as the page does. */
export const session = { player: new Player(store, listen), save }

// the browser tests and the bench ask whether sound really comes out, and when an edit was taken up
Object.assign(window, { fulgorHeardPeak: () => session.player.heardPeak(), fulgorAppliedAt: () => session.player.appliedAt })
