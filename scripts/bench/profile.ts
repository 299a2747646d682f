/**
 * CPU time of every block of a chain, µs per 128 frames: `profile WHICH QUALITY [SECONDS]`, one process a measurement. Each stage runs by itself on
 * what really reaches it; `whole` is the engine with all of them.
 */
import { responseLibrary } from '@fulgor/core/cabinet'
import { dearestChain, demoPresets } from '@fulgor/core/demo'
import { asPlayed, resolveValues, stripOf, type ChainNode, type Preset } from '@fulgor/core/preset'
import { Engine, Renderer, type Sound } from '@fulgor/core/render'

import { synthesiseRiff } from '@fulgor/core/riffs'
import { CHUNK, createBlock, Machine, type Quality } from '@fulgor/core/signal'
import { buildNode } from '../../core/src/render/chain'

const RATE = 48_000
const BLOCK = 128
const [which = 'demo', quality = 'live', length = '8'] = process.argv.slice(2)
const seconds = Number(length)
const presets: Readonly<Record<string, () => Preset>> = {
  demo: () => demoPresets[0].preset,
  dearest: () => ({ ...demoPresets[0].preset, chain: dearestChain, snapshots: [] }),
  wall: () => {
    const wall = demoPresets.find((d) => d.id === 'demo-tide-wall')
    if (!wall) throw new Error('The demo has no wall preset.')
    return wall.preset
  },
}
const preset = asPlayed(presets[which]())
const snapshot = which === 'demo' ? 'storm' : (preset.snapshots[0]?.id ?? null)
const context = { quality: quality as Quality, responses: responseLibrary(RATE) }
const values = resolveValues(preset, snapshot)
const riff = synthesiseRiff(preset.riff.id, preset.riff.strength, preset.tempo, RATE)
const frames = Math.floor((seconds * RATE) / BLOCK) * BLOCK
const dry = Float32Array.from({ length: frames }, (_, n) => riff[n % riff.length])

/** µs of CPU for a block of what `run` does over all frames; the best of five, behind one to warm up. */
function cost(run: () => void): number {
  run()
  let best = Infinity
  for (let turn = 0; turn < 5; turn++) {
    const before = process.cpuUsage()
    run()
    const { user, system } = process.cpuUsage(before)
    best = Math.min(best, user + system)
  }
  return best / (frames / BLOCK)
}

/** Ten biquads in plain f64: what the same core does with the same loop on any day, to set the other figures against. */
function peer(): number {
  const data = Float64Array.from(dry)
  return cost(() => {
    for (let section = 0; section < 10; section++) {
      let [z1, z2] = [0, 0]
      for (let n = 0; n < data.length; n++) {
        const x = data[n] + 1e-18
        const y = 0.9 * x + z1
        z1 = -1.7 * x + 1.7 * y + z2
        z2 = 0.81 * x - 0.72 * y
        data[n] = y
      }
    }
    data.set(dry)
  })
}

/** µs of CPU for a block of the first half second of all, before anything has run. */
function coldCost(): number {
  const count = Math.floor(RATE / 2 / BLOCK) * BLOCK
  const engine = new Engine({ chain: preset.chain, values }, context, RATE)
  const before = process.cpuUsage()
  play(engine, dry.subarray(0, count))
  const { user, system } = process.cpuUsage(before)
  return (user + system) / (count / BLOCK)
}

const left = new Float32Array(BLOCK)
const right = new Float32Array(BLOCK)
function play(engine: Engine, sound: Float32Array): void {
  for (let at = 0; at < sound.length; at += BLOCK) {
    left.set(sound.subarray(at, at + BLOCK))
    right.fill(0)
    engine.process(left, right, BLOCK)
  }
}

const cold = coldCost()
const taps = new Map<string, Sound>()
const start: Sound = { left: Float32Array.from(dry), right: Float32Array.from(dry), stereo: false }
const rendering = new Renderer(context, 0).render({ preset, snapshot, dryKey: '', dry, sampleRate: RATE })
for (let next = rendering.next(); !next.done; next = rendering.next()) taps.set(next.value.stage, next.value.sound)

const found: [string, number][] = []
function stages(nodes: readonly ChainNode[], input: Sound): Sound {
  let sound = input
  for (const node of nodes) {
    if (node.kind === 'parallel') for (const lane of node.lanes) stages([...lane.nodes, stripOf(lane)], sound)
    else if (values[node.id].on) found.push([`${node.id} ${node.model}`, stageCost(node, sound)])
    sound = taps.get(node.id) ?? sound
  }
  return sound
}

function stageCost(node: ChainNode, input: Sound): number {
  const machine = new Machine()
  const runner = buildNode(node, context, RATE, machine)
  runner.apply(values, true)
  const block = createBlock(machine)
  return cost(() => {
    for (let at = 0; at < frames; at += CHUNK) {
      block.stereo = input.stereo
      for (let i = 0; i < CHUNK; i++) block.left[i] = input.left[at + i]
      if (input.stereo) for (let i = 0; i < CHUNK; i++) block.right[i] = input.right[at + i]
      runner.process(block)
    }
  })
}

const engine = new Engine({ chain: preset.chain, values }, context, RATE)
const whole = cost(() => play(engine, dry))
// tails have ended by then
play(engine, new Float32Array(12 * RATE))
const zeros = new Float32Array(frames)
const silence = cost(() => play(engine, zeros))
const before = peer()
stages(preset.chain, start)
console.log(JSON.stringify({ whole, cold, silence, peer: Math.min(before, peer()), stages: found }))
