import { Fft } from '@fulgor/core/signal'
import { pistonDirectivity } from './bessel'
import {
  coneRings,
  driverOf,
  driverTransfer,
  geometryOf,
  SPEED_OF_SOUND,
  voicesOf,
  type CabDesign,
  type CabGeometry,
  type Ring,
} from './loudspeaker'
import { microphoneOf, type MicrophoneType } from './microphones'
import { Transfer } from './transfer'

/** Where a simulated microphone stands and what it hears besides the driver. */
export interface MicPlace {
  readonly type: string
  /** mm from the driver's axis. */
  readonly offset: number
  /** Degrees around the axis: 0 to the right of the centre, 90 above it. */
  readonly bearing: number
  /** mm before the grille cloth. */
  readonly distance: number
  /** Degrees that it is turned towards the axis. */
  readonly angle: number
  /** Early reflections by floor and front wall, percent of a hard surface. */
  readonly reflections: number
  /** Level of the room's reverberation, percent of a live room. */
  readonly room: number
  /** What room; a small one by itself. */
  readonly roomKind?: RoomKind
  /** dB of the room's sound above 6 kHz. */
  readonly air?: number
  /** Driver that it stands at, in a box with two kinds. */
  readonly stands?: 'first' | 'second'
}

/** Seconds after which a room is 60 dB down, of its first reverberation, and how fast its top dies. Common practice, no source. */
export const ROOMS = {
  small: { rt60: 0.32, from: 0.009, topSeconds: 0.12, gain: 1 },
  damped: { rt60: 0.16, from: 0.006, topSeconds: 0.05, gain: 0.8 },
  hall: { rt60: 1.4, from: 0.021, topSeconds: 0.45, gain: 0.55 },
} as const
export type RoomKind = keyof typeof ROOMS
/** From here on a room's air band counts, Hz. */
const AIR_HZ = 6_000

/** Azimuths over half of each ring; the other half is its mirror image. */
const AZIMUTHS = 12
/** Above this nothing is computed; the drivers end far below. */
const TOP_HZ = 18_000
interface Cone {
  readonly rings: readonly Ring[]
  readonly driver: Transfer
  /** How the cone moves as a whole, for what is heard from afar. */
  readonly whole: Transfer
  readonly geometry: CabGeometry
}

const cones = new Map<string, Cone>()

function coneOf(cab: CabDesign, bins: number, binHz: number): Cone {
  const key = `${cab.driver} ${cab.size} ${cab.drivers} ${cab.back} ${bins} ${binHz}`
  let cone = cones.get(key)
  if (!cone) {
    const rings = coneRings(cab, bins, binHz)
    const whole = new Transfer(bins, binHz)
    const area = rings.reduce((sum, r) => sum + r.radius * r.width, 0)
    for (let k = 0; k < bins; k++) {
      whole.re[k] = rings.reduce((sum, r) => sum + r.motion.re[k] * r.radius * r.width, 0) / area
      whole.im[k] = rings.reduce((sum, r) => sum + r.motion.im[k] * r.radius * r.width, 0) / area
    }
    cone = { rings, driver: driverTransfer(cab, bins, binHz), whole, geometry: geometryOf(cab) }
    cones.set(key, cone)
    if (cones.size > 6) cones.delete([...cones.keys()][0])
  }
  return cone
}

/**
 * Impulse response of a loudspeaker in its box, picked up by one microphone: the sum of the waves from all rings of the cone, each
 * with its path, its own motion, and the microphone's pattern and proximity effect for that path (Rayleigh's integral), plus the other
 * drivers, the wave from an open back, early reflections and the room. Time zero is the coil's move; the wave needs 2.915 µs a mm.
 * Normalised to unity in the mean of 200 Hz–2 kHz, as by a preamp.
 * Source: Rayleigh, The Theory of Sound, 1896, §278; Beranek, Acoustics, 1954, ch. 4 and 7; Allen & Berkley, JASA 1979 (image sources).
 * @returns `frames` taps
 * @throws RangeError for an unknown driver or microphone
 */
