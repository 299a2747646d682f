/** Every measure, chart and rare word of the pages in one or two sentences, for the “?” beside it. */
export const TERMS = {
  playOn: [
    'Play it on',
    'The same preset on another guitar: as it was made, as it is there, and with an input trim, at most three bands in front, gates and trims that bring it back. What you keep stands beside the preset’s own values and counts only while that guitar plays.',
  ],
  plays: [
    'What plays',
    'Guitar, pickup position and knobs that the riffs are heard with. A snapshot may have its own. Knobs are typed from 0 to 10, and a source of the Controls can move them.',
  ],
  monoCheck: [
    'In a mono house',
    'How much softer each snapshot is when both sides are summed, and which third octaves of the lit one are hardly left: less than a mono sum of unrelated sides leaves by 6 dB and more.',
  ],
  brief: [
    'Brief',
    'The sounds that a show or a session needs, with song, role, tempo, guitar and place. Each is answered by a snapshot of a preset, or still open. From here a sound is begun, and the steps of the work are told with what is measured.',
  ],
  set: [
    'Set',
    'The songs of a night on a line each: what sounds in which part, where you sing, what your feet do. Every change is counted as presses on your device, by the shortest way, and a better layout is searched.',
  ],
  presses: [
    'Presses',
    'Every time a foot goes down, found as the shortest way over banks and pages for the whole night. A press on the border between two parts falls on a breath; what leads there, or what comes after it in a sung part, is a press while singing.',
  ],
  places: [
    'Places',
    'How loud −18 LUFS is there, whether both sides are summed, and what room and loudspeakers do. Louder brings lows forward (equal-loudness contours): what was even at home is not even there.',
  ],
  guitars: [
    'Guitars',
    'Describe each guitar once, or better measure it. Presets are then heard through the guitar that plays them, and can be carried to another one.',
  ],
  devices: [
    'Devices',
    'What your device holds and how its level control is marked. Presets take a copy, so that what is counted and levelled for them counts for your device.',
  ],
  riffs: [
    'Riffs',
    'What every sound is heard and measured on, dry. Your own recordings are trimmed to a loop here, and told of: tempo, bars, and the guitar that they were recorded on.',
  ],
  backings: [
    'Backings',
    'Recordings of the band without you. A listening place plays one along with the riff at a set loudness; it never goes into an export.',
  ],
  references: [
    'References',
    'Recordings whose sound a preset is to come near to. Mark the stretches that matter; what they are is told with how sure it is. The file stays on this machine.',
  ],
  reference: [
    'What the recording is',
    'Found in the marked stretches alone: each with how sure it is. A dash says that there is not enough to say. “Trusted” is where it is compared.',
  ],
  match: [
    'Match',
    'How far the lit snapshot is from a recording, and what would close the gap. Everything is heard by the arrow keys, as loud as the sheet; B is the recording. What you take is one step of undo.',
  ],
  distance: [
    'Distance',
    'Third octaves of the snapshot less those of the recording, both at equal loudness; their root mean square. Only where the recording can be trusted, and without modulation, delay and reverb while searching.',
  ],
  portrait: [
    'Body, bite, fizz, crest, density, width',
    'Body 80–250 Hz, bite 1.5–3.2 kHz, fizz 5–12.5 kHz, each against the whole. Crest: peak over mean level. Density: how filled it is between the partials, 0 dB is noise; distortion raises it. Width: share of what the sides differ in, 50 % is two players.',
  ],
  closing: [
    'What closes it',
    'Cabinet, equaliser, amp and drive, time, in the order of a school; each goes on from the best of the step before. The line shows what each step won. Taste bends the recording’s curve before anything is brought near it.',
  ],
  candidates: [
    'Candidates on one take',
    'The same riff through each, as loud as the sheet. Walk them by the arrow keys, blind if you like, mark them (K keep, M maybe, N no), and put the winner in.',
  ],
  strums: [
    'Soft, normal and hard strums',
    'Peak and mean level of strums with both knobs at 10, against the full scale of your interface. They say how far a stroke drives an amp.',
  ],
  knobs: [
    'Volume and tone',
    'What coil, pots, cable and input make of the strings. Turned down, a volume pot darkens, as the cable loads it; a treble bleed keeps the top.',
  ],
  tuning: [
    'Tuning',
    'Take a named tuning, type each string as a note (E2, B♭1), or a whole one into any string (drop D, or D2 A2 D3 G3 B3 E4). Cents shift a string off its note.',
  ],
  sheet: [
    'Sheet',
    'The signal runs down the rows, from the guitar to the output. Each column is a snapshot; a cell is empty where it is as the base.',
  ],
  trace: [
    'Ember trace',
    'What was measured after each row on one scale: the left edge is the mean level (RMS), the right edge the highest peak, so a wide ribbon is dynamic and a thin one squashed. Dark is a dull tone, pale a bright one; hatched is too hot.',
  ],
  reach: [
    'Where an edit goes',
    'Into the lit snapshot alone, or into every snapshot that shares the value. The cells that would change are underlined; E switches over.',
  ],
  loudness: [
    'Loudness',
    'How loud the whole riff is to the ear, in LUFS (ITU-R BS.1770). 1 LU is 1 dB; a difference of 1 LU is just heard.',
  ],
  change: [
    'Change to target',
    'By how many dB this snapshot must be turned to be as loud as its target. “Level all” does it for all of them.',
  ],
  peak: [
    'True peak',
    'The highest point of the wave between the samples. Above −1 dBTP it may clip in a converter or a coded file; above 0 it does.',
  ],
  crest: [
    'Measured',
    'RMS is the mean level, crest the peak over it: 15 dB is a clean guitar, 6 dB a squashed one. Brightness is the middle of the spectrum by power.',
  ],
  response: ['Response', 'What the stage does to each frequency at a level at which it does not distort.'],
  feel: [
    'Feel',
    'From left to right the level that comes in. The ember curve is what comes out: where it bends the stage compresses. THD tells from where on it distorts. The strokes are soft and hard picking of your guitar.',
  ],
  gain: ['Level out over level in', 'Above the dotted line it makes louder, below it softer; where it bends it compresses or gates.'],
  tail: ['Decay', 'How the sound dies away after a click: echoes as steps, a reverb as a slope.'],
  unity: [
    'Unity',
    'Turns the level of the stage until it is as loud on as off, so that you judge its tone and not its level. In front of something that clips, loudness at the end says little: there it is matched at its own output.',
  ],
  spectrum: [
    'Spectrum',
    'The power of the riff in bands of a third of an octave. Compare snapshots by shape, not by height: height is loudness.',
  ],
  target: [
    'Its own target',
    'A lead may be louder than the rhythm. The offset is what this snapshot lies above or below the target of the preset.',
  ],
  netCurve: [
    'Net curve',
    'What all equalisers, filters, tone circuits and the cabinet do together, split at the stages that clip: a cut before distortion changes what is distorted, one after it only how it sounds. What of a drive or amp stands before its own clip is drawn before it, the rest behind, for small signals. Hatched is where two undo each other.',
  ],
  noiseBudget: [
    'Noise budget',
    'Hum and hiss of the guitar while it rests, behind every row, beside the riff. Where the lines come closer, a stage brings the noise closer to the music. Until a guitar is measured its noise is that of the shipped pickup.',
  ],
  gateCost: [
    'Gate, and its cost',
    'Set 8 dB above the peaks of the noise that the gate hears, closing 4 dB lower. The cost is counted on the riff’s own decays: how much earlier a note ends than it would sink into the noise.',
  ],
  hand: [
    'Under the hand',
    'A 220 Hz tone at rising levels through the whole snapshot without modulation, delay and reverb: from which level on it is distorted, against the peak of a hard strum of this guitar. Below it, how much louder hard picking comes out than soft picking.',
  ],
  compare: [
    'Compare',
    'A is the sheet as it stands, B the last version that you saved. Both are equally loud, as louder always sounds better.',
  ],
  judge: [
    'Judge',
    'Dry mutes modulation, delay and reverb. Hold plays the chosen stage switched over at equal loudness: in front of something that clips matched “here”, where it stands, else at the end. Difference plays only what it adds.',
  ],
  heard: [
    'Mono and quality',
    'Mono sums both sides as a mono house does: what gets thin or vanishes there is lost to the audience. Quality is how finely clipping stages are computed; higher has less false tones (aliases) and costs more of the processor.',
  ],
  lost: [
    'Lost to cancellation',
    'Two microphones at different distances cancel some frequencies. The figure is what the blend lies below the louder channel on average; in brackets the deepest place.',
  ],
  arrival: ['Arrival', 'The first millisecond of each channel. Peaks that lie on one another add up; a peak on a valley cancels.'],
  face: [
    'On the face',
    'The loudspeaker from its centre (top) to its rim (bottom), unrolled around. Near the centre it is brightest, towards the rim darker and softer.',
  ],
  sources: [
    'Source',
    'Something that moves values while you play: a pedal, a knob, a switch, the level of your playing, a slow wave. Each row is one value with its range and curve.',
  ],
  board: [
    'Foot controller',
    'What each switch does in each snapshot. Play it here by mouse or keys; what it would do stands in the table below.',
  ],
  midi: ['MIDI', 'What is sent to your device when a snapshot is chosen, and what may be sent to Fulgor.'],
  layers: ['Layers', 'This preset together with others, each on its take and place, as in a mix: what covers what is measured.'],
} as const satisfies Record<string, readonly [title: string, words: string]>

export type Term = keyof typeof TERMS
