import { formatValue } from '@fulgor/core/catalogue'
import {
  findSnapshot,
  findStage,
  functionsOf,
  isLive,
  partName,
  POSITION,
  resolveStage,
  snapshotDifference,
  targetSpec,
  targetValue,
  tempoOf,
  type Control,
  type FunctionKind,
  type Preset,
  type SwitchFunction,
} from '@fulgor/core/preset'
import { NOTE_VALUES } from '@fulgor/core/stage'

/** Stages that a foot has switched over since the snapshot was loaded, by id. */
export type Toggled = Readonly<Record<string, boolean>>

export const FUNCTION_NAMES: Record<FunctionKind, string> = {
  snapshot: 'Load a snapshot',
  stages: 'Stages on and off',
  source: 'Move a source',
  pedals: 'What a pedal does',
  tap: 'Tap the tempo',
  tuner: 'Tuner',
  page: 'Other page',
  bank: 'Bank',
  preset: 'Preset',
}

export const isOn = (preset: Preset, stage: string, snapshot: string | null, toggled: Toggled): boolean => {
  const node = findStage(preset, stage)
  return toggled[stage] ?? (node ? resolveStage(preset, node, snapshot).on : false)
}

/** Where a function takes its stages from how they stand now. */
export function switchedStages(
  preset: Preset,
  fn: Extract<SwitchFunction, { do: 'stages' }>,
  snapshot: string | null,
  toggled: Toggled,
): Toggled {
  const now = (id: string) => isOn(preset, id, snapshot, toggled)
  const all = fn.stages.every(now)
  return Object.fromEntries(fn.stages.map((id) => [id, fn.how === 'each' ? !now(id) : !all]))
}

const control = (preset: Preset, id: string): Control | undefined => preset.controls?.find((c) => c.id === id)

/** The source that turns a stage on and off in a snapshot: as long as it acts, a foot cannot. */
export const holderOf = (preset: Preset, stage: string, snapshot: string): Control | undefined =>
  preset.controls?.find((c) => c.targets.some((t) => t.stage === stage && t.param === 'on' && isLive(t, snapshot)))

/** True where a function acts only while the switch is down. */
export const actsWhileDown = (preset: Preset, fn: SwitchFunction | null): boolean =>
  fn?.do === 'source' && control(preset, fn.control)?.kind === 'momentary'

/** Pairs of sources of which one acts while the other rests: one pedal with two uses. */
const pairs = (preset: Preset): (readonly [string, string])[] =>
  (preset.board?.switches ?? [])
    .flatMap(functionsOf)
    .flatMap(({ fn }) => (fn.do === 'pedals' && fn.controls.length === 2 ? [[fn.controls[0], fn.controls[1]] as const] : []))

/** Sources that rest when a snapshot is loaded: the second of each pair. */
export const restingSources = (preset: Preset): string[] => [...new Set(pairs(preset).map(([, second]) => second))]

export const arePaired = (preset: Preset, a: string, b: string): boolean =>
  pairs(preset).some((pair) => pair.includes(a) && pair.includes(b))

/** What stands on a switch that the player has not named. */
export function functionLabel(preset: Preset, fn: SwitchFunction): string {
  switch (fn.do) {
    case 'snapshot':
      return findSnapshot(preset, fn.snapshot)?.name ?? 'gone'
    case 'stages':
      return fn.stages.map((id) => partName(preset, id)).join(' + ')
    case 'source':
      return control(preset, fn.control)?.name ?? 'gone'
    case 'pedals':
      return fn.controls.map((id) => control(preset, id)?.name ?? 'gone').join(' / ')
    case 'tap':
      return 'Tap'
    case 'tuner':
      return 'Tuner'
    case 'page':
      return 'Page'
    case 'bank':
      return fn.by > 0 ? 'Bank up' : 'Bank down'
    case 'preset':
      return fn.by > 0 ? 'Preset up' : 'Preset down'
  }
}

/** What a function does in a snapshot as it is stored. */
export interface Effect {
  readonly words: string
  /** It changes nothing there. */
  readonly idle: boolean
}

const does = (words: string): Effect => ({ words, idle: false })
const idle = (words: string): Effect => ({ words, idle: true })

export function effectOf(preset: Preset, fn: SwitchFunction, snapshot: string): Effect {
  switch (fn.do) {
    case 'snapshot':
      return does(fn.snapshot === snapshot ? 'loads it afresh' : changesTo(preset, snapshot, fn.snapshot))
    case 'stages': {
      const holders = fn.stages.map((id) => holderOf(preset, id, snapshot))
      const words = Object.entries(switchedStages(preset, fn, snapshot, {})).map(([id, on], i) => {
        const holder = holders[i]
        return `${partName(preset, id)} ${holder ? `held by ${holder.name}` : on ? 'on' : 'off'}`
      })
      return { words: words.join(', '), idle: holders.every((h) => h !== undefined) }
    }
    case 'source':
      return travelOf(preset, control(preset, fn.control), snapshot)
    case 'pedals':
      return pedalsIn(preset, fn.controls, snapshot)
    case 'tap': {
      const note = NOTE_VALUES.find((n) => n.id === (findSnapshot(preset, snapshot)?.tap ?? 'quarter'))
      return does(`${note?.name.toLowerCase() ?? 'quarter'} at ${tempoOf(preset, snapshot)} bpm`)
    }
    case 'tuner':
      return does('mutes and tunes')
    case 'page':
      return does('other page')
    case 'bank':
      return does(fn.by > 0 ? 'next bank' : 'bank before')
    case 'preset':
      return does(fn.by > 0 ? 'next preset' : 'preset before')
  }
}

function changesTo(preset: Preset, from: string, to: string): string {
  const count = snapshotDifference(preset, from, to).length
  return count === 0 ? 'changes nothing' : `changes ${count} ${count === 1 ? 'value' : 'values'}`
}

const liveTargets = (own: Control | undefined, snapshot: string) => (own?.targets ?? []).filter((t) => isLive(t, snapshot))

function travelOf(preset: Preset, own: Control | undefined, snapshot: string): Effect {
  const moves = liveTargets(own, snapshot).map((target) => {
    const spec = targetSpec(preset, target) ?? null
    const words = (position: number) => {
      const value = targetValue(spec, target, position)
      if (spec) return formatValue(spec, value)
      return target.param === POSITION ? `${Math.round(Number(value) * 100)} %` : Number(value) >= 0.5 ? 'on' : 'off'
    }
    const label = spec ? spec.label.toLowerCase() : ''
    return `${partName(preset, target.stage)} ${label}${label ? ' ' : ''}${words(0)} → ${words(1)}`
  })
  return moves.length === 0 ? idle('nothing here') : does(moves.join(', '))
}

function pedalsIn(preset: Preset, ids: readonly string[], snapshot: string): Effect {
  const [first, second] = ids.map((id) => control(preset, id))
  if (liveTargets(first, snapshot).length + liveTargets(second, snapshot).length === 0) return idle('nothing here')
  if (!first) return idle('nothing here')
  if (second) return does(`${second.name} for ${first.name}`)
  return does(first.onSnapshot === 'jump' ? `${first.name} lets go` : `${first.name} takes over`)
}