export function micResponse(cab: CabDesign, place: MicPlace, sampleRate: number, frames: number): Float64Array {
  const size = sampleRate > 50_000 ? 16_384 : 8_192
  const binHz = sampleRate / size
  const bins = size / 2 + 1
  const top = Math.min(bins - 1, Math.floor(TOP_HZ / binHz))
  const voices = voicesOf(cab, place.stands)
  const cone = coneOf({ ...cab, driver: voices.near }, bins, binHz)
  const mic = microphoneOf(place.type)
  const sum = new Transfer(bins, binHz)
  sum.re.fill(0)
  addCone(sum, cone, mic, place, top)
  focus(sum, cone.geometry, place)
  addScatter(sum, cone, mic, place, top)
  addDistant(
    sum,
    cone,
    mic,
    place,
    cab,
    voices.others.map((kind) => kind === voices.near),
    top,
  )
  times(sum, cone.driver)
  const strange = voices.others.find((kind) => kind !== voices.near)
  if (strange !== undefined) {
    const other = coneOf({ ...cab, driver: strange }, bins, binHz)
    const theirs = new Transfer(bins, binHz)
    theirs.re.fill(0)
    addDistant(
      theirs,
      other,
      mic,
      place,
      { ...cab, back: 'closed' },
      voices.others.map((kind) => kind === strange),
      top,
      false,
    )
    times(theirs, other.driver)
    for (let k = 0; k < bins; k++) {
      sum.re[k] += theirs.re[k]
      sum.im[k] += theirs.im[k]
    }
  }
  sideLoss(sum, mic, place, top)
  mic.voice(sum)
  const re = new Float64Array(size)
  const im = new Float64Array(size)
  for (let k = 1; k <= top; k++) {
    // the last octave fades out, so that the edge of the band does not ring
    const fade = k * binHz > TOP_HZ / 1.5 ? 0.5 + 0.5 * Math.cos((Math.PI * (k * binHz - TOP_HZ / 1.5)) / (TOP_HZ - TOP_HZ / 1.5)) : 1
    re[k] = re[size - k] = sum.re[k] * fade
    im[k] = sum.im[k] * fade
    im[size - k] = -im[k]
  }
  const scale = 1 / meanGain(sum, 200, 2_000)
  new Fft(size).inverse(re, im)
  const taps = new Float64Array(frames)
  for (let n = 0; n < Math.min(frames, size); n++) taps[n] = re[n] * scale
  if (place.room > 0) addRoom(taps, place, sampleRate)
  return taps
}

/** Seconds until the first sound of the cone reaches the microphone. */
export function arrivalSeconds(cab: CabDesign, { offset, distance }: Pick<MicPlace, 'offset' | 'distance'>): number {
  const rings = coneRings(cab, 1, 1)
  const { capRadius } = geometryOf(cab)
  const { waveSpeed } = driverOf(cab.driver)
  const arrivals = rings.map((r) => {
    const path = Math.hypot(offset / 1000 - r.radius, distance / 1000 - r.z)
    return path / SPEED_OF_SOUND + Math.max(0, r.radius - capRadius) / waveSpeed
  })
  return Math.min(...arrivals)
}

function meanGain({ re, im, binHz }: Transfer, from: number, to: number): number {
  let power = 0
  let count = 0
  for (let k = Math.ceil(from / binHz); k * binHz <= to; k++, count++) power += re[k] * re[k] + im[k] * im[k]
  return Math.sqrt(power / count)
}

function times(target: Transfer, by: Transfer): void {
  for (let k = 0; k < target.bins; k++) {
    const r = target.re[k] * by.re[k] - target.im[k] * by.im[k]
    target.im[k] = target.re[k] * by.im[k] + target.im[k] * by.re[k]
    target.re[k] = r
  }
}

