import { modelOf } from '@fulgor/core/catalogue'
import { restingSources, usableFunctions } from '@fulgor/core/board'
import {
  capacityOf,
  deviceOf,
  functionsOf,
  hasRoom,
  processingOf,
  stagesOf,
  type BoardSwitch,
  type DeviceCapacity,
  type Edit,
  type Gesture,
  type Preset,
} from '@fulgor/core/preset'
import { count } from './control'
import type { Check, Finding } from './finding'
import { freePlace, pagesFrom, placeWords } from './freeSwitch'

const GESTURE_WORDS: Record<Gesture, string> = { press: 'a press', hold: 'hold', double: 'a double press', both: 'two at once' }

/** More of something than the player's device holds. */
export const deviceCapacity: Check = {
  id: 'device-capacity',
  why: 'Devices have so many sources, assignments, snapshots and switches. What is beyond them cannot be loaded, however well it works here.',
  find(preset) {
    const capacity = capacityOf(preset.device)
    const device = deviceOf(preset.device).name
    const controls = preset.controls ?? []
    // the second use of a pedal takes no jack
    const second = new Set(restingSources(preset))
    const pedals = controls.filter((c) => c.kind === 'pedal' && !second.has(c.id))
    const assignments = controls.reduce((n, c) => n + c.targets.length, 0)
    const found: Finding[] = []
    const tell = (figure: string, reason: string, mends: Finding['mends'] = []) =>
      found.push({ rule: deviceCapacity.id, severity: 'warning', where: [], figure, reason, mends })
    if (pedals.length > capacity.pedals)
      tell(
        `${count(pedals.length, 'expression pedal')} ${pedals.length === 1 ? 'is' : 'are'} assigned; ${device} has room for ${capacity.pedals}.`,
        `What ${pedals[pedals.length - 1].name} moves stays where it rests.`,
        pedals.slice(capacity.pedals).map((own) => ({
          label: `Make ${own.name} a knob`,
          edits: [{ type: 'changeControl', control: own.id, change: { kind: 'knob' } }],
        })),
      )
    if (controls.length > capacity.sources)
      tell(`${count(controls.length, 'source')} stand here; ${device} has ${capacity.sources}.`, 'The last of them cannot be set up there.')
    if (assignments > capacity.assignments)
      tell(
        `${count(assignments, 'assignment')} stand here; ${device} holds ${capacity.assignments}.`,
        'The last of them cannot be set up there: a macro of the device may stand for several.',
      )
    if (preset.snapshots.length > capacity.snapshots)
      tell(
        `The preset has ${count(preset.snapshots.length, 'snapshot')}; ${device} holds ${capacity.snapshots}.`,
        'The last of them need a preset of their own.',
      )
    const over = processingOver(preset, capacity)
    if (over) tell(`${over} of ${device}’s processing.`, 'It will not load there whole: the last stage is refused or bypassed.')
    for (const own of preset.board?.switches ?? []) found.push(...ofSwitch(preset, own, capacity, device))
    return found
  },
}

/** What the stages take of the device's processing, where that is more than all of it; families that nobody has told do not count. */
function processingOver({ chain }: Preset, capacity: DeviceCapacity): string | null {
  const costs = stagesOf(chain).map((s) => processingOf(capacity, modelOf(s.model).family))
  const sum = costs.reduce<number>((all, cost) => all + (cost ?? 0), 0)
  const unknown = costs.filter((cost) => cost === null).length
  if (sum <= 100) return null
  const rest = unknown === 0 ? '' : ` (${count(unknown, 'stage')} not counted)`
  return `The stages take ${Math.round(10 * sum) / 10} %${rest}`
}

function ofSwitch(preset: Preset, own: BoardSwitch, capacity: DeviceCapacity, device: string): Finding[] {
  if (!hasRoom(capacity, own)) {
    const banks = Array.from({ length: capacity.banks }, (_, bank) => bank)
    const faces = pagesFrom(own.page).flatMap((page) => banks.map((bank) => ({ page, bank })))
    const free = preset.board ? freePlace(preset.board, faces, capacity.switches) : null
    const away: readonly Edit[] = free ? [{ type: 'moveSwitch', id: own.id, to: free }] : [{ type: 'removeSwitch', id: own.id }]
    return [
      {
        rule: deviceCapacity.id,
        severity: 'warning',
        where: [],
        figure: `${placeWords(own)}, is not there: ${device} has ${count(capacity.switches, 'switch', 'switches')} in ${count(capacity.banks, 'bank')}.`,
        reason: 'What it does cannot be reached.',
        mends: [{ label: free ? 'Move it to a free switch' : 'Take it off the board', edits: away }],
      },
    ]
  }
  const usable = new Set(usableFunctions(own, capacity).map((f) => f.gesture))
  return functionsOf(own)
    .filter(({ gesture }) => !usable.has(gesture))
    .map(({ gesture }) => ({
      rule: deviceCapacity.id,
      severity: 'warning',
      where: [],
      figure: `${placeWords(own)}, has something on ${GESTURE_WORDS[gesture]}; ${device} knows none.`,
      reason: 'It can never be called.',
      mends: [
        { label: 'Take it off', edits: [{ type: 'changeSwitch', id: own.id, change: { [gesture]: null } }] },
        ...(own.press === null
          ? [
              {
                label: 'Put it on the press',
                edits: [{ type: 'changeSwitch', id: own.id, change: { press: own[gesture], [gesture]: null } } as const],
              },
            ]
          : []),
      ],
    }))
}
