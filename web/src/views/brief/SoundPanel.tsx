import { useNavigate } from 'react-router'
import { startOf, STARTS } from '@fulgor/core/begin'
import { quantity } from '@fulgor/core/catalogue'
import type { ShownPreset } from '@fulgor/core/plan'
import { applyEdit } from '@fulgor/core/preset'
import { TEMPO_RANGE } from '@fulgor/core/recording'
import { PRIORITIES, SOUND_ROLES, soundFields, type NeededSound, type Show } from '@fulgor/core/show'
import {
  api,
  sentenceOf,
  useCreatePresetMutation,
  useGuitarsQuery,
  useLazyGuitarQuery,
  usePlacesQuery,
  useRecordingsQuery,
} from '../../api/api'
import { ALL_OF_THEM, fetchPreset } from '../../state/fetched'
import { newId } from '../../state/ids'
import { notified } from '../../state/notices'
import { useAppDispatch } from '../../state/store'
import { SoundPick } from '../../show/SoundPick'
import { NumberField } from '../../ui/NumberField'
import { Pick } from '../../ui/Pick'
import { Segments } from '../../ui/Segments'
import { TextField } from '../../ui/TextField'
import { Steps } from './Steps'

interface Props {
  show: Show
  sound: NeededSound
  presets: readonly ShownPreset[]
  onSound: (sound: NeededSound, key?: string) => void
  onSchool: (school: Show['school']) => void
  onRemove: () => void
}

const LINE = 'flex min-h-7 items-baseline justify-between gap-x-3 border-t border-rule py-0.5'
const FIELD = 'min-h-6 border-b border-control bg-transparent text-right outline-none focus:border-ink'

