import { useId, useMemo, useState } from 'react'
import { useNavigate } from 'react-router'
import { catalogue, modelOf } from '@fulgor/core/catalogue'
import { partsOf, type Preset } from '@fulgor/core/preset'
import { usePresetsQuery } from '../api/api'
import { DESK_KEYS } from '../desk/deskKeys'
import { addAfterChosen, newId, presentPreset } from '../state/actions'
import { snapshotChosen, stageChosen } from '../state/editor'
import { useAppDispatch, useAppSelector, useAppStore } from '../state/store'
import { applyTheme } from '../theme/theme'
import { listKeys } from '../ui/listKeys'
import { useQuiet } from '../ui/useQuiet'
import { PaperDialog } from '../ui/PaperDialog'
import { focusRow } from '../views/sheet/focusRow'
import { matching } from './matching'
import { session } from '../audio/session'
import { setSingleKeys, singleKeysOn } from '../ui/singleKeys'

interface Entry {
  readonly id: string
  readonly kind: string
  readonly words: string
  /** Other words that lead to it. */
  readonly also: string
  readonly note: string
  readonly act: () => void
}

const SHOWN = 60

/** Ctrl or Cmd and K: everything that can be done, chosen or opened, found by its words. */
export function Finder({ open, onClose, onKeys }: { open: boolean; onClose: () => void; onKeys: () => void }) {
  return (
    <PaperDialog open={open} onClose={onClose} title="Find and do" wide>
      <FinderList onKeys={onKeys} onDone={onClose} />
    </PaperDialog>
  )
}

function FinderList({ onKeys, onDone }: { onKeys: () => void; onDone: () => void }) {
  const [text, setText] = useState('')
  const entries = useEntries(onKeys, text)
  const [at, setAt] = useState(0)
  const list = useId()
  const found = useMemo(() => matching(entries, text).slice(0, SHOWN), [entries, text])
  const current = found.at(Math.min(at, found.length - 1))
  const take = (entry: Entry | undefined) => {
    if (!entry) return
    onDone()
    // the dialog gives the focus back first
    setTimeout(entry.act, 60)
  }
  const onKeyDown = listKeys({
    count: found.length,
    at,
    onMark: (next) => {
      setAt(next)
      document.getElementById(`${list}-${next}`)?.scrollIntoView({ block: 'nearest' })
    },
    onTake: () => take(current),
  })
  return (
    <>
      <input
        type="search"
        autoFocus
        role="combobox"
        aria-expanded="true"
        aria-controls={list}
        aria-activedescendant={current ? `${list}-${found.indexOf(current)}` : undefined}
        aria-label="Find an action, stage, snapshot, preset or model"
        placeholder="level all, storm, hall, slapback, dusk …"
        value={text}
        onChange={(event) => {
          setText(event.currentTarget.value)
          setAt(0)
        }}
        onKeyDown={onKeyDown}
        className="field w-full"
      />
      <ul id={list} role="listbox" aria-label="Found" tabIndex={0} onKeyDown={onKeyDown} className="mt-2 h-[min(52vh,420px)] overflow-auto">
        {found.map((entry, i) => (
          <li
            key={entry.id}
            id={`${list}-${i}`}
            role="option"
            aria-selected={entry === current}
            data-found={entry.kind}
            onClick={() => take(entry)}
            onPointerMove={() => setAt(i)}
            className={`grid cursor-pointer grid-cols-[86px_minmax(0,1fr)_auto] items-baseline gap-3 border-b border-rule py-1.5 pr-2 pl-1 ${entry === current ? 'bg-deep shadow-[inset_3px_0_0_var(--ember)]' : ''}`}
          >
            <span className="eyebrow">{entry.kind}</span>
            <span className="truncate font-semibold">{entry.words}</span>
            <span className="num max-w-[260px] truncate text-label text-ink2">{entry.note}</span>
          </li>
        ))}
        {found.length === 0 && <li className="py-3 text-ink2">Nothing is called “{text}”.</li>}
      </ul>
    </>
  )
}

