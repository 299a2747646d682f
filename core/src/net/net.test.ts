import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { responseLibrary } from '@fulgor/core/cabinet'
import { blankPreset, createLane, createStage, type ChainNode, type Preset } from '@fulgor/core/preset'
import { NET_HZ, netAt, netCurve, phaseMeter, responseMeter, wholeCurve } from '.'

const reference = JSON.parse(readFileSync(new URL('scipy.reference.json', import.meta.url), 'utf8')) as {
  hz: number[]
  chains: { row: Record<string, number | string>[]; db: number[] }[]
}
const context = {
  quality: 'live' as const,
  responses: responseLibrary(48_000, () => {
    throw new Error('no files')
  }),
}
const meter = responseMeter(context, 48_000)
const preset = (...chain: ChainNode[]): Preset => ({ ...blankPreset('Net'), chain })
const net = (p: Preset, cabinet = true) => netCurve(p, p.snapshots[0].id, 120, cabinet, meter)
const eq = (id: string, params: Record<string, number | string>) => createStage(id, 'eq.parametric', params)

describe('the net curve', () => {
  it('is the sum that SciPy computes, within 0.05 dB, for 200 random rows of equalisers', () => {
    let worst = 0
    for (const { row, db } of reference.chains) {
      const [{ sections }] = net(preset(...row.map((params, i) => eq(`eq${i}`, params))))
      expect(sections).toHaveLength(1)
      reference.hz.forEach((hz, k) => {
        // deeper than 60 dB below nothing is heard
        if (db[k] > -60) worst = Math.max(worst, Math.abs(netAt(sections[0].sum, hz) - db[k]))
      })
    }
    expect(worst).toBeLessThan(0.05)
  }, 120_000)

  it('is split at what clips: before, between and behind', () => {
    const boost = { bell2: 800, gain2: 6, q2: 1 }
    const [{ sections }] = net(
      preset(eq('a', boost), createStage('drive', 'drive.mid-hump'), eq('b', boost), createStage('amp', 'amp.lantern'), eq('c', boost)),
    )
    expect(sections.map((s) => [s.behind, s.before])).toEqual([
      [null, 'drive'],
      ['drive', 'amp'],
      ['amp', null],
    ])
    expect(sections.map((s) => s.contributors.map((c) => c.stage))).toEqual([['a', 'drive'], ['drive', 'b'], ['amp', 'c']])
    expect(netAt(sections[0].contributors[0].db, 800)).toBeCloseTo(6, 1)
  })

  // Yeh, Abel, Smith, DAFx-07: 720 Hz before the diodes; a pole at f loses 10·log10(1 + (720/f)²)
  it('tells what of a drive stands before its own clip: the bass that a mid-hump drive takes out', () => {
    const drive = createStage('drive', 'drive.mid-hump')
    const [{ sections }] = net(preset(drive))
    const [ahead] = sections[0].contributors
    expect(ahead.name).toBe('Mid-hump drive, before its clip')
    for (const hz of [72, 180, 720, 1_440]) {
      const lost = (f: number) => 10 * Math.log10(1 + (720 / f) ** 2)
      expect(netAt(ahead.db, hz) - netAt(ahead.db, 10_000)).toBeCloseTo(lost(10_000) - lost(hz), 1)
    }
    // both parts are the whole
    const whole = meter(drive, 120)
    const apart = NET_HZ.map((_, k) => whole[k] - sections[0].sum[k] - sections[1].sum[k])
    expect(Math.max(...apart) - Math.min(...apart)).toBeLessThan(1e-6)
  })

  it('leaves out what is off, muted, heard over time, or the cabinet where it is not asked for', () => {
    const off = { ...eq('off', { lowGain: 6 }), on: false }
    const chain = [off, createStage('delay', 'delay.digital'), createStage('cab', 'cabinet'), eq('on', { lowGain: 6 })]
    expect(net(preset(...chain))[0].sections[0].contributors.map((c) => c.stage)).toEqual(['cab', 'on'])
    expect(net(preset(...chain), false)[0].sections[0].contributors.map((c) => c.stage)).toEqual(['on'])
    const split: ChainNode = {
      kind: 'parallel',
      id: 'split',
      lanes: [createLane('one', [eq('e1', { lowGain: 3 })]), createLane('two', [eq('e2', { lowGain: -3 })])],
    }
    const ways = net(preset(split, eq('both', { highGain: 4 })))
    expect(ways.map((w) => w.sections[0].contributors.map((c) => c.stage))).toEqual([
      ['e1', 'both'],
      ['e2', 'both'],
    ])
    const muted: ChainNode = { ...split, lanes: [split.lanes[0], { ...split.lanes[1], on: false }] }
    expect(net(preset(muted))).toHaveLength(1)
  })

  it('sums lanes with their phases: two alike are 6.02 dB, one 1 ms later has its first notch at 500 Hz, turned over at none', () => {
    const lanes = (params: Record<string, number | string>, nodes: ChainNode[] = []): Preset => {
      const [a, b] = [createLane('a', nodes), createLane('b', [])]
      return preset(
        { kind: 'parallel', id: 'split', lanes: [a, { ...b, params: { ...b.params, ...params } }] },
        eq('after', { highGain: 4 }),
      )
    }
    const whole = (p: Preset) => wholeCurve(p, p.snapshots[0].id, 120, true, meter, phaseMeter(context, 48_000))
    const sum = (p: Preset) => whole(p)?.sections[0].contributors[0].db ?? []
    expect(netAt(sum(lanes({})), 1_000)).toBeCloseTo(6.02, 2)
    expect(netAt(sum(lanes({ delay: 1 })), 500)).toBeLessThan(-30)
    expect(netAt(sum(lanes({ delay: 1 })), 1_000)).toBeCloseTo(6.02, 1)
    expect(Math.max(...sum(lanes({ polarity: 'inverted' })))).toBeLessThan(-100)
    // 1 and half of it: 20 log₁₀ 1.5
    expect(netAt(sum(lanes({ level: -6.0206 })), 100)).toBeCloseTo(3.52, 2)
    expect(whole(lanes({}))?.sections[0].contributors.map((c) => c.stage)).toEqual(['split', 'after'])
    // what clips in a lane, and what is heard over time, is no curve; without a split there is nothing to sum
    expect(whole(lanes({}, [createStage('amp', 'amp.pier')]))).toBeNull()
    expect(whole(lanes({}, [createStage('d', 'delay.digital')]))).toBeNull()
    expect(whole(preset(eq('a', { highGain: 4 })))).toBeNull()
  })

  it('names what undoes each other, with what is left, and nothing that only lies beside it', () => {
    const [{ sections }] = net(preset(eq('up', { bell2: 800, gain2: 6, q2: 1 }), eq('down', { bell2: 800, gain2: -5, q2: 1 })))
    const [fight] = sections[0].fights
    expect(fight).toMatchObject({ up: 'up', down: 'down' })
    expect(fight.hz).toBeGreaterThan(770)
    expect(fight.hz).toBeLessThan(830)
    expect(fight.upDb + fight.downDb).toBeCloseTo(1, 0)
    const apart = net(preset(eq('up', { bell2: 300, gain2: 6, q2: 2 }), eq('down', { bell3: 5_000, gain3: -5, q3: 2 })))
    expect(apart[0].sections[0].fights).toEqual([])
  })

  it('adds up cuts of three stages at the low end: three Butterworth cuts an octave above are three times 12.3 dB', () => {
    // 10 log₁₀(1 + 2⁴) = 12.30 dB an octave below a second-order corner
    const cut = { lowSlope: '12', lowCut: 126 }
    const [{ sections }] = net(preset(eq('a', cut), eq('b', cut), eq('c', cut)))
    const at63 = sections[0].cascades.find((c) => c.hz === 63)
    expect(at63?.stages).toEqual(['a', 'b', 'c'])
    expect(at63?.db).toBeCloseTo(-36.9, 0)
    expect(net(preset(eq('a', cut), eq('b', cut)))[0].sections[0].cascades).toEqual([])
  })

  it('is read between its points', () => {
    expect(NET_HZ).toHaveLength(480)
    expect(
      netAt(
        NET_HZ.map((hz) => Math.log2(hz)),
        1_000,
      ),
    ).toBeCloseTo(Math.log2(1_000), 6)
  })
})