/** The near driver, ring by ring; lengths in m, the microphone over the positive x axis. */
function addCone(sum: Transfer, { rings }: Cone, mic: MicrophoneType, place: MicPlace, top: number): void {
  const { binHz } = sum
  const x = place.offset / 1000
  const z = place.distance / 1000
  const turn = (place.angle * Math.PI) / 180
  const axisX = -Math.sin(turn)
  const axisZ = -Math.cos(turn)
  const waveNumber = (2 * Math.PI * binHz) / SPEED_OF_SOUND
  const near = new Float64Array(2 * (top + 1))
  const close = new Float64Array(2 * (top + 1))
  for (const { radius, width, z: depth, motion, topHz } of rings) {
    const last = Math.min(top, Math.ceil(topHz / binHz))
    near.fill(0)
    close.fill(0)
    for (let a = 0; a < AZIMUTHS; a++) {
      const phi = (Math.PI * (a + 0.5)) / AZIMUTHS
      const dx = radius * Math.cos(phi) - x
      const dy = radius * Math.sin(phi)
      const dz = depth - z
      const path = Math.hypot(dx, dy, dz)
      const cos = (dx * axisX + dz * axisZ) / path
      const share = (radius * width) / (AZIMUTHS * path)
      const plain = share * (mic.pressure + mic.gradient * cos)
      const gradient = (share * mic.gradient * cos) / path
      addPath(near, close, plain, gradient, waveNumber * path, last)
    }
    for (let k = 1; k <= last; k++) {
      // 1/(jk): the gradient's share that grows towards low frequencies
      const gr = near[2 * k] + close[2 * k + 1] / (waveNumber * k)
      const gi = near[2 * k + 1] - close[2 * k] / (waveNumber * k)
      sum.re[k] += gr * motion.re[k] - gi * motion.im[k]
      sum.im[k] += gr * motion.im[k] + gi * motion.re[k]
    }
  }
}

/** Adds exp(−j·k·phase) at two weights, by rotation from bin to bin. */
function addPath(near: Float64Array, close: Float64Array, plain: number, gradient: number, phase: number, top: number): void {
  const c = Math.cos(phase)
  const s = -Math.sin(phase)
  let re = 1
  let im = 0
  for (let k = 0; k <= top; k++) {
    near[2 * k] += plain * re
    near[2 * k + 1] += plain * im
    close[2 * k] += gradient * re
    close[2 * k + 1] += gradient * im
    const r = re * c - im * s
    im = re * s + im * c
    re = r
  }
}

const STRIDE = 16

/** Directivity of what moves as one at a frequency, and what was lost on the way. */
function farLevel({ coneRadius }: CabGeometry, hz: number, sinOff: number, lowPassHz: number | undefined): number {
  // less of the cone moves as one, the higher the note
  const radius = coneRadius / (1 + hz / 2_500)
  const muffle = lowPassHz === undefined ? 1 : 1 / (1 + (hz / lowPassHz) ** 2)
  return muffle * pistonDirectivity(((2 * Math.PI * hz) / SPEED_OF_SOUND) * radius * sinOff)
}

interface Distant {
  /** Seen from the microphone, m. */
  readonly x: number
  readonly y: number
  readonly z: number
  /** Path where it is longer than the straight line, m. */
  readonly path?: number
  readonly gain: number
  readonly lowPassHz?: number
}