/** One sound: what it is to be, what answers it, and the way there. */
export function SoundPanel({ show, sound, presets, onSound, onSchool, onRemove }: Props) {
  const dispatch = useAppDispatch()
  const navigate = useNavigate()
  const [create] = useCreatePresetMutation()
  const [askGuitar] = useLazyGuitarQuery()
  const { data: guitars } = useGuitarsQuery(ALL_OF_THEM)
  const { data: places } = usePlacesQuery(ALL_OF_THEM)
  const { data: recordings } = useRecordingsQuery(ALL_OF_THEM)
  const references = (recordings?.items ?? []).filter((r) => r.use === 'reference')
  const put = (change: Partial<NeededSound>, key?: string) => onSound({ ...sound, ...change }, key)
  const gone = (id: string | null, there: readonly { id: string }[] | undefined) =>
    id !== null && there && !there.some((t) => t.id === id) ? [[id, 'one that is not in the Kit'] as const] : []
  const words = (field: 'song' | 'part', label: string) => (
    <TextField
      label={label}
      value={sound[field]}
      maxLength={soundFields[field].most}
      className={`w-[118px] ${FIELD}`}
      onCommit={(text) => {
        put({ [field]: text.trim() })
        return null
      }}
    />
  )
  const failed = (what: string) => dispatch(notified({ kind: 'warning', text: `Not begun: ${what}` }))
  const begin = async () => {
    const kit = sound.guitar?.kit
    const guitar = kit === undefined ? undefined : (await askGuitar(kit)).data
    const made = startOf(
      sound.role,
      sound.name,
      sound.tempo,
      guitar && sound.guitar
        ? { profile: guitar.document, kit: guitar.id, position: Math.min(sound.guitar.position, guitar.document.positions.length - 1) }
        : undefined,
    )
    const answer = await create({
      ...made,
      tags: [show.name],
      ...(sound.reference !== null ? { reference: sound.reference } : {}),
      notes: sound.words,
    })
    if (answer.error) return failed(sentenceOf(answer.error))
    put({ answer: { preset: answer.data.id, snapshot: made.snapshots[0].id } })
    await navigate(`/sheet/${answer.data.id}`)
  }
  /** A snapshot of its own in a preset that is there, grown from its first one. */
  const grow = async (preset: string) => {
    try {
      const now = await fetchPreset(dispatch, preset)
      const id = newId()
      const from = now.document.snapshots[0].id
      const copied = applyEdit(now.document, { type: 'duplicateSnapshot', source: from, snapshot: id, name: sound.name })
      const document = applyEdit(copied, { type: 'moveSnapshot', snapshot: id, index: copied.snapshots.length - 1 })
      await dispatch(
        api.endpoints.updatePreset.initiate({
          id: preset,
          document,
          baseRevision: now.revision,
          save: true,
          note: `${sound.name}, for ${show.name}`,
        }),
      ).unwrap()
      put({ answer: { preset, snapshot: id } })
      await navigate(`/sheet/${preset}?snapshot=${id}`)
    } catch (error) {
      failed(error instanceof RangeError ? error.message : sentenceOf(error))
    }
  }
  return (
    <div className="text-[12px]" data-chosen={sound.id}>
      <h2 className="text-section font-bold">
        <TextField
          label="Name of the sound"
          value={sound.name}
          maxLength={soundFields.name.most}
          className="w-full min-h-6 border-b border-transparent bg-transparent outline-none hover:border-control focus:border-ink"
          onCommit={(text) => {
            if (text.trim() === '') return 'A sound needs a name.'
            put({ name: text.trim() })
            return null
          }}
        />
      </h2>
      <TextField
        label="Words for the sound"
        value={sound.words}
        maxLength={soundFields.words.most}
        className="w-full min-h-6 border-b border-control bg-transparent text-ink2 outline-none focus:border-ink"
        onCommit={(text) => {
          put({ words: text.trim() })
          return null
        }}
      />
      <div className={LINE}>
        <span className="text-ink2">Song, part</span>
        <span className="flex gap-2">
          {words('song', 'Song')}
          {words('part', 'Part')}
        </span>
      </div>
      <div className={LINE}>
        <span className="text-ink2">Role, need</span>
        <span className="flex gap-4">
          <Pick
            label="Role"
            value={sound.role}
            options={SOUND_ROLES.map((r) => [r, STARTS[r].name] as const)}
            onChange={(role) => put({ role })}
          />
          <Pick
            label="Need"
            value={sound.priority}
            options={PRIORITIES.map((p) => [p, `${p} be there`] as const)}
            onChange={(priority) => put({ priority })}
          />
        </span>
      </div>
      <div className={LINE}>
        <span className="text-ink2">Tempo</span>
        <NumberField
          spec={quantity('bpm', 'Tempo of the sound', TEMPO_RANGE, 120)}
          value={sound.tempo}
          empty={{ word: 'any', onEmpty: () => put({ tempo: null }) }}
          onChange={(tempo) => put({ tempo }, 'tempo')}
        />
      </div>
      <div className={LINE}>
        <span className="text-ink2">Guitar</span>
        <span className="flex gap-3">
          <Pick
            label="Guitar"
            value={sound.guitar?.kit ?? ''}
            options={[
              ['', 'any'] as const,
              ...(guitars?.items ?? []).map((g) => [g.id, g.name] as const),
              ...gone(sound.guitar?.kit ?? null, guitars?.items),
            ]}
            onChange={(kit) => put({ guitar: kit === '' ? null : { kit, position: 0 } })}
          />
          {sound.guitar && (
            <Pick
              label="Position"
              value={String(sound.guitar.position)}
              options={Array.from(
                { length: guitars?.items.find((g) => g.id === sound.guitar?.kit)?.positionCount ?? sound.guitar.position + 1 },
                (_, i) => [String(i), `position ${i + 1}`],
              )}
              onChange={(n) => sound.guitar && put({ guitar: { ...sound.guitar, position: Number(n) } })}
            />
          )}
        </span>
      </div>
      <div className={LINE}>
        <span className="text-ink2">Heard at</span>
        <Pick
          label="Place"
          value={sound.place ?? ''}
          options={[
            ['', 'not told'] as const,
            ...(places?.items ?? []).map((p) => [p.id, p.name] as const),
            ...gone(sound.place, places?.items),
          ]}
          onChange={(place) => put({ place: place === '' ? null : place })}
        />
      </div>
      <div className={LINE}>
        <span className="text-ink2">Close to</span>
        <Pick
          label="Reference"
          value={sound.reference ?? ''}
          options={[
            ['', 'no recording'] as const,
            ...references.map((r) => [r.id, r.name] as const),
            ...gone(sound.reference, recordings?.items),
          ]}
          onChange={(reference) => put({ reference: reference === '' ? null : reference })}
        />
      </div>
      <div className="border-t border-ink pt-1">
        <div className="flex min-h-7 items-baseline justify-between gap-x-3">
          <b className="whitespace-nowrap">Answered by</b>
          <SoundPick label="Answered by" value={sound.answer} presets={presets} none="nothing yet" onChange={(answer) => put({ answer })} />
        </div>
        {sound.answer === null && (
          <>
            <p className="text-ink2">
              {STARTS[sound.role].name}: {STARTS[sound.role].about}
            </p>
            <div className="flex flex-wrap items-baseline gap-x-4 py-1">
              <button type="button" className="btn btn-filled" onClick={() => void begin()}>
                Begin this sound
              </button>
              {presets.length > 0 && (
                <Pick
                  label="Or a snapshot of"
                  value=""
                  options={[['', 'or as a snapshot of …'] as const, ...presets.map((p) => [p.id, p.preset.name] as const)]}
                  onChange={(id) => {
                    if (id !== '') void grow(id)
                  }}
                />
              )}
            </div>
          </>
        )}
        {sound.answer !== null && (
          <p className="py-1">
            <button
              type="button"
              className="act"
              onClick={() => void navigate(`/sheet/${sound.answer?.preset}?snapshot=${sound.answer?.snapshot}`)}
            >
              Open it on the Sheet
            </button>
          </p>
        )}
      </div>
      <div className="flex items-baseline justify-between border-t border-ink pt-1">
        <h3 className="text-[13px] font-bold">The way there</h3>
        <Segments
          label="Where to begin"
          value={show.school}
          options={[
            ['cabinet', 'cabinet first'],
            ['amp', 'amp first'],
          ]}
          onChange={onSchool}
        />
      </div>
      <Steps
        sound={sound}
        school={show.school}
        preset={presets.find((p) => p.id === sound.answer?.preset) ?? null}
        onSteps={(steps) => put({ steps })}
      />
      <p className="border-t border-rule py-1">
        <button type="button" className="act font-normal" onClick={onRemove}>
          Delete this sound
        </button>
      </p>
    </div>
  )
}
