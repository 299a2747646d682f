import { useState } from 'react'
import { useNavigate, useParams } from 'react-router'
import { asDocument, GUITARS, type GuitarDocument } from '@fulgor/core/guitar'
import { sentenceOf, useCreateGuitarMutation, useGuitarsQuery } from '../../api/api'
import type { GuitarSummary } from '@fulgor/core/api'
import { notified } from '../../state/notices'
import { useAppDispatch } from '../../state/store'
import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react'
import { figure } from '../../ui/format'
import { Chevron } from '../../ui/marks'
import { GuitarSheet } from './GuitarSheet'
import { KitPage } from './KitPage'
import { levelShare } from './scales'

/** The player's guitars on the left, the chosen one beside them. */
export function GuitarsPage() {
  const { id } = useParams()
  const asked = useGuitarsQuery({ sort: 'name' })
  const guitars = asked.data?.items ?? []
  const chosen = id ?? guitars.at(0)?.id
  return (
    <KitPage
      label="Guitars"
      to="/kit/guitars"
      groups={[
        {
          items: guitars.map(({ id: of, name, positionCount: n, tuning, levels }) => ({
            id: of,
            name,
            told: (
              <>
                {n} {n === 1 ? 'position' : 'positions'} · {tuning}
                {levels && <LevelBar {...levels} />}
              </>
            ),
          })),
        },
      ]}
      chosen={chosen}
      asked={asked}
      add={<AddGuitar />}
      empty="No guitar yet. Add one, and measure it by playing, from a file, or type its figures."
    >
      {chosen !== undefined && <GuitarSheet key={chosen} id={chosen} />}
    </KitPage>
  )
}

/** A guitar's first position from −100 to 0 dBFS: its noise at rest, and a hard strum from mean level to peak. */
function LevelBar({ peakDbfs, rmsDbfs, restDbfs }: NonNullable<GuitarSummary['levels']>) {
  const at = (db: number) => `${100 * levelShare(db)}%`
  return (
    <>
      <span className="relative mt-1.5 mb-1 block h-2" aria-hidden="true">
        <span className="absolute inset-x-0 top-[3px] border-t border-control" />
        <span className="absolute inset-y-0 w-[2px] bg-ink" style={{ left: at(restDbfs) }} />
        <span
          className="absolute top-[2px] h-[4px] bg-ink"
          style={{ left: at(rmsDbfs), width: `${100 * (levelShare(peakDbfs) - levelShare(rmsDbfs))}%` }}
        />
      </span>
      <span className="block whitespace-nowrap">
        <span className="num">{figure(peakDbfs)}</span> peak, <span className="num">{figure(restDbfs)}</span> dBFS at rest
      </span>
    </>
  )
}

/** A guitar to begin with, whose figures are measured or typed over. */
function AddGuitar() {
  const dispatch = useAppDispatch()
  const navigate = useNavigate()
  const [create] = useCreateGuitarMutation()
  const [busy, setBusy] = useState(false)
  const add = async (document: GuitarDocument) => {
    setBusy(true)
    const answer = await create(document)
    setBusy(false)
    if (answer.error) dispatch(notified({ kind: 'warning', text: `Not added: ${sentenceOf(answer.error)}` }))
    else void navigate(`/kit/guitars/${answer.data.id}`)
  }
  return (
    <Menu>
      <MenuButton className="act mx-3.5 my-2" disabled={busy}>
        Add a guitar
        <Chevron />
      </MenuButton>
      <MenuItems modal={false} anchor="bottom start" className="menu">
        {GUITARS.map((g) => (
          <MenuItem key={g.name}>
            <button type="button" className="menu-item" onClick={() => void add(asDocument(g))}>
              {g.name} <kbd>{g.positions.length} positions</kbd>
            </button>
          </MenuItem>
        ))}
      </MenuItems>
    </Menu>
  )
}
