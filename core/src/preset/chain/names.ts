import { modelOf } from '@fulgor/core/catalogue'
import type { Preset } from '../preset'
import { partsOf } from './chain'
import { GUITAR_STAGE } from './description'

/** A stage's or lane's name, with a number where there are several of its model; or the name of a source. */
export function partName(preset: Preset, id: string): string {
  if (id === GUITAR_STAGE) return 'Guitar'
  const parts = partsOf(preset.chain)
  const part = parts.find((p) => p.id === id)
  if (!part) return (preset.controls ?? []).find((c) => c.id === id)?.name ?? 'gone'
  const alike = parts.filter((p) => p.model === part.model)
  return `${modelOf(part.model).name}${alike.length > 1 ? ` ${alike.indexOf(part) + 1}` : ''}`
}
