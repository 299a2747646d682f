import type { Json } from '@fulgor/core/document'

/**
 * Until version 3 a preset knew of its guitar how hot it is and one pickup, and a riff could name another pickup. From version 4 on it
 * holds guitars with positions, knobs and circuit; which one plays stands in its hand, and in a snapshot's.
 */
export function toVersion4(document: Json): Json {
  const { guitar: before, riff, snapshots, layers, ...rest } = document
  // what cannot be read is handed on, for the reader to refuse
  if (!isObject(before) || typeof before.name !== 'string' || typeof before.hardPeakDbfs !== 'number')
    return { ...rest, riff: without(riff), snapshots, ...(layers === undefined ? {} : { layers }), guitars: [before] }
  const hard = before.hardPeakDbfs
  const pickups: string[] = []
  const positionOf = (pickup: unknown): number => {
    const known = typeof pickup === 'string' && pickup in PICKUPS ? pickup : 'bridge'
    if (!pickups.includes(known)) pickups.push(known)
    return pickups.indexOf(known)
  }
  const own = positionOf(before.pickup)
  const played = isObject(riff) && riff.pickup !== undefined ? positionOf(riff.pickup) : own
  const inSnapshots = list(snapshots, (snapshot) => {
    if (!isObject(snapshot.riff) || snapshot.riff.pickup === undefined) return snapshot
    return { ...snapshot, riff: without(snapshot.riff), hand: { position: positionOf(snapshot.riff.pickup) } }
  })
  const inLayers = list(layers, (layer) => {
    if (!isObject(layer.riff) || layer.riff.pickup === undefined) return layer
    return { ...layer, riff: { ...(without(layer.riff) as Json), position: positionOf(layer.riff.pickup) } }
  })
  const kohm = pickups.every((p) => p === 'middle-neck' || p === 'single') ? 250 : 500
  return {
    ...rest,
    riff: without(riff),
    snapshots: inSnapshots,
    ...(layers === undefined ? {} : { layers: inLayers }),
    guitars: [
      {
        id: 'made-on',
        name: before.name.slice(0, 60),
        a4: 440,
        strings: ['E2', 'A2', 'D3', 'G3', 'B3', 'E4'].map((note) => ({ note, cents: 0 })),
        positions: pickups.map((pickup) => ({
          ...PICKUPS[pickup],
          soft: { peakDbfs: hard - 11, rmsDbfs: hard - 27.3 },
          normal: { peakDbfs: hard - 5, rmsDbfs: hard - 21.3 },
          hard: { peakDbfs: hard, rmsDbfs: hard - 16.3 },
          centroidHz: null,
          mains: 50,
          hissDbfs: -92.2,
          from: 'start',
        })),
        volume: { kohm, taper: 'audio' },
        bleed: null,
        tone: { kohm, nf: 22, taper: 'audio' },
        cable: { metres: 4.5, pfPerMetre: 100 },
        inputKohm: 1_000,
      },
    ],
    madeOn: played,
    hand: { guitar: 'made-on', position: played, volume: 10, tone: 10 },
  }
}

/** The pickups that there were. */
const PICKUPS: Record<string, Json> = {
  bridge: position('Bridge', 'humbucker', 'bridge', 8.2, 4.6, 110, -91.7),
  neck: position('Neck', 'humbucker', 'neck', 7.6, 4.2, 110, -91.7),
  'middle-neck': position('Middle + neck', 'two', 'middle-neck', 3.1, 1.2, 110, -91.7),
  split: position('Bridge, split', 'split', 'bridge', 4.1, 2.2, 110, -75.2),
  single: position('Neck', 'single', 'neck', 6.2, 2.4, 110, -75.2),
}

function position(
  name: string,
  kind: string,
  place: string,
  resistance: number,
  inductance: number,
  capacitance: number,
  humDbfs: number,
): Json {
  return { name, kind, place, resistance, inductance, capacitance, humDbfs }
}

const without = (value: unknown): unknown => {
  if (!isObject(value)) return value
  const { pickup: _, ...others } = value
  return others
}

const isObject = (value: unknown): value is Json => typeof value === 'object' && value !== null && !Array.isArray(value)

const list = (value: unknown, each: (item: Json) => Json): unknown =>
  Array.isArray(value) ? value.map((item: unknown) => (isObject(item) ? each(item) : item)) : value
