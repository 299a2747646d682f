import { modelOf } from '@fulgor/core/catalogue'
import { handOf, partName, partsOf, resolveStage, strokeDbfs, targetOf, type Preset } from '@fulgor/core/preset'
import { thdAt, type Reading } from '@fulgor/core/reading'
import type { NeededSound, SoundRole } from '@fulgor/core/show'

export const STEP_IDS = ['guitar', 'cabinet', 'amp', 'drive', 'eq', 'dry', 'modulation', 'delay', 'reverb', 'level', 'place'] as const
export type StepId = (typeof STEP_IDS)[number]

/** One step of the work. */
export interface Step {
  readonly id: StepId
  readonly name: string
  readonly why: string
  readonly listen: string
  /** Families of stages that it is about. */
  readonly families: readonly string[]
  /** View that it is done in. */
  readonly view: 'sheet' | 'bench' | 'checks' | 'kit'
}

const step = (
  id: StepId,
  name: string,
  why: string,
  listen: string,
  families: readonly string[] = [],
  view: Step['view'] = 'sheet',
): Step => ({
  id,
  name,
  why,
  listen,
  families,
  view,
})

const STEPS: readonly Step[] = [
  step(
    'guitar',
    'Guitar',
    'Its level and its brightness decide what every gain and every cut does.',
    'Play soft and hard: is this the guitar that will be played?',
    [],
    'kit',
  ),
  step(
    'cabinet',
    'Cabinet and microphones',
    'They shape the sound more than any knob of the amp.',
    'Move between two of them: which one is right before anything is turned?',
    ['cabinet'],
    'bench',
  ),
  step(
    'amp',
    'Amp',
    'Its gain sets where soft picking ends and breakup begins.',
    'Strum soft, normal and hard: where does it begin to break up?',
    ['amp'],
  ),
  step(
    'drive',
    'Drive and gate',
    'Gains in a row add up, and so does the noise; a drive at zero tightens.',
    'Stop the strings: what is left, and does a note end too early?',
    ['drive', 'gate', 'compressor'],
  ),
  step(
    'eq',
    'EQ',
    'What the microphone brought too much of is taken out once, at one place.',
    'The lows under the bass, the harsh spot, the top: each alone.',
    ['eq'],
    'checks',
  ),
  step(
    'dry',
    'Judge it dry',
    'What comes in time hides faults, and shows them again on stage.',
    'Press D: does it stand without delay, reverb and modulation?',
  ),
  step(
    'modulation',
    'Modulation',
    'It belongs behind the amp unless the sound of before is wanted.',
    'Does it move with the song, or against it?',
    ['modulation', 'pitch', 'filter'],
  ),
  step(
    'delay',
    'Delay',
    'Repeats follow the tempo and stay under the next notes.',
    'Do the repeats speak between the notes, or over them?',
    ['delay'],
  ),
  step('reverb', 'Reverb', 'It says how far away the sound is; in a hall there is one already.', 'Stop: is the gap still a gap?', [
    'reverb',
  ]),
  step('level', 'Level', 'As loud as the others, unless it is a solo.', 'Change from the sound before: does it jump?', ['output', 'trim']),
  step('place', 'Place', 'Louder and in mono it is another sound.', 'Listen through the place: what has gone, what has come forward?'),
]

/** The steps in the order of a school. */
export function stepsOf(school: 'cabinet' | 'amp'): readonly Step[] {
  if (school === 'cabinet') return STEPS
  const [guitar, cabinet, amp, ...rest] = STEPS
  return [guitar, amp, cabinet, ...rest]
}

/** What measurement says of a step. */
export interface StepFigure {
  /** The figure in words. */
  readonly words: string
  /** Whether it is as it should be; null: the ear decides. */
  readonly done: boolean | null
}

const one = (x: number, digits = 1): string => x.toFixed(digits).replace('-', '−')

/** dBFS at rest that a gate or less gain should reach (common practice, no source). */
const QUIET_DBFS = -60
/** LU from the target that are level. */
const LEVEL_LU = 0.5
/** LU that a mono house may take. */
const MONO_LU = 1.5
/** Distortion in % that is heard as clean, and as driven (common practice, no source). */
const CLEAN = 1
const DRIVEN = 10

/**
 * What was measured of a snapshot for a step; null: nothing that tells.
 * @param reading null while it is on its way: what needs no sound is told all the same
 */
