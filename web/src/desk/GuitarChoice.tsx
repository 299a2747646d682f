import { GUITARS, profileOf } from '@fulgor/core/guitar'
import { handOf, madeOn, type Preset } from '@fulgor/core/preset'
import { sentenceOf, useGuitarsQuery } from '../api/api'
import { fetchGuitar } from '../state/fetched'
import { notified } from '../state/notices'
import { playOnGuitar, setHand, type Playable } from '../state/hand'
import { useAppDispatch, useAppSelector } from '../state/store'
import { Pick } from '../ui/Pick'

/** Id of a shipped guitar inside a preset. */
const shippedId = (name: string): string => name.toLowerCase().replace(/[^a-z]+/g, '-')

/** The preset's own guitars, then those of the Kit, then the shipped ones; each once. */
export function usePlayable(
  preset: Preset,
): readonly (Omit<Playable, 'profile'> & { readonly name: string; readonly profile?: Playable['profile'] })[] {
  const { data } = useGuitarsQuery({ sort: 'name' })
  const own = preset.guitars.map((profile) => ({ id: profile.id, name: profile.name, profile, kit: profile.kit }))
  const kit = (data?.items ?? [])
    .filter((g) => !own.some((o) => o.kit === g.id || o.id === g.id))
    .map((g) => ({ id: g.id, name: g.name, kit: g.id }))
  const shipped = GUITARS.filter((g) => ![...own, ...kit].some((o) => o.name === g.name)).map((profile) => ({
    id: shippedId(profile.name),
    name: profile.name,
    profile,
  }))
  return [...own, ...kit, ...shipped]
}

/** Which guitar plays, and its switch; the shipped riffs sound on it, and breakup is told in its strokes. */
export function GuitarChoice({ preset }: { preset: Preset }) {
  const dispatch = useAppDispatch()
  const lit = useAppSelector((s) => s.editor.snapshot)
  const playable = usePlayable(preset)
  const { guitar, profile, position } = handOf(preset, lit)
  const made = madeOn(preset)
  const choose = async (id: string) => {
    const found = playable.find((g) => g.id === id)
    if (!found) return
    let from = found.profile
    if (!from) {
      try {
        from = profileOf((await fetchGuitar(dispatch, id)).document)
      } catch (error) {
        dispatch(notified({ kind: 'warning', text: `“${found.name}” could not be had from the Kit: ${sentenceOf(error)}` }))
        return
      }
    }
    dispatch(playOnGuitar({ id, profile: from, ...(found.kit === undefined ? {} : { kit: found.kit }) }))
  }
  return (
    <>
      <Pick
        label="Guitar"
        value={guitar}
        options={playable.map((g) => [g.id, g.id === made.id ? `${g.name}, made on it` : g.name] as const)}
        short={() => profile.name}
        onChange={(id) => void choose(id)}
      />
      {profile.positions.length > 1 && (
        <Pick
          label="Pickup position"
          value={String(position)}
          options={profile.positions.map((p, i) => [String(i), `${i + 1} ${p.name}`] as const)}
          short={(i) => profile.positions[Number(i)].name}
          onChange={(i) => dispatch(setHand({ position: Number(i) }))}
        />
      )}
    </>
  )
}
