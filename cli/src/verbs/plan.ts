import type { Command } from 'commander'
import { DocumentError, readWith, record } from '@fulgor/core/document'
import { ownSnapshots, placeWords, planPresses, proposeLayout, type LayoutProposal, type Plan } from '@fulgor/core/plan'
import { capacityFields, readDevice, readPreset, type DeviceCapacity, type Preset } from '@fulgor/core/preset'
import { presetsOf, readShow, type Show } from '@fulgor/core/show'
import { InputError, readJsonFile, writeFile } from '../input'
import { print } from '../output'

/** Exit statuses as those of `check`: something is worth knowing; something will go wrong. */
const NOTES = 3
const WARNINGS = 4

interface SetFile {
  readonly show: Show
  readonly presets: readonly { readonly id: string; readonly preset: Preset }[]
  readonly capacity?: DeviceCapacity
}

/** A set as the Set view passes it on: the show, its presets by id, and what the device holds. */
function readSet(file: string, device: string | undefined): SetFile {
  const value = readJsonFile(file)
  if (typeof value !== 'object' || value === null) throw new InputError(`${file}: must be an object.`)
  const { show: document = value, presets = {}, capacity } = value as { show?: unknown; presets?: unknown; capacity?: unknown }
  try {
    const show = readShow(document)
    if (typeof presets !== 'object' || presets === null || Array.isArray(presets))
      throw new DocumentError('presets', 'must be presets by their ids.')
    const known = presets as Record<string, unknown>
    const found = presetsOf(show).flatMap((id) => (id in known ? [{ id, preset: readPreset(known[id]) }] : []))
    const own = capacity === undefined ? undefined : readWith(record(capacityFields), capacity, 'capacity')
    const size = device === undefined ? own : readDevice(readJsonFile(device)).capacity
    return { show, presets: found, ...(size ? { capacity: size } : {}) }
  } catch (error) {
    if (error instanceof DocumentError) throw new InputError(`${file}: ${error.message}`)
    throw error
  }
}

export function addPlan(program: Command): void {
  program
    .command('plan')
    .description(
      `presses of a night, change by change, and a layout that needs fewer; exit status ${NOTES} with remarks, ${WARNINGS} when something cannot be played`,
    )
    .argument('<set>', 'set as the Set view passes it on: a show with its presets')
    .option('--night <id>', 'running order; the first one by itself')
    .option('--device <file>', 'device document that it is played on')
    .option('--no-layout', 'only the presses, no search for a layout')
    .option('--no-snapshots', 'a layout without new snapshots')
    .option('--out <file>', 'write the set with the proposed layout')
    .option('--json', 'one JSON value')
    .action((file: string, o: { night?: string; device?: string; layout: boolean; snapshots: boolean; out?: string; json?: boolean }) => {
      const set = readSet(file, o.device)
      const order = set.show.orders.find((n) => n.id === (o.night ?? set.show.orders[0].id))
      if (!order)
        throw new InputError(
          `${file}: there is no running order “${o.night ?? ''}”; there are ${set.show.orders.map((n) => n.id).join(', ')}.`,
        )
      const plan = planPresses(set.show, order.id, set.presets, set.capacity)
      const proposal = o.layout ? propose(set, order.id, o.snapshots) : null
      if (o.out !== undefined) {
        if (!proposal) throw new InputError('--out needs a layout: leave --no-layout away.')
        const after = {
          show: proposal.show,
          presets: Object.fromEntries(proposal.presets.map((p) => [p.id, p.preset])),
          ...(set.capacity ? { capacity: set.capacity } : {}),
        }
        writeFile(o.out, Buffer.from(`${JSON.stringify(after, null, 2)}\n`))
      }
      print(o.json ?? false, told(plan, proposal, set), () => words(plan, proposal, order.name))
      const kinds = plan.changes.flatMap((c) => c.troubles.map((t) => t.kind))
      if (kinds.some((k) => k === 'gone' || k === 'unreachable' || k === 'tight')) process.exitCode = WARNINGS
      else if (kinds.length > 0) process.exitCode = NOTES
    })
}

function propose({ show, presets, capacity }: SetFile, order: string, snapshots: boolean): LayoutProposal {
  let ids = 0
  const search = proposeLayout(
    { show, order, presets, locked: show.locked, snapshots, ...(capacity ? { capacity } : {}) },
    () => `new-${++ids}`,
  )
  for (;;) {
    const { value, done } = search.next()
    if (done) return value
  }
}

const summary = (plan: Plan) => ({ presses: plan.presses, whileSinging: plan.sung, remarks: plan.troubles })

function told(plan: Plan, proposal: LayoutProposal | null, { presets, capacity }: SetFile) {
  return {
    ...summary(plan),
    changes: plan.changes.map(({ change, presses, needS, steps, troubles }) => ({
      song: change.song.name,
      part: change.part.name,
      does: change.does,
      presses,
      needS,
      haveS: change.windowS,
      steps: steps.map((s) => ({
        switch: s.place.index + 1,
        page: s.place.page,
        bank: s.place.bank + 1,
        gesture: s.gesture,
        does: s.fn.do,
        sung: s.sung,
      })),
      remarks: troubles.map((t) => t.words),
    })),
    ownSnapshots: ownSnapshots(plan, presets, capacity).map(({ preset, name, times, presses }) => ({ preset, name, times, presses })),
    layout: proposal && {
      after: summary(proposal.after),
      changes: proposal.changes,
      boards: proposal.boards.map((b) => ({ preset: b.preset, ...b.layout, switches: b.board.switches })),
    },
  }
}

function words(plan: Plan, proposal: LayoutProposal | null, night: string): string[] {
  const rows = plan.changes.map(({ change, presses, steps, troubles }) => {
    const what = steps.map((s) => placeWords(s.place, s.gesture)).join(', then ')
    const remarks = troubles.map((t) => `  ! ${t.words}`).join('')
    return `${String(presses).padStart(3)}  ${change.song.name}: ${change.part.name}${change.does === 'tap' ? ' (tap)' : ''}${what === '' ? '' : `  [${what}]`}${remarks}`
  })
  const total = `${plan.presses} presses in “${night}”, ${plan.sung} while singing, ${plan.troubles} remarks.`
  if (!proposal) return [...rows, total]
  if (proposal.boards.length === 0) return [...rows, total, 'No better layout was found.']
  return [
    ...rows,
    total,
    `With another layout: ${proposal.after.presses} presses, ${proposal.after.sung} while singing, ${proposal.after.troubles} remarks.`,
    ...proposal.changes.map((c) => `  ${c.where}: ${c.words}`),
  ]
}
