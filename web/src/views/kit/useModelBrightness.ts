import { voiceOf, type GuitarProfile, type PickupPosition } from '@fulgor/core/guitar'
import { useWish } from '../../background/useWish'
import { renderers } from '../../threads/crews'

/** Brightness of a normal strum by the string model, Hz, where none was measured; null until it is known. */
export function useModelBrightness(guitar: GuitarProfile, position: PickupPosition): number | null {
  const key = position.centroidHz === null ? JSON.stringify(voiceOf(guitar, position)) : null
  return useWish(
    renderers,
    [key],
    () =>
      key === null
        ? null
        : renderers.job('modelBrightness', [voiceOf(guitar, position)], { key: `brightness ${key}`, rank: 'idle', keep: 64 }),
    { afterMs: 150, hold: true },
  ).answer
}
