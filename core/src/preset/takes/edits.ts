import { edit } from '../edit'
import type { Preset } from '../preset'
import { mapSnapshot } from '../snapshots/snapshots'
import { MAX_TAKES, type DeviceProfile, type Take } from './description'

export const takeEdits = {
  addTake: edit<{ snapshot: string; take: Take }>((preset, { snapshot, take }) =>
    mapTakes(preset, snapshot, (takes) => {
      if (takes.length >= MAX_TAKES) throw new RangeError(`A snapshot keeps at most ${MAX_TAKES} takes; remove one first.`)
      return [...takes, take]
    }),
  ),
  changeTake: edit<{ snapshot: string; take: string; change: Partial<Omit<Take, 'id' | 'file'>> }>((preset, { snapshot, take, change }) =>
    mapTakes(preset, snapshot, (takes) => takes.map((t) => (t.id === take ? { ...t, ...change } : t))),
  ),
  removeTake: edit<{ snapshot: string; take: string }>((preset, { snapshot, take }) =>
    mapTakes(preset, snapshot, (takes) => takes.filter((t) => t.id !== take)),
  ),
  setDevice: edit<{ device: DeviceProfile }>((preset, { device }) => ({ ...preset, device })),
}

function mapTakes(preset: Preset, id: string, change: (takes: readonly Take[]) => readonly Take[]): Preset {
  return mapSnapshot(preset, id, ({ takes = [], ...rest }) => {
    const next = change(takes)
    return next.length === 0 ? rest : { ...rest, takes: next }
  })
}
