import { midiClashes, type MidiRow } from '@fulgor/core/board'
import { controllerName, isReserved } from '@fulgor/core/formats'
import type { Edit, Preset } from '@fulgor/core/preset'
import type { Check, Finding } from './finding'

/** Takes the binding of a source or switch away. */
function forget({ kind, id }: MidiRow): readonly Edit[] {
  if (kind === 'source') return [{ type: 'changeControl', control: id, change: { midi: null } }]
  if (kind === 'switch') return [{ type: 'changeSwitch', id, change: { midi: null } }]
  return []
}

const mends = (rows: readonly MidiRow[]): Finding['mends'] =>
  rows.flatMap((row) => {
    const edits = forget(row)
    return edits.length === 0 ? [] : [{ label: `Forget it for ${row.name}`, edits }]
  })

function words({ messages }: MidiRow): string {
  const { type, number, channel } = messages[messages.length - 1]
  return `${type === 'cc' ? 'controller' : type} ${number} on channel ${channel}`
}

/** One message that means two things, and a controller that every device understands otherwise. */
export const midiClash: Check = {
  id: 'midi-clash',
  why: 'One message can only mean one thing. With two the device does both, or what comes first.',
  find(preset: Preset) {
    const clash = midiClashes(preset).map(([a, b]): Finding => ({
      rule: midiClash.id,
      severity: 'warning',
      where: [],
      figure: `${words(a)} stands for “${a.name}” and for “${b.name}”.`.replace(/^./, (c) => c.toUpperCase()),
      reason: 'One message does both.',
      mends: mends([a, b]),
    }))
    const bound = [
      ...(preset.controls ?? []).map((c) => ({ kind: 'source' as const, id: c.id, name: c.name, midi: c.midi })),
      ...(preset.board?.switches ?? []).map((s) => ({ kind: 'switch' as const, id: s.id, name: s.label || 'A switch', midi: s.midi })),
    ]
    const reserved = bound.flatMap(({ kind, id, name, midi }): Finding[] => {
      if (midi?.type !== 'cc' || !isReserved(midi.number)) return []
      return [
        {
          rule: midiClash.id,
          severity: 'warning',
          where: [],
          controls: kind === 'source' ? [id] : [],
          figure: `${name} listens to controller ${midi.number}, which is ${controllerName(midi.number) ?? 'reserved'}.`,
          reason: 'A device takes it for something else: choose another controller.',
          mends: mends([{ kind, id, name, what: '', messages: [] }]),
        },
      ]
    })
    return [...clash, ...reserved]
  },
}
