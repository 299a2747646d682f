import { defaultParams, GUITAR_MODEL, GUITAR_STAGE, stagesOf, type StageNode } from '../chain/description'
import { circuitParams, type PickupPosition } from '@fulgor/core/guitar'
import { modelOf } from '@fulgor/core/catalogue'
import type { Strength } from '@fulgor/core/riffs'
import { LINEAR, type Control, type ControlTarget } from '../controls/description'
import { trimOf } from '../levels/levelling'
import type { Preset } from '../preset'
import type { StageOverride } from '../snapshots/description'
import { resolveStage } from '../snapshots/resolve'
import { findSnapshot } from '../snapshots/snapshots'
import type { ParamMap } from '../values'
import type { Fit, HandSetting, OwnHand, UsedGuitar } from './description'

/** What plays a snapshot. */
export interface Hand extends HandSetting {
  readonly profile: UsedGuitar
  readonly pickup: PickupPosition
  /** What is set right for it; null on what the preset was made on, and where nothing was accepted. */
  readonly fit: Fit | null
}

/** The guitar that the preset was made on. */
export const madeOn = (preset: Preset): UsedGuitar => preset.guitars[0]

/** True on the guitar and position that the preset, or this snapshot of it, was made on. */
const isMade = (preset: Preset, { guitar, position }: Pick<HandSetting, 'guitar' | 'position'>): boolean =>
  guitar === preset.guitars[0].id && position === preset.madeOn

/** A hand with what belongs to it. A position that the guitar has not is its last one. */
export function handFrom(preset: Preset, setting: HandSetting): Hand {
  const profile = preset.guitars.find((g) => g.id === setting.guitar) ?? preset.guitars[0]
  const position = Math.min(setting.position, profile.positions.length - 1)
  const fit = isMade(preset, { guitar: profile.id, position }) ? null : (profile.fits?.find((f) => f.position === position) ?? null)
  return { ...setting, guitar: profile.id, position, profile, pickup: profile.positions[position], fit }
}

/** What plays a snapshot; null is the base. */
export const handOf = (preset: Preset, snapshot: string | null): Hand =>
  handFrom(preset, { ...preset.hand, ...findSnapshot(preset, snapshot)?.hand })

/** What a snapshot was made on: the first guitar, and of the snapshot's own what it says of that one. */
export function madeHandOf(preset: Preset, snapshot: string | null): Hand {
  const own = findSnapshot(preset, snapshot)?.hand ?? {}
  const other = own.guitar !== undefined && own.guitar !== preset.guitars[0].id
  return handFrom(preset, {
    guitar: preset.guitars[0].id,
    position: other ? preset.madeOn : (own.position ?? preset.madeOn),
    volume: own.volume ?? preset.hand.volume,
    tone: own.tone ?? preset.hand.tone,
  })
}

/** Values of the stage before the chain. */
export const guitarParams = ({ profile, pickup, volume, tone, fit }: Hand): ParamMap => ({
  ...defaultParams(GUITAR_MODEL),
  ...circuitParams(profile, pickup),
  volume,
  tone,
  level: fit?.trim ?? 0,
  ...(fit?.low ? { lowHz: fit.low.hz, lowDb: fit.low.db } : {}),
  ...(fit?.bell ? { bellHz: fit.bell.hz, bellDb: fit.bell.db, bellQ: fit.bell.q } : {}),
  ...(fit?.high ? { highHz: fit.high.hz, highDb: fit.high.db } : {}),
})

/** The guitar as the stage before all others: what sources move of it, and what its knobs and its fit do. */
export const guitarStage = (preset: Preset): StageNode => ({
  kind: 'stage',
  id: GUITAR_STAGE,
  model: GUITAR_MODEL,
  on: true,
  params: guitarParams(handOf(preset, null)),
})

/** Peak of a stroke of the guitar that plays, dBFS, its volume at 10. */
export const strokeDbfs = (preset: Preset, snapshot: string | null, strength: Strength): number =>
  handOf(preset, snapshot).pickup[strength].peakDbfs

const isPlain = ({ volume, tone, fit }: Hand): boolean =>
  volume === 10 && tone === 10 && (fit === null || (fit.trim === 0 && !fit.low && !fit.bell && !fit.high))

/** What a declared guitar's volume turns besides its targets: the knob of the guitar itself. */
const KNOB: ControlTarget = { id: 'guitar-volume', stage: GUITAR_STAGE, param: 'volume', from: 0, to: 10, curve: LINEAR, snapshots: null }

