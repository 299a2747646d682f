import { asDocument, GUITARS, NAMED_TUNINGS, startPosition, type GuitarDocument, type GuitarProfile } from '@fulgor/core/guitar'

const tuned = (name: string) => (NAMED_TUNINGS.find((t) => t.name === name) ?? NAMED_TUNINGS[0]).notes.map((note) => ({ note, cents: 0 }))

/** The pit guitarist's main guitar. */
export const doubleCut: GuitarProfile = { ...GUITARS[0], name: 'Double-cut' }

const plank: GuitarProfile = {
  ...GUITARS[3],
  name: 'Plank',
  positions: [
    startPosition('Bridge', 'single', 'bridge', -13.4, { humDbfs: -68.4 }),
    startPosition('Bridge + middle', 'two', 'bridge-middle', -14.6),
    startPosition('Middle', 'single', 'middle', -13, { humDbfs: -68.9 }),
    startPosition('Middle + neck', 'two', 'middle-neck', -14.2),
    startPosition('Neck', 'single', 'neck', -12.8, { humDbfs: -67.8 }),
  ],
  cable: { metres: 6, pfPerMetre: 100 },
}

const baritone: GuitarProfile = {
  ...GUITARS[0],
  name: 'Baritone',
  strings: tuned('B standard'),
  positions: [
    startPosition('Bridge', 'humbucker', 'bridge', -5.1),
    startPosition('Bridge, split', 'split', 'bridge', -11.5),
    startPosition('Neck', 'humbucker', 'neck', -6),
  ],
  bleed: { pf: 1_000, kohm: 150, way: 'beside' },
}

const steelString: GuitarProfile = {
  ...GUITARS[0],
  name: 'Steel-string',
  strings: tuned('DADGAD'),
  positions: [startPosition('Piezo', 'piezo', 'bridge', -9.6), startPosition('Magnetic', 'single', 'neck', -15.2)],
}

const of = (id: string, profile: GuitarProfile, notes: string): { readonly id: string; readonly document: GuitarDocument } => ({
  id,
  document: asDocument(profile, notes),
})

/** The guitars of the pit and of the home recordings. */
export const demoGuitars = [
  of('demo-double-cut', doubleCut, 'Two humbuckers, the show’s main guitar.'),
  of('demo-plank', plank, 'Three single coils; hums near the lighting dimmer.'),
  of('demo-baritone', baritone, 'For the low parts of Low Tide Signals.'),
  of('demo-steel-string', steelString, 'Piezo and a magnetic pickup in the soundhole, straight in.'),
]
