import { circuit } from './drive'
import { FULL_SCALE_VOLTS } from '../base/units'

/** A silicon diode pair saturates near 0.6 V, a germanium one near 0.3 V. */
const SILICON = 0.6
const GERMANIUM = 0.3
const VOLTS = FULL_SCALE_VOLTS
/*
 * What leaves each circuit is scaled so that at its defaults a strum of a fat single coil leaves it as loud as it came in: its level
 * pot then stands at noon for unity.
 */
/** Output capacitor: an uneven clip leaves no direct current behind it, Hz. */
const OUT = 15

/**
 * Pot travel 0–10 as a corner or a gain between two values, even in octaves or dB. Pots of pedals are tapered for a part of this; here
 * every mark of the travel does as much as any other.
 */
const between = (low: number, high: number, knob: number): number => low * Math.pow(high / low, knob / 10)

/**
 * Diodes in the feedback of the gain stage: what lies above 720 Hz is amplified and clipped, the whole signal passes beside it, then a
 * first-order tone low-pass. The circuit's gain reaches 118 (4.7 kΩ, 51 kΩ + 500 kΩ pot) and begins at 11.8, of which a guitar is
 * distorted at once; this one begins at 2. The tone corner runs from 720 Hz to 7 kHz.
 * Source: Yeh, Abel, Smith, DAFx-07 (simplified circuit).
 */
export const midHump = circuit<{ gain: number; tone: number }>()({
  controls: {
    gain: (p) => between(2, 118, p.gain),
    tone: (p) => between(720, 7_000, p.tone),
  },
  lay(c) {
    c.save()
    c.poles(720, null)
    const clip = c.stage({ out: SILICON / VOLTS })
    c.blend(1, 1)
    const tone = c.poles(OUT, 7_000, 0.345)
    return ({ gain, tone: hz }) => {
      clip.ramp('gain', gain, VOLTS / SILICON)
      if (hz.moving) tone.put('lowPass', c.pole(hz.value))
    }
  },
})

/**
 * Soft symmetric clip with flat mids beside a share of the clean signal; bass before and treble after the clip, first order.
 * Source: Yeh, Abel, Smith, DAFx-07 (diode clipper), values by common practice.
 */
export const transparent = circuit<{ gain: number; bass: number; treble: number }>()({
  controls: {
    gain: (p) => between(0.9, 60, p.gain),
    bass: (p) => between(600, 20, p.bass),
    treble: (p) => between(1_200, 16_000, p.treble),
  },
  lay(c) {
    const bass = c.poles(100, null, VOLTS)
    c.save()
    const clip = c.stage({ out: 2 * SILICON })
    c.blend(0.8, 0.35)
    const treble = c.poles(OUT, 16_000, 0.32 / VOLTS)
    return ({ gain, bass: low, treble: high }) => {
      if (low.moving) bass.put('highPass', c.pole(low.value))
      clip.ramp('gain', gain, 1 / (2 * SILICON))
      if (high.moving) treble.put('lowPass', c.pole(high.value))
    }
  },
})

/**
 * Op-amp gain up to 200 into diodes to ground, behind it a low-pass from 475 Hz to 16 kHz.
 * Source: Yeh, Abel, Smith, DAFx-07 (distortion with diodes to ground).
 */
export const hardClip = circuit<{ gain: number; filter: number }>()({
  controls: {
    gain: (p) => between(0.6, 200, p.gain),
    filter: (p) => between(16_000, 475, p.filter),
  },
  lay(c) {
    c.poles(60, 12_000, VOLTS)
    const clip = c.stage({ hardness: 0.8, out: SILICON, couplingHz: 20 })
    const filter = c.poles(null, 16_000, 0.28 / VOLTS)
    return ({ gain, filter: hz }) => {
      clip.ramp('gain', gain, 1 / SILICON)
      if (hz.moving) filter.put('lowPass', c.pole(hz.value))
    }
  },
})