const withKnob = (control: Control): Control =>
  control.kind === 'volume' && control.declared ? { ...control, targets: [...control.targets, KNOB] } : control

const withoutGuitar = (control: Control): Control => ({ ...control, targets: control.targets.filter((t) => t.stage !== GUITAR_STAGE) })

const kept = new WeakMap<Preset, Preset>()
const keptLive = new WeakMap<Preset, Preset>()

/**
 * A preset as it sounds: with the guitar before the chain where its knobs or its fit do something or are moved, and with the gates and
 * trims that the fit of each snapshot's guitar asks for. The same object where there is nothing to add.
 * @param live a real guitar is played: its own knobs have done their work already
 */
export function asPlayed(preset: Preset, live = false): Preset {
  const made = live ? keptLive : kept
  let played = made.get(preset)
  if (!played) {
    played = heardWith(preset, live)
    made.set(preset, played)
  }
  return played
}

function heardWith(preset: Preset, live: boolean): Preset {
  if (preset.chain.some((node) => node.id === GUITAR_STAGE)) return preset
  const heard = (snapshot: string | null): Hand => {
    const hand = handOf(preset, snapshot)
    return live ? { ...hand, volume: 10, tone: 10 } : hand
  }
  const base = heard(null)
  const hands = preset.snapshots.map((s) => heard(s.id))
  // no source turns the knobs of a real guitar
  const controls = preset.controls?.map(live ? withoutGuitar : withKnob)
  const moved = (controls ?? []).some((c) => c.targets.some((t) => t.stage === GUITAR_STAGE))
  const shows = moved || ![base, ...hands].every(isPlain)
  if (!shows && hands.every(({ fit }) => fit === null)) return preset
  const stage = { ...guitarStage(preset), params: guitarParams(base) }
  // what is added is not added again
  const plain = preset.guitars.map(({ fits: _, ...guitar }) => guitar)
  return {
    ...preset,
    guitars: plain,
    ...(shows && controls ? { controls } : {}),
    hand: { ...preset.hand, volume: 10, tone: 10 },
    chain: shows ? [stage, ...preset.chain] : preset.chain,
    snapshots: preset.snapshots.map((snapshot, i) => {
      const { fit } = hands[i]
      let stages: Record<string, StageOverride> = { ...snapshot.stages }
      if (shows) stages = { [GUITAR_STAGE]: { params: differing(stage.params, guitarParams(hands[i])) }, ...stages }
      if (fit) for (const [id, params] of fitted(preset, snapshot.id, fit)) stages[id] = withParams(stages[id], params)
      return { ...snapshot, ...(snapshot.hand ? { hand: switchOf(snapshot.hand) } : {}), stages }
    }),
  }
}

/** Which guitar and position, without the knobs. */
const switchOf = ({ volume: _v, tone: _t, ...hand }: OwnHand): OwnHand => hand

const withParams = (before: StageOverride | undefined, params: ParamMap): StageOverride => ({
  ...before,
  params: { ...before?.params, ...params },
})

const differing = (base: ParamMap, own: ParamMap): ParamMap =>
  Object.fromEntries(Object.entries(own).filter(([key, value]) => base[key] !== value))

/** What a fit sets in the chain in one snapshot: thresholds of gates, and the trim. */
function* fitted(preset: Preset, snapshot: string, fit: Fit): Generator<readonly [stage: string, params: ParamMap]> {
  for (const stage of stagesOf(preset.chain)) {
    const moves = fit.gates[stage.id] as Fit['gates'][string] | undefined
    const move = moves?.[snapshot]
    if (move === undefined) continue
    yield [stage.id, { threshold: moved(stage, preset, snapshot, 'threshold', move) }]
  }
  const trim = trimOf(preset)
  const db = fit.trims[snapshot] as number | undefined
  if (trim && db !== undefined) yield [trim.stage.id, { [trim.param]: moved(trim.stage, preset, snapshot, trim.param, db) }]
}

function moved(stage: StageNode, preset: Preset, snapshot: string, param: string, db: number): number {
  const spec = modelOf(stage.model).params[param]
  const now = Number(resolveStage(preset, stage, snapshot).params[param]) + db
  return spec.kind === 'number' ? Math.min(spec.max, Math.max(spec.min, now)) : now
}
