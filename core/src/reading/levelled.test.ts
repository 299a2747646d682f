import { expect, it } from 'vitest'
import { responseLibrary } from '@fulgor/core/cabinet'
import { demoPresets } from '@fulgor/core/demo'
import { loudness } from '@fulgor/core/measure'
import { targetOf } from '@fulgor/core/preset'
import { renderPreset } from '@fulgor/core/render'
import { playedRiff, soundOf } from './performance'

const rate = 48_000
const context = { quality: 'live' as const, responses: responseLibrary(rate) }

// the pit's is there to be levelled by the player
const levelled = demoPresets.filter(({ id }) => id !== 'demo-pit-main')

it.each(levelled.flatMap(({ preset }) => preset.snapshots.map((s) => [preset.name, s.name, preset, s] as const)))(
  'the demo is levelled: %s, %s meets its target within 0.15 LU',
  (_, __, preset, snapshot) => {
    const played = playedRiff(preset, snapshot.id)
    if (!played) throw new Error('The demo plays shipped riffs.')
    const { left, right } = renderPreset({ preset, snapshot: snapshot.id, dry: soundOf(played, rate), sampleRate: rate }, context)
    const lufs = loudness(left === right ? [left] : [left, right], rate).integratedLufs ?? -100
    expect(Math.abs(lufs - targetOf(preset, snapshot))).toBeLessThan(0.15)
  },
)
