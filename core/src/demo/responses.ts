import { drivers, micResponse, microphones, type CabDesign, type MicPlace } from '@fulgor/core/cabinet'
import { writeWav } from '@fulgor/core/formats'

const PLACES: readonly (readonly [type: string, offset: number, distance: number])[] = [
  ['coil', 8, 20],
  ['coil', 55, 30],
  ['ribbon', 20, 90],
  ['large-condenser', 0, 180],
]

const BOXES: readonly (readonly [name: string, cab: Omit<CabDesign, 'driver'>])[] = [
  ['1×12 open', { size: '12', drivers: '1', back: 'open' }],
  ['4×12 closed', { size: '12', drivers: '4', back: 'closed' }],
]

/** Impulse responses of made-up cabinets for the demo: every driver in two boxes at four places, as 24-bit WAV at 48 kHz. */
export function* demoResponses(): Generator<{ path: string; bytes: Uint8Array }> {
  for (const [box, design] of BOXES)
    for (const driver of drivers)
      for (const [type, offset, distance] of PLACES) {
        const place: MicPlace = { type, offset, bearing: 0, distance, angle: 0, reflections: 0, room: 0 }
        const taps = micResponse({ driver: driver.id, ...design }, place, 48_000, 2_048)
        const peak = taps.reduce((most, x) => Math.max(most, Math.abs(x)), 0)
        const mic = microphones.find((m) => m.id === type)?.name.toLowerCase() ?? type
        const name = `${driver.name.split(/[ ,]/)[0]} ${box}, ${mic} ${offset}/${distance} mm`.replaceAll('/', '-')
        yield { path: `Demo cabinets/${box}/${mic}/${name}.wav`, bytes: writeWav([taps.map((x) => (x / peak) * 0.9)], 48_000, 24) }
      }
}
