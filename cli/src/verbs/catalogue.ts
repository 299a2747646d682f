import type { Command } from 'commander'
import { catalogue, modelOf, type StageModel } from '@fulgor/core/catalogue'
import { presetSchema } from '@fulgor/core/preset'
import { Machine } from '@fulgor/core/signal'
import { noteMs, NOTE_VALUES } from '@fulgor/core/stage'
import { numberOption } from '../input'
import { print, table } from '../output'
import { buildContext } from '../sound'

const RATE = 48_000

/** What a model can do beside its parameters, in words. */
const traitsOf = ({
  charts,
  sync,
  silentWhenOff,
  derived,
  inert,
}: Pick<StageModel, 'charts' | 'sync' | 'silentWhenOff' | 'derived' | 'inert'>): string[] => [
  ...charts.map((chart) => `chart:${chart}`),
  ...(sync ?? []).map(({ time }) => `follows-tempo:${time}`),
  ...(silentWhenOff ? ['silent-when-off'] : []),
  ...(derived ? ['derived-values'] : []),
  ...(inert ? ['says-what-does-nothing'] : []),
]

/** Frames at 48 kHz by which everything through a stage is late, and which the chain makes up for between lanes. */
function latencyOf(id: string): number {
  const processor = modelOf(id).build(buildContext(RATE, 'live'))
  processor.prepare(RATE, new Machine())
  return processor.latency
}

export function addCatalogue(program: Command): void {
  program
    .command('catalogue')
    .description('every model with its parameters')
    .option('--json', 'one JSON value')
    .action(({ json }: { json?: boolean }) => {
      const models = catalogue.map(({ id, name, family, purpose, substitute, linear, params, ...model }) => ({
        id,
        name,
        family,
        purpose,
        substitute,
        linear,
        traits: traitsOf(model),
        cost: model.cost,
        latencyFrames: latencyOf(id),
        latencyMs: model.latencyMs ?? (1000 * latencyOf(id)) / RATE,
        params,
      }))
      print(json ?? false, models, () =>
        models.flatMap((m) => [
          `${m.id}  ${m.name} (${m.family})`,
          `  ${m.purpose}`,
          `  ${[m.linear ? 'linear' : 'not linear', ...m.traits, `${m.latencyMs.toFixed(1)} ms late`, `costs ${m.cost} µs a block of 128`].join(', ')}`,
          ...table(
            Object.entries(m.params).map(([key, p]) => [
              `  ${key}`,
              p.label,
              p.kind === 'number'
                ? `${p.min} to ${p.max} ${p.unit === 'knob' ? '' : p.unit}`.trim()
                : p.options.map((c) => c.value).join(' | '),
              `default ${p.initial}`,
            ]),
          ),
          '',
        ]),
      )
    })

  program
    .command('schema')
    .description('JSON Schema of a preset document')
    .option('--json', 'one JSON value on one line')
    .action(({ json }: { json?: boolean }) => print(json ?? false, presetSchema(), () => [JSON.stringify(presetSchema(), null, 2)]))

  program
    .command('time')
    .description('ms of every note value at a tempo')
    .requiredOption('--bpm <n>', 'quarter notes a minute')
    .option('--json', 'one JSON value')
    .action(({ bpm: text, json }: { bpm: string; json?: boolean }) => {
      const bpm = numberOption('bpm', text, 20, 400)
      const notes = NOTE_VALUES.map(({ id, name, beats }) => ({ id, name, beats, ms: noteMs(bpm, id) }))
      print(json ?? false, { bpm, notes }, () =>
        table([[`${bpm} bpm`, 'ms', 'Hz'], ...notes.map((n) => [n.name, n.ms.toFixed(1), (1000 / n.ms).toFixed(2)])]),
      )
    })
}
