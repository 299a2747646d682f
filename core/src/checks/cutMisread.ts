import { partName, resolveStage, stagesOf } from '@fulgor/core/preset'
import type { Check, Finding } from './finding'
import { db, grouped, listed } from './heard'

/** Hz of the lowest note of a guitar in standard tuning. */
const LOW_E = 82.4
/** dB on the low E under which a low cut does nothing that is heard, and over which it takes the note itself (common practice, no source). */
const NOTHING = 0.3
const TAKEN = 12
/** Hz of a gentle cut that is heard. */
const HEARD_HZ = 70

/** dB that a Butterworth high-pass of so many dB per octave takes at a frequency: 10 log₁₀(1 + (fc/f)²ⁿ), n = slope / 6. */
const lossDb = (hz: number, corner: number, slope: number): number => 10 * Math.log10(1 + Math.pow(corner / hz, slope / 3))

/** A low cut that is read by its frequency alone: a gentle one far too low, a steep one too high. */
export const cutMisread: Check = {
  id: 'cut-misread',
  why: 'The frequency of a cut is where it takes 3 dB; what it takes of a note is told by its slope too. 12 dB per octave at 30 Hz leave the low E as it is and only the rumble is less; 24 dB per octave at 160 Hz take the whole note and leave its overtones. Both are read wrongly from the number alone.',
  find(preset) {
    const hits = preset.snapshots.flatMap((snapshot) =>
      stagesOf(preset.chain).flatMap((stage) => {
        const { on, params } = resolveStage(preset, stage, snapshot.id)
        if (!on || stage.model !== 'eq.parametric' || params.lowSlope === 'off') return []
        const [slope, corner] = [Number(params.lowSlope), Number(params.lowCut)]
        const loss = lossDb(LOW_E, corner, slope)
        const gentle = slope <= 12 && loss < NOTHING
        const steep = slope >= 24 && loss > TAKEN
        return gentle || steep ? [{ stage, snapshot, slope, corner, loss, steep }] : []
      }),
    )
    return grouped(hits, (h) => `${h.stage.id} ${h.corner} ${h.slope}`).map((same): Finding => {
      const [{ stage, slope, corner, loss, steep }] = same
      // 3 dB on the low E for the steep one
      const value = steep ? Math.floor(LOW_E) : HEARD_HZ
      return {
        rule: cutMisread.id,
        severity: 'note',
        where: [stage.id],
        snapshots: same.map((h) => h.snapshot.id),
        hz: LOW_E,
        figure: `${partName(preset, stage.id)} cuts below ${corner} Hz with ${slope} dB per octave: ${db(loss)} dB at the low E (82 Hz) in ${listed(same.map((h) => h.snapshot.name))}.`,
        amount: { value: steep ? loss : NOTHING - loss, unit: 'dB' },
        reason: steep ? 'It takes the lowest note itself, not what lies under it.' : 'It is too gentle and too low to be heard.',
        mends: [
          {
            label: `Cut below ${value} Hz`,
            edits: same.map((h) => ({ type: 'setParam', stage: stage.id, snapshot: h.snapshot.id, param: 'lowCut', value })),
          },
        ],
      }
    })
  },
}
