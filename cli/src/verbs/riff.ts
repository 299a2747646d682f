import { Option, type Command } from 'commander'
import { writeWav } from '@fulgor/core/formats'
import { outputMeasures } from '@fulgor/core/measure'
import { PICKUPS, playRiff, shippedRiffs, STRENGTHS, TUNINGS, type PickupKind, type Strength, type Tuning } from '@fulgor/core/riffs'
import { InputError, numberOption, writeFile } from '../input'
import { print, table } from '../output'
import { measureJson, measureLines } from './measure'

interface RiffOptions {
  list?: boolean
  strength: Strength
  pickup: PickupKind
  tuning: Tuning
  bpm: string
  take: string
  rate: string
  out?: string
  json?: boolean
}

const lists = {
  riffs: shippedRiffs,
  strengths: STRENGTHS,
  pickups: PICKUPS.map(({ id, name }) => ({ id, name })),
  tunings: TUNINGS.map(({ id, name }) => ({ id, name })),
}

export function addRiff(program: Command): void {
  program
    .command('riff')
    .argument('[id]', 'riff to play')
    .description('a shipped dry riff as WAV, or --list for what there is')
    .option('--list', 'names of riffs, strengths, pickups and tunings')
    .addOption(new Option('--strength <name>', 'how hard it is picked').choices(STRENGTHS).default('hard'))
    .addOption(new Option('--pickup <kind>', 'pickup').choices(PICKUPS.map((p) => p.id)).default('bridge'))
    .addOption(new Option('--tuning <name>', 'tuning').choices(TUNINGS.map((t) => t.id)).default('standard'))
    .option('--bpm <n>', 'quarter notes a minute', '120')
    .option('--take <n>', 'another performance of the same notes', '1')
    .option('--rate <hz>', 'sample rate', '48000')
    .option('--out <file>', 'WAV to write, 24 bits')
    .option('--json', 'one JSON value')
    .action((id: string | undefined, o: RiffOptions) => {
      if (o.list || id === undefined) {
        if (!o.list) throw new InputError('riff: name a riff, or use --list')
        print(o.json ?? false, lists, () => [
          ...table([['riff', 'name'], ...lists.riffs.map((r) => [r.id, r.name])]),
          '',
          ...table([['pickup', 'name'], ...lists.pickups.map((p) => [p.id, p.name])]),
          '',
          ...table([['tuning', 'name'], ...lists.tunings.map((t) => [t.id, t.name])]),
        ])
        return
      }
      if (!shippedRiffs.some((r) => r.id === id))
        throw new InputError(`riff: there is no “${id}”; there are ${shippedRiffs.map((r) => r.id).join(', ')}`)
      if (o.out === undefined) throw new InputError('--out: name the WAV to write')
      const sampleRate = numberOption('rate', o.rate, 44_100, 96_000)
      const { strength, pickup, tuning } = o
      const bpm = numberOption('bpm', o.bpm, 20, 400)
      const take = numberOption('take', o.take, 1, 4)
      const sound = playRiff(id, sampleRate, { strength, pickup, tuning, bpm, take: Math.round(take) })
      const measures = outputMeasures([sound], sampleRate)
      writeFile(o.out, writeWav([sound], sampleRate, 24))
      const result = { out: o.out, riff: id, strength, pickup, tuning, bpm, take, sampleRate, ...measureJson(measures) }
      print(o.json ?? false, result, () => [o.out ?? '', ...measureLines(measures)])
    })
}
