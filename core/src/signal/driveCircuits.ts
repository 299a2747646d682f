import type { DriveCircuit } from './drive'
import { audioTaper, FULL_SCALE_VOLTS } from './units'

/** A silicon diode pair saturates near 0.6 V, a germanium one near 0.3 V. */
const SILICON = 0.6
const GERMANIUM = 0.3
const VOLTS = FULL_SCALE_VOLTS

/** Pot travel 0–10 as a corner between two frequencies, logarithmic. */
const between = (low: number, high: number, knob: number): number => low * Math.pow(high / low, knob / 10)

/**
 * Diodes in the feedback of the gain stage: what lies above 720 Hz is amplified and clipped, the whole signal passes beside it, then a
 * first-order tone low-pass. The gain runs from 11.8 to 118 (4.7 kΩ, 51 kΩ + 500 kΩ pot), the tone corner from 720 Hz to 7 kHz.
 * Source: Yeh, Abel, Smith, DAFx-07 (simplified circuit).
 */
export const midHump: DriveCircuit = {
  controls: {
    gain: (p) => 1 + (51e3 + 500e3 * audioTaper(Number(p.gain))) / 4.7e3,
    tone: (p) => between(720, 7_000, Number(p.tone)),
  },
  lay(c) {
    c.save()
    c.poles(720, null)
    const clip = c.stage({ out: SILICON / VOLTS })
    c.blend(1, 1)
    const tone = c.poles(null, 7_000)
    return ({ gain, tone: hz }) => {
      clip.ramp(1, gain, VOLTS / SILICON)
      if (hz.moving) tone.put(2, c.pole(hz.value))
    }
  },
}

/**
 * Soft symmetric clip with flat mids beside a share of the clean signal; bass before and treble after the clip, first order.
 * Source: Yeh, Abel, Smith, DAFx-07 (diode clipper), values by common practice.
 */
export const transparent: DriveCircuit = {
  controls: {
    gain: (p) => 1 + 40 * audioTaper(Number(p.gain)),
    bass: (p) => between(600, 20, Number(p.bass)),
    treble: (p) => between(1_200, 16_000, Number(p.treble)),
  },
  lay(c) {
    const bass = c.poles(100, null, VOLTS)
    c.save()
    const clip = c.stage({ out: 2 * SILICON })
    c.blend(0.8, 0.35)
    const treble = c.poles(null, 16_000, 1 / VOLTS)
    return ({ gain, bass: low, treble: high }) => {
      if (low.moving) bass.put(1, c.pole(low.value))
      clip.ramp(1, gain, 1 / (2 * SILICON))
      if (high.moving) treble.put(2, c.pole(high.value))
    }
  },
}

/**
 * Op-amp gain of 2 to 300 into diodes to ground, behind it a low-pass from 475 Hz to 16 kHz.
 * Source: Yeh, Abel, Smith, DAFx-07 (distortion with diodes to ground).
 */
export const hardClip: DriveCircuit = {
  controls: {
    gain: (p) => 2 + 298 * audioTaper(Number(p.gain)),
    filter: (p) => between(16_000, 475, Number(p.filter)),
  },
  lay(c) {
    c.poles(60, 12_000, VOLTS)
    const clip = c.stage({ hardness: 0.8, out: SILICON, couplingHz: 20 })
    const filter = c.poles(null, 16_000, 1.6 / VOLTS)
    return ({ gain, filter: hz }) => {
      clip.ramp(1, gain, 1 / SILICON)
      if (hz.moving) filter.put(2, c.pole(hz.value))
    }
  },
}

/**
 * Two transistors with feedback: an asymmetric soft stage into a hard one whose bias the player can starve.
 * Source: common practice; clip forms as Yeh 2009 (thesis).
 */
export const roundFuzz: DriveCircuit = {
  controls: {
    gain: (p) => 4 + 220 * audioTaper(Number(p.fuzz)),
    bias: (p) => -0.15 - 0.75 * (Number(p.starve) / 10),
    tone: (p) => between(900, 9_000, Number(p.tone)),
  },
  lay(c) {
    c.poles(35, 8_000, VOLTS)
    c.stage({ gain: 1.5 / GERMANIUM, bias: 0.45, couplingHz: 30, out: 1 })
    const second = c.stage({ hardness: 0.55, couplingHz: 45, out: GERMANIUM })
    const tone = c.poles(null, 9_000, 2.2 / VOLTS)
    return ({ gain, bias, tone: hz }) => {
      second.ramp(1, gain, 0.25)
      second.put(3, bias.value)
      if (hz.moving) tone.put(2, c.pole(hz.value))
    }
  },
}

/**
 * Two soft clipping stages one after the other and a tone blend between a low-pass and a high-pass, which dips near 1 kHz in the middle.
 * Source: Yeh 2009 (thesis), values by common practice.
 */
export const wallFuzz: DriveCircuit = {
  controls: {
    gain: (p) => 3 + 90 * audioTaper(Number(p.sustain)),
    tone: (p) => Number(p.tone) / 10,
  },
  lay(c) {
    c.poles(70, 6_000, VOLTS)
    const first = c.stage({ hardness: 0.2, couplingHz: 90, millerHz: 5_000 })
    c.stage({ gain: 22, hardness: 0.2, couplingHz: 90, millerHz: 5_000 })
    const tone = c.scoop(420, 1_850)
    c.poles(null, null, (2.4 * SILICON) / VOLTS)
    return ({ gain, tone: share }) => {
      first.ramp(1, gain, 1 / SILICON)
      tone.ramp(3, share)
    }
  },
}

/** A fuzz whose second stage gets the full-wave rectified signal, an octave up. Source: common practice; Zölzer, DAFX 2011. */
export const octaveFuzz: DriveCircuit = {
  controls: {
    gain: (p) => 2 + 40 * audioTaper(Number(p.fuzz)),
    octave: (p) => Number(p.octave) / 100,
    tone: (p) => between(1_200, 9_000, Number(p.tone)),
  },
  lay(c) {
    c.poles(120, 3_500, VOLTS)
    const first = c.stage({ couplingHz: 60, millerHz: 2_500 })
    c.poles(null, 3_500)
    const rectify = c.rectify(1)
    c.poles(90, 4_500)
    c.stage({ gain: 9, hardness: 0.2, couplingHz: 60, millerHz: 8_000, out: SILICON })
    const tone = c.poles(null, 9_000, 1.5 / VOLTS)
    return ({ gain, octave, tone: hz }) => {
      first.ramp(1, gain, 1 / SILICON)
      rectify.put(1, octave.value)
      if (hz.moving) tone.put(2, c.pole(hz.value))
    }
  },
}

/** One germanium stage behind a small capacitor: high-passed gain of 26 dB, asymmetric clip. Source: common practice, no source. */
export const trebleBooster: DriveCircuit = {
  controls: {
    gain: (p) => 1 + 19 * audioTaper(Number(p.boost)),
    range: (p) => between(2_600, 180, Number(p.range)),
  },
  lay(c) {
    const range = c.poles(1_000, 9_000, VOLTS)
    const clip = c.stage({ bias: 0.35, hardness: 0.3, couplingHz: 40, out: 3 })
    c.poles(null, null, 1 / VOLTS)
    return ({ gain, range: hz }) => {
      if (hz.moving) range.put(1, c.pole(hz.value))
      clip.ramp(1, gain, 1 / 3)
    }
  },
}
