import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react'
import { useEffect } from 'react'
import { useNavigate, useParams } from 'react-router'
import { blankShow } from '@fulgor/core/show'
import { sentenceOf, useCreateShowMutation, useShowsQuery } from '../api/api'
import { ALL_OF_THEM } from '../state/fetched'
import { notified } from '../state/notices'
import { useAppDispatch } from '../state/store'
import { browserStorage } from '../storage/storage'
import { Chevron } from '../ui/marks'

const LAST = 'fulgor.lastShow'

export const lastShow = (): string | null => browserStorage.read(LAST)

/** Without an id in the address the show that was open last is gone to, else the first one. */
export function useShowId(to: '/brief' | '/set'): { id: string | undefined; none: boolean; problem: string | null } {
  const { id } = useParams()
  const navigate = useNavigate()
  const { data, error } = useShowsQuery(ALL_OF_THEM)
  const items = data?.items
  useEffect(() => {
    if (id !== undefined) browserStorage.write(LAST, id)
    else if (items && items.length > 0) {
      const last = lastShow()
      const first = to === '/set' ? (items.find((s) => s.songCount > 0) ?? items[0]) : (items.find((s) => s.soundCount > 0) ?? items[0])
      void navigate(`${to}/${items.find((s) => s.id === last)?.id ?? first.id}`, { replace: true })
    }
  }, [id, items, navigate, to])
  return { id, none: items?.length === 0, problem: error === undefined ? null : sentenceOf(error) }
}

/** All shows and sessions, and a new one. */
export function ShowMenu({ to }: { to: '/brief' | '/set' }) {
  const dispatch = useAppDispatch()
  const navigate = useNavigate()
  const { data } = useShowsQuery(ALL_OF_THEM)
  const [create] = useCreateShowMutation()
  const add = async (use: 'show' | 'session') => {
    const answer = await create({ ...blankShow(use === 'show' ? 'New show' : 'New session'), use })
    if (answer.error) dispatch(notified({ kind: 'warning', text: `Not added: ${sentenceOf(answer.error)}` }))
    else void navigate(`${to}/${answer.data.id}`)
  }
  return (
    <Menu>
      <MenuButton className="act font-normal">
        Shows
        <Chevron />
      </MenuButton>
      <MenuItems modal={false} anchor="bottom start" className="menu max-h-80 overflow-auto">
        {(data?.items ?? []).map((s) => (
          <MenuItem key={s.id}>
            <button type="button" className="menu-item" onClick={() => void navigate(`${to}/${s.id}`)}>
              {s.name} <kbd>{s.use === 'show' ? `${s.songCount} songs` : `${s.soundCount} sounds`}</kbd>
            </button>
          </MenuItem>
        ))}
        <MenuItem>
          <button type="button" className="menu-item" onClick={() => void add('show')}>
            New show
          </button>
        </MenuItem>
        <MenuItem>
          <button type="button" className="menu-item" onClick={() => void add('session')}>
            New session
          </button>
        </MenuItem>
      </MenuItems>
    </Menu>
  )
}
