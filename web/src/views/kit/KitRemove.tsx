import { useState } from 'react'
import { useNavigate } from 'react-router'
import { sentenceOf, usePresetsQuery } from '../../api/api'
import { notified, type KitKind } from '../../state/notices'
import { useAppDispatch } from '../../state/store'

interface Props {
  kind: KitKind
  id: string
  name: string
  /** Address of the page. */
  to: string
  /** What becomes of presets that use it, after “3 presets”. */
  keeps: readonly [one: string, many: string]
  remove: (id: string) => Promise<{ readonly error?: unknown }>
}

/** Takes a thing out of the Kit; what is used asks first, and a notice brings it back. */
export function KitRemove({ kind, id, name, to, keeps, remove }: Props) {
  const dispatch = useAppDispatch()
  const navigate = useNavigate()
  const { data } = usePresetsQuery({ uses: id, sort: 'name', limit: 1 })
  const [asking, setAsking] = useState(false)
  const go = async () => {
    const answer = await remove(id)
    if (answer.error !== undefined) {
      dispatch(notified({ kind: 'warning', text: `Not deleted: ${sentenceOf(answer.error)}` }))
      return
    }
    dispatch(notified({ kind: 'note', text: `“${name}” is in the bin.`, undo: { type: 'restoreKit', kind, id } }))
    void navigate(to)
  }
  const used = data?.total ?? 0
  if (asking)
    return (
      <span className="flex gap-3" role="alert">
        <span>
          {used} {used === 1 ? `preset ${keeps[0]}` : `presets ${keeps[1]}`}
        </span>
        <button type="button" className="act" onClick={() => void go()}>
          Delete it
        </button>
        <button type="button" className="act font-normal" onClick={() => setAsking(false)}>
          Keep it
        </button>
      </span>
    )
  return (
    <button type="button" className="act font-normal" onClick={() => (used > 0 ? setAsking(true) : void go())}>
      Delete
    </button>
  )
}
