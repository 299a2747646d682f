import type { Command } from 'commander'
import { analogDb, bilinear, digitalMagnitude, toneStackTransfer } from '@fulgor/core/signal'
import { componentOption, numberOption } from '../input'
import { print, table } from '../output'

const POINTS = 241
/** The engine runs the tone stack at this multiple of the sample rate, inside the amp's oversampling. */
const OVERSAMPLING = 4

interface Options {
  r1: string
  r2: string
  r3: string
  r4: string
  c1: string
  c2: string
  c3: string
  treble: string
  mid: string
  bass: string
  rate?: string
  json?: boolean
}

export function addTonestack(program: Command): void {
  const command = program
    .command('tonestack')
    .description('response of the passive tone stack computed from its circuit (Yeh & Smith, DAFx-06)')
  const parts = { r1: '250k', r2: '1M', r3: '25k', r4: '56k', c1: '250p', c2: '20n', c3: '20n' } as const
  for (const [name, value] of Object.entries(parts)) command.option(`--${name} <value>`, name.startsWith('r') ? 'ohm' : 'farad', value)
  for (const pot of ['treble', 'mid', 'bass']) command.option(`--${pot} <0-1>`, 'pot position as resistance fraction', '0.5')
  command
    .option('--rate <hz>', 'also the digital filter that the engine runs at this sample rate')
    .option('--json', 'one JSON value')
    .action((o: Options) => {
      const component = (name: keyof typeof parts) => componentOption(name, o[name])
      const pot = (name: 'treble' | 'mid' | 'bass') => numberOption(name, o[name], 0, 1)
      const circuit = toneStackTransfer(
        {
          r1: component('r1'),
          r2: component('r2'),
          r3: component('r3'),
          r4: component('r4'),
          c1: component('c1'),
          c2: component('c2'),
          c3: component('c3'),
        },
        { treble: pot('treble'), mid: pot('mid'), bass: pot('bass') },
      )
      const hz = Array.from({ length: POINTS }, (_, i) => 20 * Math.pow(1000, i / (POINTS - 1)))
      const db = hz.map((f) => analogDb(circuit, f))
      const digitalDb = o.rate === undefined ? undefined : digital(circuit, hz, numberOption('rate', o.rate, 44_100, 96_000))
      print(o.json ?? false, { hz, db, ...(digitalDb ? { digitalDb } : {}) }, () =>
        table([
          ['Hz', 'dB', ...(digitalDb ? ['digital dB'] : [])],
          ...hz.map((f, i) => [f.toFixed(1), db[i].toFixed(2), ...(digitalDb ? [digitalDb[i].toFixed(2)] : [])]),
        ]),
      )
    })
}

function digital(circuit: ReturnType<typeof toneStackTransfer>, hz: readonly number[], rate: number): number[] {
  const coefficients = new Float64Array(8)
  bilinear(circuit, rate * OVERSAMPLING, coefficients)
  return hz.map((f) => 20 * Math.log10(digitalMagnitude(coefficients, f, rate * OVERSAMPLING)))
}
