import type { Command } from 'commander'
import { modelOf } from '@fulgor/core/catalogue'
import { outputMeasures } from '@fulgor/core/measure'
import { resolveStage, stagesOf } from '@fulgor/core/preset'
import { Renderer } from '@fulgor/core/render'
import { InputError, numberOption, readPresetFile, readWavFile } from '../input'
import { figure, print, table } from '../output'
import { buildContext, drySignal, qualityOption } from '../sound'
import { renderAll } from './render'

export function addLevel(program: Command): void {
  program
    .command('level')
    .description('loudness of every snapshot and the trim of its Output stage that meets the target')
    .requiredOption('--preset <file>', 'preset document')
    .requiredOption('--di <file>', 'dry signal')
    .option('--target <lufs>', 'instead of the preset’s own target')
    .option('--quality <name>', 'oversampling of clipping stages: live (4x), high (8x) or highest (16x)', 'high')
    .option('--json', 'one JSON value')
    .action((o: { preset: string; di: string; target?: string; quality: string; json?: boolean }) => {
      const preset = readPresetFile(o.preset)
      const target = o.target === undefined ? preset.targetLufs : numberOption('target', o.target, -60, 0)
      const { dry, sampleRate } = drySignal(o.di, readWavFile(o.di))
      const output = stagesOf(preset.chain).findLast((s) => s.model === 'output')
      if (!output) throw new InputError(`${o.preset}: has no Output stage to trim`)
      const spec = modelOf('output').params.level
      const renderer = new Renderer(buildContext(sampleRate, qualityOption(o.quality)))
      const rows = preset.snapshots.map((snapshot) => {
        const sound = renderAll(renderer, { preset, snapshot: snapshot.id, dryKey: 'di', dry, sampleRate })
        const { integratedLufs, truePeakDbtp } = outputMeasures([sound.left, sound.right], sampleRate)
        const level = Number(resolveStage(preset, output, snapshot.id).params.level)
        const wanted = integratedLufs === null ? null : level + target - integratedLufs
        const outputLevelDb = wanted === null || spec.kind !== 'number' ? null : Math.min(spec.max, Math.max(spec.min, wanted))
        const trimDb = outputLevelDb === null ? null : outputLevelDb - level
        const afterDbtp = truePeakDbtp === null || trimDb === null ? null : truePeakDbtp + trimDb
        return { snapshot: snapshot.name, integratedLufs, truePeakDbtp, trimDb, outputLevelDb, truePeakAfterDbtp: afterDbtp }
      })
      print(o.json ?? false, { targetLufs: target, snapshots: rows }, () => [
        `Target ${target.toFixed(1)} LUFS`,
        ...table([
          ['snapshot', 'loudness', 'true peak', 'trim', 'Output level'],
          ...rows.map((r) => [
            r.snapshot,
            figure(r.integratedLufs, 'LUFS'),
            figure(r.truePeakDbtp, 'dBTP'),
            figure(r.trimDb, 'dB', 2),
            figure(r.outputLevelDb, 'dB', 2),
          ]),
        ]),
      ])
    })
}
