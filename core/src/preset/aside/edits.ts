import { edit } from '../edit'
import type { Preset } from '../preset'
import type { Aside } from './description'

const without = ({ asides, ...preset }: Preset, finding: string): Preset => {
  const left = (asides ?? []).filter((a) => a.finding !== finding)
  return left.length === 0 ? preset : { ...preset, asides: left }
}

export const asideEdits = {
  /** A finding is not asked for again until its figure is clearly worse. */
  setAside: edit<{ aside: Aside }>((preset, { aside }) => {
    const rest = without(preset, aside.finding)
    return { ...rest, asides: [...(rest.asides ?? []), aside] }
  }),
  takeBack: edit<{ finding: string }>((preset, { finding }) =>
    preset.asides?.some((a) => a.finding === finding) ? without(preset, finding) : preset,
  ),
}
