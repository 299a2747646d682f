import { PaperDialog } from '../ui/PaperDialog'

const KEYS: readonly (readonly [string, string])[] = [
  ['Space', 'Play, stop'],
  ['1 – 8', 'Choose a snapshot'],
  ['Arrows', 'Move in the matrix; on a slider, change the value'],
  ['Shift + arrows', 'In the matrix, select more cells; on a slider, ten steps'],
  ['Ctrl/Cmd + C, V', 'Copy the cells, paste them, also in another preset'],
  ['Ctrl/Cmd + Enter', 'Fill the selected cells with what the first column has'],
  ['Enter', 'Edit the cell: to its first value in the Focus panel'],
  ['Escape', 'Leave a field, back to the matrix'],
  ['Delete', 'Reset the cell to the base; on a stage, remove it'],
  ['B held', 'Hear the chosen stage switched over, level-matched'],
  ['Shift + B', 'Bypass the chosen stage'],
  ['E', 'Edits reach the lit snapshot alone, or all that share the value'],
  ['D', 'Judge dry: mute all modulation, delay and reverb'],
  ['X', 'Hear only what the chosen stage adds or takes away'],
  ['U', 'Set the chosen stage to unity'],
  ['Alt + ↑ ↓', 'Move the stage or lane up or down, into lanes and out'],
  ['Alt + →', 'A new lane beside the stage'],
  ['Alt + ←', 'Take the stage out of its lane; on a lane, dissolve the lanes'],
  ['Alt + ← →', 'On a snapshot’s head: move it'],
  ['A', 'Compare with the saved version, level-matched'],
  ['L', 'Level all snapshots'],
  ['T', 'Tap the tempo'],
  ['A – H, Q – Y', 'On the foot controller: its switches, as they lie; a key that is held holds the switch'],
  ['Alt + arrows', 'On the foot controller, arranging: move the switch'],
  ['Arrows on a microphone', 'Mic bench: 1 mm, from the side also 1°; Shift: ten'],
  ['↑ ↓ in the responses', 'Try the next one, as loud as the blend'],
  ['Enter, Shift + Enter', 'Take the response that is tried; add it to the blend'],
  ['F', 'Mark the response as a favourite'],
  ['Ctrl/Cmd + Z', 'Undo'],
  ['Ctrl/Cmd + Shift + Z', 'Redo'],
  ['Ctrl/Cmd + S', 'Save a version'],
  ['/', 'Search the shelf'],
  ['?', 'This list'],
]

export function KeysDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <PaperDialog open={open} onClose={onClose} title="Keys">
      <table className="w-full">
        <tbody>
          {KEYS.map(([key, what]) => (
            <tr key={key} className="border-t border-rule">
              <th scope="row" className="num py-1 pr-6 text-left font-medium whitespace-nowrap">
                {key}
              </th>
              <td className="py-1">{what}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </PaperDialog>
  )
}
