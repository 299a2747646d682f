import { targetOf, type Preset } from '@fulgor/core/preset'
import { switchFault, type SwitchFigures } from '@fulgor/core/render'
import { renderingOf } from '../../threads/riffSource'
import { renderers } from '../../threads/crews'
import { useWishes } from '../../background/useWish'
import { useAppSelector } from '../../state/store'
import { figure } from '../../ui/format'
import { WarningMark } from '../../ui/marks'
import { PaperDialog } from '../../ui/PaperDialog'
import { Progress } from '../../ui/Progress'

/** dB of a gap, LU of an unplanned jump and dBFS of a click from which on they are noticed (common practice, no source). */
const NOTICED = { gapDb: 3, jumpLu: 2, clickDbfs: -60 }

/** Gap, jump and click of every ordered pair of snapshots, worst first. */
export function SwitchingDialog({ preset, open, onClose }: { preset: Preset; open: boolean; onClose: () => void }) {
  const quality = useAppSelector((s) => s.player.quality)
  const ids = preset.snapshots.map((s) => s.id)
  // closing it is the way to stop
  const { answers, problems, ms } = useWishes(renderers, [open, preset, quality], () =>
    !open
      ? []
      : ids.map((from) => ({
          task: 'switching',
          args: [renderingOf(preset, from, quality), ids.filter((id) => id !== from)],
          key: null,
          rank: 'beside',
        })),
  )
  const found = answers.flatMap((figures) => figures ?? [])
  const done = found.length
  const pairs = ids.length * (ids.length - 1)
  const problem = problems.find((p) => p !== undefined) ?? null
  const snapshot = (id: string) => preset.snapshots.find((s) => s.id === id)
  const planned = ({ from, to }: SwitchFigures): number => {
    const [a, b] = [snapshot(from), snapshot(to)]
    return a && b ? targetOf(preset, b) - targetOf(preset, a) : 0
  }
  const rows = [...found].sort((a, b) => switchFault(b, planned(b)) - switchFault(a, planned(a)))
  const mark = (bad: boolean, text: string) => (
    <span className={bad ? 'font-semibold' : ''}>
      {bad && <WarningMark />} {text}
    </span>
  )
  return (
    <PaperDialog open={open} onClose={onClose} title="Switching between snapshots" wide>
      <p className="mb-2 text-ink2">
        The riff of the first snapshot plays on while it gives way to the second. Gap: how far the sound falls under the softer of both for
        some 20 ms. Jump: loudness after against before, with what the targets plan. Click: what stands above 12 kHz that neither has.
      </p>
      {problem !== null && (
        <p role="alert" className="font-semibold">
          Not measured: {problem}
        </p>
      )}
      {ms === null && problem === null && (
        <p className="flex items-center gap-3" role="status">
          <Progress label="Pairs measured" value={done} max={pairs} />
          <span className="num text-label">
            {done} of {pairs}
          </span>
        </p>
      )}
      <div className="max-h-[56vh] overflow-auto">
        <table className="w-full text-[12px]" aria-label="Pairs, worst first" data-switching-ms={ms === null ? '' : ms.toFixed(0)}>
          <thead>
            <tr className="text-label text-ink3 [&>th]:py-1 [&>th]:text-right [&>th]:font-normal">
              <th className="!text-left">From</th>
              <th className="!text-left">to</th>
              <th>gap dB</th>
              <th>jump LU</th>
              <th>planned LU</th>
              <th>click dBFS</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <tr key={`${row.from} ${row.to}`} className="border-t border-rule [&>td]:py-0.5" data-pair={`${row.from} ${row.to}`}>
                <td>{snapshot(row.from)?.name}</td>
                <td>{snapshot(row.to)?.name}</td>
                <td className="num text-right">{mark(row.gapDb > NOTICED.gapDb, figure(row.gapDb))}</td>
                <td className="num text-right">
                  {mark(Math.abs((row.jumpLu ?? 0) - planned(row)) > NOTICED.jumpLu, figure(row.jumpLu, 1, true))}
                </td>
                <td className="num text-right">{figure(planned(row), 1, true)}</td>
                <td className="num text-right">
                  {row.clickDbfs === null ? 'none' : mark(row.clickDbfs > NOTICED.clickDbfs, figure(row.clickDbfs, 0))}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {ms === null && problem === null && (
        <button type="button" className="btn mt-3" onClick={onClose}>
          Stop
        </button>
      )}
    </PaperDialog>
  )
}
