import { circuitTransfer, type Coil, type GuitarInputParams, type Transfer, type Wiring } from '@fulgor/core/signal'
import type { GuitarProfile, PickupPosition } from './description'

export const coilOf = ({ resistance, inductance, capacitance }: PickupPosition): Coil => ({
  resistance: resistance * 1e3,
  inductance,
  capacitance: capacitance * 1e-12,
})

export const cablePf = ({ cable }: Pick<GuitarProfile, 'cable'>): number => cable.metres * cable.pfPerMetre

export const wiringOf = (guitar: Pick<GuitarProfile, 'volume' | 'bleed' | 'tone' | 'cable' | 'inputKohm'>): Wiring => ({
  volume: { ohm: guitar.volume.kohm * 1e3, taper: guitar.volume.taper },
  bleed: guitar.bleed && { farad: guitar.bleed.pf * 1e-12, ohm: guitar.bleed.kohm * 1e3, way: guitar.bleed.way },
  tone: guitar.tone && { ohm: guitar.tone.kohm * 1e3, farad: guitar.tone.nf * 1e-9, taper: guitar.tone.taper },
  cableFarad: cablePf(guitar) * 1e-12,
  inputOhm: guitar.inputKohm * 1e3,
})

/** From the coil to the device, both knobs at 0 to 10. */
export const knobsTransfer = (guitar: GuitarProfile, position: PickupPosition, volume: number, tone: number): Transfer =>
  circuitTransfer(coilOf(position), wiringOf(guitar), volume, tone)

/** The circuit as the stage before the chain takes it. */
export function circuitParams(
  guitar: GuitarProfile,
  position: PickupPosition,
): Omit<GuitarInputParams, 'volume' | 'tone' | 'lowHz' | 'lowDb' | 'bellHz' | 'bellDb' | 'bellQ' | 'highHz' | 'highDb'> {
  const coil = coilOf(position)
  const wiring = wiringOf(guitar)
  return {
    ...coil,
    volumeOhm: wiring.volume.ohm,
    volumeTaper: wiring.volume.taper,
    bleedFarad: wiring.bleed?.farad ?? 0,
    bleedOhm: wiring.bleed?.ohm ?? 0,
    bleedWay: wiring.bleed?.way ?? 'none',
    toneOhm: wiring.tone?.ohm ?? 0,
    toneFarad: wiring.tone?.farad ?? 0,
    toneTaper: wiring.tone?.taper ?? 'audio',
    cableFarad: wiring.cableFarad,
    inputOhm: wiring.inputOhm,
  }
}