/**
 * Two transistors with feedback: an asymmetric soft stage into a hard one whose bias the player can starve.
 * Source: common practice; clip forms as Yeh 2009 (thesis).
 */
export const roundFuzz = circuit<{ fuzz: number; starve: number; tone: number }>()({
  controls: {
    gain: (p) => between(0.6, 190, p.fuzz),
    bias: (p) => -0.12 - 0.75 * (p.starve / 10),
    tone: (p) => between(900, 9_000, p.tone),
  },
  lay(c) {
    c.poles(35, 8_000, VOLTS)
    c.stage({ gain: 0.35 / GERMANIUM, bias: -0.05, couplingHz: 30, out: 1 })
    const second = c.stage({ hardness: 0.55, couplingHz: 45, out: GERMANIUM })
    const tone = c.poles(null, 9_000, 0.57 / VOLTS)
    return ({ gain, bias, tone: hz }) => {
      second.ramp('gain', gain)
      second.ramp('bias', bias)
      second.put('biasAtRest', bias.value)
      if (hz.moving) tone.put('lowPass', c.pole(hz.value))
    }
  },
})

/**
 * Two soft clipping stages one after the other and a tone blend between a low-pass and a high-pass, which dips near 1 kHz in the middle.
 * Source: Yeh 2009 (thesis), values by common practice.
 */
export const wallFuzz = circuit<{ sustain: number; tone: number }>()({
  controls: {
    gain: (p) => between(0.09, 40, p.sustain),
    tone: (p) => p.tone / 10,
  },
  lay(c) {
    c.poles(70, 6_000, VOLTS)
    const first = c.stage({ hardness: 0.2, couplingHz: 90, millerHz: 5_000 })
    c.stage({ gain: 8, hardness: 0.2, couplingHz: 90, millerHz: 5_000 })
    const tone = c.scoop(420, 1_850)
    c.poles(null, null, (0.85 * SILICON) / VOLTS)
    return ({ gain, tone: share }) => {
      first.ramp('gain', gain, 1 / SILICON)
      tone.ramp('share', share)
    }
  },
})

/**
 * A fuzz whose second stage gets the full-wave rectified signal, an octave up; the two halves of the rectifier are never quite alike,
 * so that a part of the fundamental stays. Source: common practice; Zölzer, DAFX 2011.
 */
export const octaveFuzz = circuit<{ fuzz: number; octave: number; tone: number }>()({
  controls: {
    gain: (p) => between(0.3, 40, p.fuzz),
    octave: (p) => (0.93 * p.octave) / 100,
    tone: (p) => between(1_200, 9_000, p.tone),
  },
  lay(c) {
    c.poles(120, 3_500, VOLTS)
    const first = c.stage({ couplingHz: 60, millerHz: 2_500 })
    c.poles(null, 3_500)
    const rectify = c.rectify(1)
    c.poles(90, 4_500)
    c.stage({ gain: 3, hardness: 0.2, couplingHz: 60, millerHz: 8_000, out: SILICON })
    const tone = c.poles(null, 9_000, 0.44 / VOLTS)
    return ({ gain, octave, tone: hz }) => {
      first.ramp('gain', gain, 1 / SILICON)
      rectify.put('share', octave.value)
      if (hz.moving) tone.put('lowPass', c.pole(hz.value))
    }
  },
})

/** One germanium stage behind a small capacitor: high-passed gain of up to 28 dB, asymmetric clip. Source: common practice, no source. */
export const trebleBooster = circuit<{ boost: number; range: number }>()({
  controls: {
    gain: (p) => between(1.6, 26, p.boost),
    range: (p) => between(1_800, 120, p.range),
  },
  lay(c) {
    const range = c.poles(1_000, 9_000, VOLTS)
    const clip = c.stage({ bias: 0.2, hardness: 0.3, couplingHz: 40, out: 4 })
    c.poles(null, null, 0.9 / VOLTS)
    return ({ gain, range: hz }) => {
      if (hz.moving) range.put('highPass', c.pole(hz.value))
      clip.ramp('gain', gain, 1 / 4)
    }
  },
})
