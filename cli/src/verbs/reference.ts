import type { Command } from 'commander'
import { catalogue } from '@fulgor/core/catalogue'
import { presetSchema } from '@fulgor/core/preset'
import { noteMs, NOTE_VALUES } from '@fulgor/core/stage'
import { numberOption } from '../input'
import { print, table } from '../output'

export function addReference(program: Command): void {
  program
    .command('catalogue')
    .description('every model with its parameters')
    .option('--json', 'one JSON value')
    .action(({ json }: { json?: boolean }) => {
      const models = catalogue.map(({ id, name, family, purpose, substitute, linear, params }) => ({
        id,
        name,
        family,
        purpose,
        substitute,
        linear,
        params,
      }))
      print(json ?? false, models, () =>
        models.flatMap((m) => [
          `${m.id}  ${m.name} (${m.family})`,
          `  ${m.purpose}`,
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
