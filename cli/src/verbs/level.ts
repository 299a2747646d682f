import type { Command } from 'commander'
import { modelOf } from '@fulgor/core/catalogue'
import { outputMeasures } from '@fulgor/core/measure'
import { applyEdit, resolveStage, targetOf, trimOf } from '@fulgor/core/preset'
import { Renderer, solveLoudness } from '@fulgor/core/render'
import { InputError, numberOption, readPresetFile, readWavFile } from '../input'
import { figure, print, table } from '../output'
import { buildContext, drySignal, qualityOption, withoutSilence, withRoom } from '../sound'
import { renderAll } from './render'

export function addLevel(program: Command): void {
  program
    .command('level')
    .description('loudness of every snapshot, and the trim that meets its target by the place that the preset turns')
    .requiredOption('--preset <file>', 'preset document')
    .requiredOption('--di <file>', 'dry signal')
    .option('--target <lufs>', 'instead of the preset’s own target')
    .option('--quality <name>', 'oversampling of clipping stages: live (4x), high (8x) or highest (16x)', 'high')
    .option('--json', 'one JSON value')
    .action((o: { preset: string; di: string; target?: string; quality: string; json?: boolean }) => {
      const stored = readPresetFile(o.preset)
      const preset = o.target === undefined ? stored : { ...stored, targetLufs: numberOption('target', o.target, -60, 0) }
      const { dry: played, sampleRate } = drySignal(o.di, readWavFile(o.di))
      // as it is rendered: with its tail
      const dry = withRoom(played, sampleRate)
      const trim = trimOf(preset)
      if (!trim) throw new InputError(`${o.preset}: has no Output stage to trim`)
      const { stage, param, spec } = trim
      const renderer = new Renderer(buildContext(sampleRate, qualityOption(o.quality)))
      const rows = preset.snapshots.map((snapshot) => {
        const at = (value: number) => {
          const turned = applyEdit(preset, { type: 'setParam', stage: stage.id, snapshot: snapshot.id, param, value })
          const whole = renderAll(renderer, { preset: turned, snapshot: snapshot.id, dryKey: 'di', dry, sampleRate })
          const { left, right } = withoutSilence(whole, played.length)
          return outputMeasures([left, right], sampleRate)
        }
        const level = Number(resolveStage(preset, stage, snapshot.id).params[param])
        const { integratedLufs, truePeakDbtp } = at(level)
        const targetLufs = targetOf(preset, snapshot)
        const silent = { snapshot: snapshot.name, role: snapshot.role ?? null, targetLufs, integratedLufs, truePeakDbtp }
        if (integratedLufs === null)
          return { ...silent, trimDb: null, outputLevelDb: null, residualLu: null, truePeakAfterDbtp: null, met: false, limited: false }
        const solved = solveLoudness(level, spec, targetLufs, (value) => at(value).integratedLufs, { slope: param === 'master' ? 2 : 1 })
        return {
          ...silent,
          trimDb: solved.value - level,
          outputLevelDb: solved.value,
          residualLu: solved.residual,
          truePeakAfterDbtp: at(solved.value).truePeakDbtp,
          met: Math.abs(solved.residual) <= MET_LU,
          limited: solved.limited,
        }
      })
      const turns = `${spec.label.toLowerCase()} of ${modelOf(stage.model).name}`
      print(o.json ?? false, { targetLufs: preset.targetLufs, turns: { stage: stage.id, param }, snapshots: rows }, () => [
        `Target ${preset.targetLufs.toFixed(1)} LUFS, by the ${turns}`,
        ...table([
          ['snapshot', 'loudness', 'target', 'true peak after', 'change', 'value'],
          ...rows.map((r) => [
            r.snapshot,
            figure(r.integratedLufs, 'LUFS'),
            figure(r.targetLufs, 'LUFS'),
            figure(r.truePeakAfterDbtp, 'dBTP'),
            figure(r.trimDb, param === 'level' ? 'dB' : '', 2),
            figure(r.outputLevelDb, param === 'level' ? 'dB' : '', 2),
          ]),
        ]),
        ...rows.filter((r) => !r.met).map((r) => unmetWords(r, turns)),
      ])
    })
}

/** LU within which a target counts as met. */
const MET_LU = 0.1

function unmetWords(
  row: { snapshot: string; targetLufs: number; residualLu: number | null; outputLevelDb: number | null; limited: boolean },
  turns: string,
): string {
  if (row.residualLu === null) return `${row.snapshot}: silent, so it has no loudness to level`
  const reached = (row.targetLufs + row.residualLu).toFixed(1)
  const why = row.limited
    ? `the ${turns} ends at ${figure(row.outputLevelDb, 'dB')}`
    : 'what follows it is saturated and answers too little'
  return `${row.snapshot}: cannot meet ${row.targetLufs.toFixed(1)} LUFS, it comes to ${reached}; ${why}`
}
