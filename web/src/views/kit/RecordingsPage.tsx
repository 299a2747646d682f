import { useState, type DragEvent } from 'react'
import { useNavigate, useParams } from 'react-router'
import { shippedRiffs } from '@fulgor/core/riffs'
import type { RecordingUse } from '@fulgor/core/recording'
import { useRecordingsQuery } from '../../api/api'
import { useAddRecording } from '../../reference/useAddRecording'
import { ALL_OF_THEM } from '../../state/fetched'
import { figure } from '../../ui/format'
import { AddRecording } from './AddRecording'
import { KitPage, type KitItem } from './KitPage'
import { RecordingSheet } from './RecordingSheet'
import { ReferenceSheet } from './ReferenceSheet'
import { ShippedRiff } from './ShippedRiff'

const WORDS: Record<RecordingUse, { label: string; to: string; empty: string }> = {
  riff: { label: 'Riffs', to: '/kit/riffs', empty: '' },
  backing: {
    label: 'Backings',
    to: '/kit/backings',
    empty: 'No backing yet. Add a recording of the band without you; a listening place then plays it along with the riff.',
  },
  reference: {
    label: 'References',
    to: '/kit/references',
    empty:
      'No reference yet. Add a recording whose sound you want to come near to: a desk mix, an album track, your own take of last year. It stays on this machine.',
  },
}

/** Dry riffs, own and shipped, backings, or references; the chosen one beside the list. */
function RecordingsPage({ use }: { use: RecordingUse }) {
  const { id } = useParams()
  const navigate = useNavigate()
  const { label, to, empty } = WORDS[use]
  const asked = useRecordingsQuery(ALL_OF_THEM)
  const { add, taking } = useAddRecording(use, (added) => void navigate(`${to}/${added}`))
  const [over, setOver] = useState(false)
  const own: KitItem[] = (asked.data?.items ?? [])
    .filter((r) => r.use === use)
    .map(({ id: of, name, seconds, part, tempo }) => ({
      id: of,
      name,
      told: (
        <span className="num">
          {figure(part ? part.to - part.from : seconds)} s{part ? ` of ${figure(seconds)}` : ''}
          {tempo === null ? '' : ` · ${figure(tempo, tempo % 1 ? 1 : 0)} bpm`}
        </span>
      ),
    }))
  const shipped: KitItem[] =
    use === 'riff' ? shippedRiffs.map((r) => ({ id: r.id, name: r.name, told: `${r.bars} bars, from a score` })) : []
  const chosen = id ?? [...own, ...shipped].at(0)?.id
  const groups =
    use !== 'riff'
      ? [{ items: own }]
      : [...(own.length > 0 ? [{ heading: 'Your own', items: own }] : []), { heading: 'Shipped', items: shipped }]
  const onDrop = (event: DragEvent) => {
    event.preventDefault()
    setOver(false)
    void add(event.dataTransfer.files[0])
  }
  return (
    <div
      className={`grid min-h-0 min-w-0 ${over ? 'outline-2 -outline-offset-4 outline-lane outline-dashed' : ''}`}
      onDragOver={(event) => {
        event.preventDefault()
        setOver(true)
      }}
      onDragLeave={() => setOver(false)}
      onDrop={onDrop}
    >
      <KitPage
        label={label}
        to={to}
        groups={groups}
        chosen={chosen}
        asked={asked}
        add={<AddRecording use={use} taking={taking} onFile={(file) => void add(file)} />}
        empty={empty}
      >
        {chosen !== undefined &&
          (shippedRiffs.some((r) => r.id === chosen) ? (
            <ShippedRiff id={chosen} />
          ) : use === 'reference' ? (
            <ReferenceSheet key={chosen} id={chosen} to={to} />
          ) : (
            <RecordingSheet key={chosen} id={chosen} to={to} />
          ))}
      </KitPage>
    </div>
  )
}

export const RiffsPage = () => <RecordingsPage key="riff" use="riff" />
export const BackingsPage = () => <RecordingsPage key="backing" use="backing" />
export const ReferencesPage = () => <RecordingsPage key="reference" use="reference" />