export function figureOf(
  step: Step,
  sound: Pick<NeededSound, 'role' | 'guitar' | 'place'>,
  preset: Preset,
  snapshot: string,
  reading: Reading | null,
): StepFigure | null {
  const on = partsOf(preset.chain).filter((s) => step.families.includes(modelOf(s.model).family) && resolveStage(preset, s, snapshot).on)
  const names = on.map((s) => partName(preset, s.id)).join(', ')
  switch (step.id) {
    case 'guitar': {
      const { guitar: id, position } = handOf(preset, snapshot)
      const guitar = preset.guitars.find((g) => g.id === id) ?? preset.guitars[0]
      const words = `${guitar.name}, ${guitar.positions[position]?.name ?? 'position'}`
      if (sound.guitar === null) return { words, done: null }
      return { words, done: guitar.kit === sound.guitar.kit && position === sound.guitar.position }
    }
    case 'cabinet': {
      const centroid = reading?.output.centroidHz ?? null
      const bright = centroid === null ? '' : `, brightness ${Math.round(centroid)} Hz`
      if (sound.role === 'acoustic') return { words: on.length === 0 ? 'none, as it should be here' : names, done: on.length === 0 }
      return { words: on.length === 0 ? 'no cabinet is on' : `${names}${bright}`, done: on.length > 0 ? null : false }
    }
    case 'amp':
      return reading ? breakup(sound.role, preset, snapshot, reading) : null
    case 'drive': {
      if (reading?.noiseDbfs == null) return reading ? { words: 'silent at rest', done: true } : null
      return { words: `noise at rest ${one(reading.noiseDbfs)} dBFS`, done: reading.noiseDbfs < QUIET_DBFS }
    }
    case 'eq': {
      const centroid = reading?.output.centroidHz
      return {
        words: `${on.length === 0 ? 'none' : names}${centroid == null ? '' : `, brightness ${Math.round(centroid)} Hz`}`,
        done: null,
      }
    }
    case 'dry':
      return null
    case 'modulation':
    case 'delay':
      return { words: on.length === 0 ? 'none is on' : names, done: null }
    case 'reverb': {
      if (on.length === 0) return { words: 'none is on', done: null }
      if (reading?.gapDb == null || reading.dryGapDb == null) return { words: names, done: null }
      return { words: `${names}; gaps lie ${one(reading.gapDb)} dB under the notes, ${one(reading.dryGapDb)} without it`, done: null }
    }
    case 'level': {
      const lufs = reading?.output.integratedLufs
      const own = preset.snapshots.find((s) => s.id === snapshot)
      if (lufs == null || !own) return null
      const off = lufs - targetOf(preset, own)
      return { words: `${one(lufs)} LUFS, ${off >= 0 ? '+' : ''}${one(off)} LU from its target`, done: Math.abs(off) <= LEVEL_LU }
    }
    case 'place': {
      if (reading === null) return null
      const { monoLossLu } = reading
      return monoLossLu === null ? null : { words: `${one(monoLossLu)} LU softer in mono`, done: monoLossLu <= MONO_LU ? null : false }
    }
  }
}

/** Where it breaks up against the hand, and whether that fits the role. */
function breakup(role: SoundRole, preset: Preset, snapshot: string, reading: Reading): StepFigure {
  const at = (stroke: 'soft' | 'normal' | 'hard') => thdAt(reading.feel, strokeDbfs(preset, snapshot, stroke))
  const [soft, normal, hard] = [at('soft'), at('normal'), at('hard')]
  const words = `soft ${one(soft)} %, normal ${one(normal)} %, hard ${one(hard)} % distortion`
  const fits: Record<SoundRole, boolean | null> = {
    clean: hard < CLEAN,
    acoustic: hard < CLEAN,
    ambience: normal < DRIVEN,
    edge: soft < DRIVEN / 2 && hard >= CLEAN,
    crunch: normal >= CLEAN,
    'high-gain': normal >= DRIVEN,
    'bass-layer': null,
  }
  return { words, done: fits[role] }
}

/** How far a sound is: steps that are done by the player or by measurement, or skipped. */
export function progressOf(
  steps: readonly Step[],
  sound: Pick<NeededSound, 'steps' | 'answer'>,
  figures: Readonly<Partial<Record<StepId, StepFigure | null>>>,
): { readonly done: number; readonly of: number; readonly next: StepId | null } {
  const is = (s: Step) => sound.steps[s.id] !== undefined || figures[s.id]?.done === true
  return { done: steps.filter(is).length, of: steps.length, next: steps.find((s) => !is(s))?.id ?? null }
}
