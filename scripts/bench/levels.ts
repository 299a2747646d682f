// Figures of levels and time: residual of levelling, loudness against an independent meter, and the table of switches.
import { spawnSync } from 'node:child_process'
import { writeFileSync } from 'node:fs'
import { responseLibrary } from '@fulgor/core/cabinet'
import { modelOf } from '@fulgor/core/catalogue'
import { demoPresets } from '@fulgor/core/demo'
import { writeWav } from '@fulgor/core/formats'
import { loudness } from '@fulgor/core/measure'
import { applyEdit, resolveStage, stagesOf, trimsOf, type Preset } from '@fulgor/core/preset'
import { renderPreset, solveLoudness, switchFigures } from '@fulgor/core/render'
import { shippedRiffs, synthesiseRiff } from '@fulgor/core/riffs'

const RATE = 48_000
const pit = demoPresets[0].preset
const context = { responses: responseLibrary(RATE), quality: 'live' as const }

function random(seed: number): () => number {
  let state = seed
  return () => (state = (state * 16_807) % 2_147_483_647) / 2_147_483_647
}

/** The demo preset with a third of its number parameters anywhere in their ranges. */
function anyPreset(seed: number): Preset {
  const next = random(seed * 7_919 + 11)
  return stagesOf(pit.chain).reduce((preset, stage) => {
    if (stage.model === 'gate' || stage.model === 'output') return preset
    return Object.entries(modelOf(stage.model).params).reduce((p, [param, spec]) => {
      const value = spec.kind === 'number' && param !== 'level' && next() < 0.33 ? spec.min + next() * (spec.max - spec.min) : null
      // an amp that is shut or a band that takes all away leaves nothing to level
      if (value === null || (param === 'master' && value < 1) || (param === 'gain' && value < 0.5)) return p
      return applyEdit(p, { type: 'setParam', stage: stage.id, snapshot: null, param, value })
    }, preset)
  }, pit)
}

const sound = (preset: Preset, snapshot: string, dry: Float32Array) => {
  const { left, right } = renderPreset({ preset, snapshot, dry, sampleRate: RATE }, context)
  return [left, right] as const
}

/** Level all on random presets, each rendered again and metered: by the Output, and by the amp's master. */
function residual(count: number) {
  const dry = synthesiseRiff('open-chords', 'hard', 96, RATE).slice(0, RATE * 3)
  const worst = { level: 0, master: 0 }
  let limited = 0
  for (let seed = 1; seed <= count; seed++) {
    const preset = anyPreset(seed)
    for (const { stage, param, spec } of trimsOf(preset)) {
      const at = (value: number) => applyEdit(preset, { type: 'setParam', stage: stage.id, snapshot: 'strum', param, value })
      const lufs = (value: number) => loudness(sound(at(value), 'strum', dry), RATE).integratedLufs
      const start = Number(resolveStage(preset, stage, 'strum').params[param])
      const target = param === 'level' ? -18 : (lufs(start) ?? 0) - 1
      const found = solveLoudness(start, spec, target, lufs, { slope: param === 'master' ? 2 : 1 })
      if (found.limited) limited++
      else worst[param as 'level'] = Math.max(worst[param as 'level'], Math.abs((lufs(found.value) ?? 0) - target))
    }
  }
  return { ...worst, limited }
}

/** Largest difference of loudness and range to ffmpeg's ebur128, over rendered riffs. */
function againstFfmpeg(count: number, path: string) {
  let lufs = 0
  let range = 0
  for (let i = 0; i < count; i++) {
    const riff = shippedRiffs[i % shippedRiffs.length].id
    const dry = synthesiseRiff(riff, i % 3 === 0 ? 'soft' : 'hard', 80 + (i % 7) * 12, RATE)
    const sides = sound(i % 5 === 0 ? anyPreset(i + 1) : pit, pit.snapshots[i % pit.snapshots.length].id, dry)
    writeFileSync(
      path,
      writeWav(
        sides.map((s) => Float32Array.from(s)),
        RATE,
        32,
      ),
    )
    const { stderr } = spawnSync(
      'ffmpeg',
      ['-hide_banner', '-nostats', '-i', path, '-filter_complex', 'ebur128=framelog=verbose', '-f', 'null', '-'],
      { encoding: 'utf8' },
    )
    const summary = stderr.slice(stderr.lastIndexOf('Summary'))
    const ours = loudness(sides, RATE)
    lufs = Math.max(lufs, Math.abs((ours.integratedLufs ?? 0) - Number(/I:\s+(-?[\d.]+) LUFS/.exec(summary)?.[1])))
    range = Math.max(range, Math.abs((ours.rangeLu ?? 0) - Number(/LRA:\s+(-?[\d.]+) LU/.exec(summary)?.[1])))
  }
  return { lufs, range }
}

/** The table of eight snapshots: time of one thread, worst gap, jump and click. */
function switching() {
  const eight = ['a', 'b'].reduce<Preset>(
    (p, id) => applyEdit(p, { type: 'duplicateSnapshot', source: 'storm', snapshot: id, name: id }),
    pit,
  )
  const varied = applyEdit(eight, { type: 'setParam', stage: 'amp', snapshot: 'a', param: 'bass', value: 7 })
  const dry = synthesiseRiff('open-chords', 'hard', 96, RATE)
  const start = performance.now()
  const ids = varied.snapshots.map((s) => s.id)
  const pairs = ids.flatMap((from) => [
    ...switchFigures(
      varied,
      from,
      ids.filter((to) => to !== from),
      dry,
      RATE,
      context,
    ),
  ])
  const ms = performance.now() - start
  const worst = (of: (p: (typeof pairs)[number]) => number | null) => Math.max(...pairs.map((p) => of(p) ?? -Infinity))
  return {
    pairs: pairs.length,
    ms,
    gapDb: worst((p) => p.gapDb),
    jumpLu: worst((p) => Math.abs(p.jumpLu ?? 0)),
    clickDbfs: worst((p) => p.clickDbfs),
  }
}

const [what, path] = process.argv.slice(2)
const result = what === 'residual' ? residual(50) : what === 'ffmpeg' ? againstFfmpeg(100, path) : switching()
console.log(JSON.stringify(result))
