import type { Command } from 'commander'
import { findModel, parseValue, type StageModel } from '@fulgor/core/catalogue'
import { GUITARS, playOn, voiceOf, type GuitarProfile } from '@fulgor/core/guitar'
import { createStage, type ParamMap } from '@fulgor/core/preset'
import { ownUnity, stageDynamics, stageFeel } from '@fulgor/core/render'
import { InputError } from '../input'
import { figure, print, table } from '../output'
import { buildContext } from '../sound'

const RATE = 48_000

function readSettings(model: StageModel, pairs: readonly string[]): ParamMap {
  return Object.fromEntries(
    pairs.map((pair) => {
      const [key, ...rest] = pair.split('=')
      const spec = Object.hasOwn(model.params, key) ? model.params[key] : undefined
      if (!spec || rest.length === 0)
        throw new InputError(`--set: “${pair}” must be one of ${Object.keys(model.params).join(', ')} with = and a value`)
      const parsed = parseValue(spec, rest.join('='))
      if (!parsed.ok) throw new InputError(`--set ${key}: ${parsed.reason}`)
      return [key, parsed.value]
    }),
  )
}

function guitarOf(name: string): GuitarProfile {
  const found = GUITARS.find((g) => g.name.toLowerCase() === name.toLowerCase())
  if (!found) throw new InputError(`--guitar: there is no “${name}”; there are ${GUITARS.map((g) => g.name).join(', ')}`)
  return found
}

/** Strummed open chords of a guitar, at its level. */
function strum(guitar: GuitarProfile, strength: 'soft' | 'hard'): Float32Array {
  const riff = playOn('open-chords', voiceOf(guitar, guitar.positions[0]), { strength, bpm: 120 }, RATE)
  return riff.subarray(0, 4 * RATE)
}

export function addFeel(program: Command): void {
  program
    .command('feel')
    .argument('<model>', 'an amp, a drive or any stage, as the catalogue names it')
    .description('where a stage breaks up, its level and distortion over the input, and what it leaves of the hand’s dynamics')
    .option('--set <key=value...>', 'parameters; others are at their defaults')
    .option('--guitar <name>', 'whose strums the dynamics are measured with', GUITARS[0].name)
    .option('--json', 'one JSON value')
    .action((id: string, o: { set?: string[]; guitar: string; json?: boolean }) => {
      const model = findModel(id)
      if (!model) throw new InputError(`feel: there is no model “${id}”; see the verb catalogue`)
      const guitar = guitarOf(o.guitar)
      const stage = createStage('stage', id, readSettings(model, o.set ?? []))
      const context = buildContext(RATE, 'live')
      const { inputDb, outputDb, thd, edges } = stageFeel(stage, context, RATE)
      const [soft, hard] = [strum(guitar, 'soft'), strum(guitar, 'hard')]
      const result = {
        model: id,
        params: stage.params,
        guitar: guitar.name,
        edges: edges.map((e) => ({ thdPercent: e.thd, inputDbfs: e.inputDb })),
        curve: inputDb.map((input, k) => ({ inputDbfs: input, outputRmsDbfs: outputDb[k], thdPercent: thd[k] })),
        dynamicsLu: stageDynamics(stage, soft, hard, context, RATE),
        ownUnityDb: ownUnity(stage, hard, context, RATE),
      }
      print(o.json ?? false, result, () => [
        `${model.name}, ${Object.entries(stage.params)
          .map(([key, value]) => `${key} ${value}`)
          .join(', ')}`,
        ...edges.map(
          (e) =>
            `${String(e.thd).padStart(3)} % distortion from ${e.inputDb === null ? 'no level below full scale' : figure(e.inputDb, 'dBFS')}`,
        ),
        `from soft to hard on a ${guitar.name.toLowerCase()}: ${figure(result.dynamicsLu, 'LU')}`,
        `as loud as its input at a level of ${figure(result.ownUnityDb, 'dB')}`,
        ...table([
          ['input, dBFS', 'output RMS, dBFS', 'THD, %'],
          ...inputDb.map((input, k) => [input.toFixed(0), outputDb[k].toFixed(1), thd[k].toFixed(2)]),
        ]),
      ])
    })
}
