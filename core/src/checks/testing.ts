import { catalogue, fromTravel, type StageModel } from '@fulgor/core/catalogue'
import { blankPreset, createLane, createStage, type ChainNode, type ParamMap, type Preset, type Snapshot } from '@fulgor/core/preset'

/** Presets at random, each from its number alone. */
export function randomPreset(number: number): Preset {
  let state = 2_654_435_761 * (number + 1)
  const random = () => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0
    return state / 2 ** 32
  }
  const one = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]
  const models = catalogue.filter((m) => m.id !== 'output')
  const values = (model: StageModel): ParamMap =>
    Object.fromEntries(
      Object.entries(model.params).flatMap(([key, spec]) => {
        if (random() < 0.6 || key === 'response') return []
        return [[key, spec.kind === 'number' ? fromTravel(spec, random()) : one(spec.options).value]]
      }),
    )
  let count = 0
  const stage = () => {
    const model = one(models)
    return { ...createStage(`n${++count}`, model.id, values(model)), on: random() < 0.8 }
  }
  const row = (most: number): ChainNode[] => Array.from({ length: 1 + Math.floor(random() * most) }, stage)
  const split: ChainNode = { kind: 'parallel', id: 'split', lanes: [createLane('l1', row(2)), createLane('l2', row(2))] }
  const chain = [...row(5), ...(random() < 0.3 ? [split] : []), ...row(2), createStage('out', 'output')]
  const snapshots = Array.from({ length: 2 }, (_, i): Snapshot => {
    const own = chain.flatMap((node) => (node.kind === 'stage' && random() < 0.3 ? [[node.id, { on: random() < 0.5 }] as const] : []))
    return { id: `s${i}`, name: `Sound ${i}`, stages: Object.fromEntries(own) }
  })
  return { ...blankPreset(`Random ${number}`), tempo: 60 + Math.floor(random() * 120), chain, snapshots }
}
