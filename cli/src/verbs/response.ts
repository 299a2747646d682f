import { DocumentError } from '@fulgor/core/document'
import type { Command } from 'commander'
import { findModel } from '@fulgor/core/catalogue'
import { blankPreset, readPreset, stagesOf, type StageNode } from '@fulgor/core/preset'
import { stageResponse } from '@fulgor/core/render'
import { InputError, numberOption, readJsonFile } from '../input'
import { print, table } from '../output'
import { buildContext } from '../sound'

const RATE = 48_000

function readStages(path: string): StageNode[] {
  const list = readJsonFile(path)
  if (!Array.isArray(list) || list.length === 0) throw new InputError(`${path}: must be a JSON array of stages`)
  const chain = (list as unknown[]).map((stage, i) =>
    typeof stage === 'object' && stage !== null ? { kind: 'stage', id: `stage-${i + 1}`, on: true, params: {}, ...stage } : stage,
  )
  try {
    const stages = stagesOf(readPreset({ ...blankPreset('stages'), chain }).chain)
    const bent = stages.find((s) => !findModel(s.model)?.linear)
    if (bent) throw new InputError(`${path}: stage “${bent.id}” (${bent.model}) is not linear, a response does not describe it`)
    return stages
  } catch (error) {
    if (error instanceof DocumentError) throw new InputError(`${path}: ${error.message.replace(/^chain/, 'stages')}`)
    throw error
  }
}

export function addResponse(program: Command): void {
  program
    .command('response')
    .description('frequency response of linear stages, one by one and in a row (48 kHz)')
    .requiredOption('--stages <file>', 'JSON array of stages as they stand in a preset')
    .option('--points <n>', 'log-spaced points from 20 Hz to 20 kHz', '200')
    .option('--json', 'one JSON value')
    .action((options: { stages: string; points: string; json?: boolean }) => {
      const stages = readStages(options.stages)
      const points = Math.round(numberOption('points', options.points, 2, 5_000))
      const hz = Array.from({ length: points }, (_, i) => 20 * Math.pow(1000, i / (points - 1)))
      const context = buildContext(RATE)
      const row = hz.map(() => [1, 0])
      const each = stages.map((stage) => {
        const response = stage.on ? stageResponse(stage, hz, context, RATE) : { re: hz.map(() => 1), im: hz.map(() => 0) }
        hz.forEach((_, i) => {
          const [a, b] = row[i]
          row[i] = [a * response.re[i] - b * response.im[i], a * response.im[i] + b * response.re[i]]
        })
        return { id: stage.id, model: stage.model, ...polar(response.re, response.im) }
      })
      const whole = polar(
        row.map((r) => r[0]),
        row.map((r) => r[1]),
      )
      print(options.json ?? false, { hz, ...whole, stages: each }, () =>
        table([['Hz', 'dB'], ...hz.map((f, i) => [f.toFixed(1), whole.db[i].toFixed(2)])]),
      )
    })
}

/** dB and unwrapped phase in rad. */
function polar(re: readonly number[], im: readonly number[]): { db: number[]; phaseRad: number[] } {
  let turns = 0
  const phaseRad = re.map((r, i) => {
    const phase = Math.atan2(im[i], r)
    if (i > 0) {
      const before = Math.atan2(im[i - 1], re[i - 1])
      if (phase - before > Math.PI) turns--
      else if (before - phase > Math.PI) turns++
    }
    return phase + 2 * Math.PI * turns
  })
  return { db: re.map((r, i) => 20 * Math.log10(Math.max(1e-12, Math.hypot(r, im[i])))), phaseRad }
}