/** Other drivers, the open back, mirror images by floor and wall: points far enough to be one source each. */
function addDistant(
  sum: Transfer,
  cone: Cone,
  mic: MicrophoneType,
  place: MicPlace,
  cab: CabDesign,
  sounding: readonly boolean[],
  top: number,
  near = true,
): void {
  const { geometry, whole } = cone
  const bearing = (place.bearing * Math.PI) / 180
  const mx = (place.offset / 1000) * Math.cos(bearing)
  const my = (place.offset / 1000) * Math.sin(bearing)
  const mz = place.distance / 1000
  const turn = (place.angle * Math.PI) / 180
  const axis = [-Math.sin(turn) * Math.cos(bearing), -Math.sin(turn) * Math.sin(bearing), -Math.cos(turn)] as const
  const others = geometry.others.filter((_, i) => sounding[i])
  const places: (readonly [number, number])[] = near ? [[0, 0], ...others] : [...others]
  const sources: Distant[] = others.map(([x, y]) => ({ x: x - mx, y: y - my, z: -mz, gain: 1 }))
  if (cab.back === 'open') {
    const around = geometry.boxDepth + geometry.halfWidth + Math.hypot(geometry.halfWidth, mz)
    for (const [x, y] of places) sources.push({ x: x - mx, y: y - my, z: -mz - 0.1, path: around, gain: -0.8, lowPassHz: 1_400 })
  }
  if (place.reflections > 0) {
    const gain = 0.85 * (place.reflections / 100)
    for (const [x, y] of places) {
      sources.push({ x: x - mx, y: -2 * geometry.height - y - my, z: -mz, gain, lowPassHz: 5_500 })
      // the wall before the cabinet, behind the microphone, 1.9 m away
      sources.push({ x: x - mx, y: y - my, z: 2 * 1.9 - mz, gain: 0.6 * gain, lowPassHz: 3_500 })
    }
  }
  const area = geometry.coneRadius ** 2 / 2
  for (const { x, y, z, path, gain, lowPassHz } of sources) {
    const straight = Math.hypot(x, y, z)
    const length = path ?? straight
    const cos = (x * axis[0] + y * axis[1] + z * axis[2]) / straight
    const sinOff = Math.hypot(x, y) / straight
    const phase = (2 * Math.PI * sum.binHz * length) / SPEED_OF_SOUND
    const c = Math.cos(phase)
    const s = -Math.sin(phase)
    const pressure = mic.pressure + mic.gradient * cos
    let re = 1
    let im = 0
    let level = 0
    let step = 0
    for (let k = 0; k <= top; k++) {
      // directivity moves slowly over frequency: straight lines between every 16th bin
      if (k % STRIDE === 0) {
        const next = farLevel(geometry, (k + STRIDE) * sum.binHz, sinOff, lowPassHz)
        if (k === 0) level = farLevel(geometry, sum.binHz, sinOff, lowPassHz)
        step = (next - level) / STRIDE
      }
      level += step
      const here = ((area * gain) / length) * level
      const gradient = k === 0 ? 0 : (-mic.gradient * cos) / (phase * k)
      const r = here * (re * pressure - im * gradient)
      const i = here * (im * pressure + re * gradient)
      sum.re[k] += r * whole.re[k] - i * whole.im[k]
      sum.im[k] += r * whole.im[k] + i * whole.re[k]
      const next = re * c - im * s
      im = re * s + im * c
      re = next
    }
  }
}

/**
 * The hollow of the cone and its cap throw the top forward: a microphone that leaves the axis loses 3 to 6 dB from 3 kHz up by the cap's
 * edge, and little more beyond, where rim and grille scatter (common practice, no source; the beam of a piston as wide as the hollow:
 * Beranek, Acoustics, 1954, ch. 4).
 */
function focus(sum: Transfer, { coneDepth, grilleGap }: CabGeometry, { offset, distance }: MicPlace): void {
  const away = Math.atan2(offset, distance + 1000 * (coneDepth + grilleGap))
  const lost = Math.pow(10, (-FOCUS_DB * (1 - Math.exp(-((away / FOCUS_ANGLE) ** 2)))) / 20)
  // two shelves of first order: what comes out stays causal
  const half = Math.sqrt(lost)
  sum.times(FOCUS_HZ, [1, half, 0], [1, 1, 0]).times(FOCUS_HZ, [1, half, 0], [1, 1, 0])
}