function useEntries(onKeys: () => void, text: string): readonly Entry[] {
  const dispatch = useAppDispatch()
  const store = useAppStore()
  const navigate = useNavigate()
  const { player, save } = session
  const preset = useAppSelector(presentPreset)
  const id = useAppSelector((s) => s.editor.id)
  // a long shelf is searched where it is
  const search = useQuiet(text.slice(0, 100), 200)
  const { data } = usePresetsQuery({ sort: 'updated', search: search || undefined })
  return useMemo(() => {
    const go = (path: string) => () => void navigate(path)
    const desk = (of: Preset): Entry[] =>
      DESK_KEYS.filter((k) => !k.keys.includes('held') && !k.keys.includes('–')).map((key) => ({
        id: `do ${key.keys}`,
        kind: 'do',
        words: key.words,
        also: '',
        note: key.keys,
        act: () =>
          key.act({
            state: store.getState(),
            preset: of,
            dispatch,
            player,
            save,
            event: new globalThis.KeyboardEvent('keydown', { key: key.keys.slice(-1).toLowerCase() }),
          }),
      }))
    const ofPreset = (of: Preset): Entry[] => [
      ...desk(of),
      ...of.snapshots.map((s, i) => ({
        id: `snapshot ${s.id}`,
        kind: 'snapshot',
        words: s.name,
        also: `snapshot ${i + 1} ${s.role ?? ''}`,
        note: String(i + 1),
        act: () => {
          dispatch(snapshotChosen(s.id))
        },
      })),
      ...partsOf(of.chain)
        .filter((s) => s.model !== 'lane')
        .map((s) => ({
          id: `stage ${s.id}`,
          kind: 'stage',
          words: s.name ?? modelOf(s.model).name,
          also: `${modelOf(s.model).name} ${modelOf(s.model).family}`,
          note: 'choose it',
          act: () => {
            dispatch(stageChosen({ stage: s.id }))
            void navigate(`/sheet/${id}`)
            focusRow(s.id)
          },
        })),
      ...(['sheet', 'bench', 'controls', 'controls/board', 'controls/midi', 'layers', 'checks'] as const).map((path) => {
        const [view, page] = path.split('/')
        const words = { sheet: 'Sheet', bench: 'Mic bench', controls: 'Controls', layers: 'Layers', checks: 'Checks' }[view] ?? view
        return {
          id: `view ${path}`,
          kind: 'view',
          words: page === 'board' ? 'Foot controller' : page === 'midi' ? 'MIDI' : words,
          also: 'view open',
          note: '',
          act: go(`/${view}/${id}${page ? `/${page}` : ''}`),
        }
      }),
      ...catalogue
        .filter((m) => m.id !== 'lane')
        .map((m) => ({
          id: `add ${m.id}`,
          kind: 'add',
          words: `Add ${m.name}`,
          also: `${m.family} ${m.tags.join(' ')} ${m.purpose}`,
          note: m.purpose,
          act: () => {
            const stage = newId()
            dispatch(addAfterChosen(stage, m.id))
            void navigate(`/sheet/${id}`)
            focusRow(stage)
          },
        })),
    ]
    return [
      ...(preset ? ofPreset(preset) : []),
      ...(data?.items ?? []).map((p) => ({
        id: `preset ${p.id}`,
        kind: 'preset',
        words: p.name,
        also: `preset ${p.tags.join(' ')}`,
        note: p.tags.join(', '),
        act: go(`/sheet/${p.id}`),
      })),
      { id: 'brief', kind: 'view', words: 'Brief', also: 'view open sounds needed show session', note: '', act: go('/brief') },
      { id: 'set', kind: 'view', words: 'Set', also: 'view open show songs presses layout gig sheet', note: '', act: go('/set') },
      { id: 'shelf', kind: 'view', words: 'Shelf', also: 'view open presets', note: '', act: go('/shelf') },
      { id: 'keys', kind: 'help', words: 'Keys', also: 'help shortcuts list', note: '?', act: onKeys },
      { id: 'paper', kind: 'setting', words: 'Theme Paper', also: 'light day', note: 'light', act: () => applyTheme('paper') },
      {
        id: 'dusk',
        kind: 'setting',
        words: 'Theme Dusk',
        also: 'dark night stage large',
        note: 'dark, large',
        act: () => applyTheme('dusk'),
      },
      {
        id: 'single',
        kind: 'setting',
        words: 'Single keys on or off',
        also: 'shortcuts letters',
        note: '',
        act: () => setSingleKeys(!singleKeysOn()),
      },
    ]
  }, [preset, id, data, dispatch, navigate, onKeys, player, save, store])
}
