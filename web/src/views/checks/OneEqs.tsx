import { mergeable, type NetSection, type OneEq } from '@fulgor/core/net'
import { partName, type Preset } from '@fulgor/core/preset'
import { hertz } from '../../desk/NetChart'
import { useWish } from '../../background/useWish'
import { edit } from '../../state/actions'
import { useAppDispatch } from '../../state/store'
import { renderers } from '../../threads/crews'
import { SAMPLE_RATE } from '../../threads/rate'
import { figure } from '../../ui/format'
import { NoteMark } from '../../ui/marks'

const AFTER_MS = 400
/** dB from which on it is another sound and not offered. */
const ANOTHER = 2

/** Equalisers in a row that one could do the work of, with what it would differ by. */
export function OneEqs({ preset, snapshot, section }: { preset: Preset; snapshot: string; section: NetSection }) {
  const dispatch = useAppDispatch()
  const possible = mergeable(preset, section).length > 0
  const { answer } = useWish(
    renderers,
    [possible ? preset : null, snapshot, section],
    () => (possible ? renderers.job('oneEqs', [preset, snapshot, section, SAMPLE_RATE], { key: null, rank: 'idle' }) : null),
    { afterMs: AFTER_MS },
  )
  const replace = ({ edits }: OneEq) => dispatch(edit({ type: 'all', edits }))
  const alike = (answer ?? []).filter((one) => one.errorDb < ANOTHER)
  return alike.map((one) => (
    <p key={one.stages.join(' ')} className="text-[12px]" data-one-eq={one.errorDb.toFixed(2)}>
      <NoteMark /> {one.stages.map((id) => partName(preset, id)).join(', ')}: one parametric EQ does the same within{' '}
      <span className="num">{figure(one.errorDb, 1)} dB</span> from 50 Hz to 10 kHz (most at {hertz(one.atHz)}).{' '}
      <button type="button" className="act" onClick={() => replace(one)}>
        Replace these {one.stages.length} by one
      </button>
    </p>
  ))
}