/**
 * What rim, basket and grille scatter of the cap's sound, from the rim towards the microphone. Far off the axis little else is
 * left of the top.
 */
function addScatter(sum: Transfer, { rings, geometry }: Cone, mic: MicrophoneType, { offset, distance }: MicPlace, top: number): void {
  const path = Math.hypot(geometry.coneRadius - offset / 1000, distance / 1000 + geometry.grilleGap)
  // the rim is a line: what it scatters falls with the root of the path
  const weight =
    (SCATTER * (mic.pressure + mic.gradient)) / Math.sqrt(path) / (distance / 1000 + geometry.grilleGap + 0.6 * geometry.coneDepth)
  const scattered = new Transfer(sum.bins, sum.binHz).highPass2(FOCUS_HZ, 0.7).delay(path / SPEED_OF_SOUND)
  const cap = rings.filter((ring) => ring.topHz === Infinity)
  const area = cap.reduce((all, { radius, width }) => all + radius * width, 0)
  times(scattered, cap[0].motion)
  for (let k = 1; k <= top; k++) {
    sum.re[k] += weight * area * scattered.re[k]
    sum.im[k] += weight * area * scattered.im[k]
  }
}
const SCATTER = 0.026
const FOCUS_DB = 8.5
/** Radians. */
const FOCUS_ANGLE = 0.4
const FOCUS_HZ = 1_700

/** A diaphragm that is not small against the wave hears less top from the side: a piston, by reciprocity. */
function sideLoss(sum: Transfer, mic: MicrophoneType, { offset, distance, angle }: MicPlace, top: number): void {
  const towards = Math.atan2(offset, distance + 40) - (angle * Math.PI) / 180
  const sin = Math.abs(Math.sin(towards))
  for (let k = 1; k <= top; k++) {
    const wave = (2 * Math.PI * k * sum.binHz) / SPEED_OF_SOUND
    const loss = Math.max(0.1, pistonDirectivity(Math.min(3.2, wave * mic.radius * sin)))
    sum.re[k] *= loss
    sum.im[k] *= loss
  }
}

/**
 * Reverberation as decaying noise that loses its top first, the same at every place of the microphone, so that it grows against the
 * direct sound with the distance. Source: Moorer, CMJ 1979 (noise with exponential decay).
 */
function addRoom(taps: Float64Array, { room, distance, roomKind = 'small', air = 0 }: MicPlace, sampleRate: number): void {
  const { rt60, from, topSeconds, gain } = ROOMS[roomKind]
  // the direct sound was normalised: what it lost on the way is what the room gained
  const level = 0.012 * gain * (room / 100) * (1 + distance / 60)
  const lift = Math.pow(10, air / 20) - 1
  const airy = 1 - Math.exp((-2 * Math.PI * AIR_HZ) / sampleRate)
  let below = 0
  const random = mulberry(0x5eed)
  const start = Math.round(from * sampleRate)
  const step = Math.max(1, Math.round(sampleRate / 48_000))
  let held = 0
  let low = 0
  let high = 0
  for (let n = start; n < taps.length; n++) {
    if ((n - start) % step === 0) held = random() * 2 - 1
    const seconds = (n - start) / sampleRate
    const cutoff = (air > 0 ? 11_000 : 6_000) * Math.exp(-seconds / topSeconds) + 900
    low += (held - low) * (1 - Math.exp((-2 * Math.PI * cutoff) / sampleRate))
    high += (low - high) * (1 - Math.exp((-2 * Math.PI * 140) / sampleRate))
    const sound = low - high
    below += airy * (sound - below)
    taps[n] += level * (sound + lift * (sound - below)) * Math.exp((-6.91 * seconds) / rt60)
  }
}

/** Small seeded random numbers, 0–1: the same room every time. */
function mulberry(seed: number): () => number {
  let state = seed
  return () => {
    state = (state + 0x6d2b79f5) | 0
    let t = Math.imul(state ^ (state >>> 15), 1 | state)
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }
}
