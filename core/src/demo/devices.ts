import { asDevice } from '@fulgor/core/preset'
import { pitRack } from './presets'

/** What the show is played on. */
export const demoDevices = [{ id: 'demo-pit-rack', document: asDevice(pitRack, 'Stands left of the music desk.') }]
