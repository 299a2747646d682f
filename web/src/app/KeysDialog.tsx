import { DESK_KEYS } from '../desk/deskKeys'
import { PaperDialog } from '../ui/PaperDialog'
import { setSingleKeys, useSingleKeys } from '../ui/singleKeys'

type Line = readonly [keys: string, words: string]

/** Keys of one place, handled there. */
const PLACES: readonly (readonly [place: string, lines: readonly Line[]])[] = [
  [
    'On the sheet',
    [
      ['Arrows', 'Move in the matrix'],
      ['Shift + arrows', 'Select more cells; in the column of names, whole stages'],
      ['0 – 9, −, F2', 'Type a value into the cell; “treble 6” names another one, ↑ ↓ go through them'],
      ['Enter, Tab', 'To the first value of the cell in the Focus panel; Shift + Tab leads back'],
      ['Delete', 'Reset the cell to the base; on a stage, remove it'],
      ['Ctrl/Cmd + C, X, V', 'Copy cells, stages or lanes, cut and paste them, also in another preset'],
      ['Ctrl/Cmd + Enter', 'Fill the selected cells with what the first column has'],
      ['Alt + ↑ ↓', 'Move the stage or lane up or down, into lanes and out'],
      ['Alt + →', 'A new lane beside the stage'],
      ['Alt + ←', 'Take the stage out of its lane; on a lane, dissolve the lanes'],
      ['Alt + ← →', 'On a snapshot’s head: move it'],
    ],
  ],
  [
    'On a value',
    [
      ['Arrows, Page up, down', 'One step, ten steps; Shift makes arrows, wheel and drag finer'],
      ['Home, End', 'Least, most'],
      ['Backspace', 'The initial value; also Alt and a click, or a double click on its name'],
      ['Delete', 'Back to the base'],
      ['Ctrl/Cmd + C, V', 'Copy the value with its unit, paste it onto another'],
      ['Enter', 'Take what is typed'],
      ['Escape', 'Put back what stood there; once more: back to the sheet'],
    ],
  ],
  [
    'Foot controller',
    [
      ['A – H, Q – Y', 'Its switches, as they lie; a key that is held holds the switch'],
      ['Alt + arrows', 'Arranging: move the switch'],
    ],
  ],
  [
    'Mic bench',
    [
      ['Arrows on a microphone', '1 mm, from the side also 1°; Shift: ten'],
      ['↑ ↓ in the responses', 'Try the next one, as loud as the blend'],
      ['Enter, Shift + Enter', 'Take the response that is tried; add it to the blend'],
      ['F', 'Mark the response as a favourite'],
    ],
  ],
  [
    'Brief and Set',
    [
      ['Arrows', 'From song to song, part to part, sound to sound'],
      ['Alt + ↑ ↓', 'Move the song in the night, the sound in the list'],
      ['Alt + ← →', 'A part begins a bar earlier or later; with Shift a beat'],
      ['N, S, Delete', 'A new part; sung or not; delete the part, or the sound'],
    ],
  ],
  [
    'On stage',
    [
      ['→, Space, Page down', 'Next; ← and Page up lead back, Home to the start'],
      ['T, F, Escape', 'Tuner; dark, red or daylight; leave'],
    ],
  ],
  [
    'Anywhere',
    [
      ['Ctrl/Cmd + K', 'Find any action, stage, snapshot, preset, model or setting'],
      ['/', 'Search the shelf'],
      ['?', 'This list'],
    ],
  ],
]

export function KeysDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  const single = useSingleKeys()
  return (
    <PaperDialog open={open} onClose={onClose} title="Keys" wide>
      <label className="flex items-center gap-2 pb-2">
        <input type="checkbox" className="accent-ember" checked={single} onChange={() => setSingleKeys(!single)} />
        Single keys act (off: only Space and those with Ctrl or Cmd)
      </label>
      <div className="columns-2 gap-8 text-[12px] max-[700px]:columns-1">
        <Keys place="Wherever a preset is open" lines={DESK_KEYS.map((k) => [k.keys, k.words] as const)} />
        {PLACES.map(([place, lines]) => (
          <Keys key={place} place={place} lines={lines} />
        ))}
      </div>
      <p className="border-t border-rule pt-2 text-[12px] text-ink2">
        Fulgor is free software;{' '}
        <a href="/third-party.txt" target="_blank" rel="noreferrer" className="act">
          what of others is inside
        </a>
      </p>
    </PaperDialog>
  )
}

function Keys({ place, lines }: { place: string; lines: readonly Line[] }) {
  return (
    <table className="mb-3 w-full break-inside-avoid">
      <caption className="eyebrow pb-0.5 text-left">{place}</caption>
      <tbody>
        {lines.map(([keys, words]) => (
          <tr key={keys} className="border-t border-rule align-baseline">
            <th scope="row" className="num w-[132px] py-0.5 pr-3 text-left text-label font-medium">
              {keys}
            </th>
            <td className="py-0.5">{words}</td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}
