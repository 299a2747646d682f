import { Suspense, useMemo, useState, type ReactNode } from 'react'
import { Link } from 'react-router'
import type { PlaceSummary } from '@fulgor/core/api'
import { quantity } from '@fulgor/core/catalogue'
import {
  allowedHours,
  backingFields,
  bandsDb,
  comparePlaces,
  CONTOUR_HZ,
  differenceWords,
  LIMIT_DBA,
  MAX_PLACE_BANDS,
  placeBandFields,
  PLACE_LUFS,
  placeDocFields,
  proposeCorrection,
  type Place,
  type PlaceBacking,
  type PlaceBand,
} from '@fulgor/core/place'
import { useDeletePlaceMutation, usePlaceQuery, useRecordingsQuery } from '../../api/api'
import { ALL_OF_THEM } from '../../state/fetched'
import { Explain } from '../../ui/Explain'
import { figure } from '../../ui/format'
import { HERTZ_AXIS } from '../../ui/hertzAxis'
import { LazyChart } from '../../ui/LazyChart'
import { WarningMark } from '../../ui/marks'
import { NumberField } from '../../ui/NumberField'
import { Pick } from '../../ui/Pick'
import { Segments } from '../../ui/Segments'
import { KitHead, NotThere } from './KitHead'
import { KitRemove } from './KitRemove'
import { MeasuredPlace } from './MeasuredPlace'
import { placeSource } from './placeSource'
import { useKitDocument } from '../../state/useKitDocument'

interface Props {
  id: string
  /** Id of the place that the player sits at. */
  here: string | null
  others: readonly PlaceSummary[]
  onHere: () => void
}

/** One listening place: how loud and how it sounds there, against the place where the sound was made. */
export function PlaceSheet({ id, here, others, onHere }: Props) {
  const editing = useKitDocument(id, placeSource)
  const [remove] = useDeletePlaceMutation()
  const { document: place, missing, standing, change } = editing
  if (missing !== null || !place) return <NotThere missing={missing} to="/kit/places" others="The places that are there" />
  const put = (part: Partial<Place>, key?: string) => change({ ...place, ...part }, key)
  return (
    <div
      className="grid min-h-0 min-w-0 grid-cols-[minmax(0,1fr)_392px] max-[1180px]:block max-[1180px]:overflow-auto"
      data-sync={standing.sync}
    >
      <section aria-label="Against another place" className="min-h-0 min-w-0 overflow-auto px-4 py-2">
        <KitHead kind="place" name={place.name} most={placeDocFields.name.most} editing={editing} onName={(name) => put({ name })}>
          <KitRemove kind="place" id={id} name={place.name} to="/kit/places" keeps={['uses it.', 'use it.']} remove={remove} />
        </KitHead>
        <Against id={id} place={place} here={here} others={others} onCorrection={(correction) => put({ correction })} />
      </section>
      <section
        aria-label="What the place is"
        className="min-h-0 min-w-0 overflow-auto border-l border-rule2 px-4 py-2 text-[12px] max-[1180px]:border-t max-[1180px]:border-l-0"
      >
        <h2 className="text-section font-bold">
          How it is there <Explain term="places" />
        </h2>
        <div className="flex items-baseline justify-between border-t border-rule py-1">
          <span>−18 LUFS is as loud as</span>
          <span>
            <NumberField
              spec={quantity('db', 'Level of the place', placeDocFields.level.range, 80)}
              value={place.level}
              format={(db) => figure(db, db % 1 ? 1 : 0)}
              className="num w-[44px] border-b border-control bg-transparent text-right outline-none focus:border-ink"
              onChange={(level) => put({ level }, 'level')}
            />{' '}
            dB SPL
          </span>
        </div>
        <div className="flex items-baseline justify-between border-t border-rule py-1">
          <span>Sides</span>
          <Segments
            label="Sides"
            value={place.mono ? 'mono' : 'stereo'}
            options={[
              ['stereo', 'Stereo'],
              ['mono', 'Mono, both summed'],
            ]}
            onChange={(sides) => put({ mono: sides === 'mono' })}
          />
        </div>
        <Exposure level={place.level} />
        <h2 className="mt-3 border-t border-ink pt-1 text-section font-bold">What it does to the sound</h2>
        <Bands
          label="Band"
          bands={place.response}
          most={MAX_PLACE_BANDS}
          empty="Nothing: it is heard as it comes."
          onChange={(response, key) => put({ response }, key)}
        >
          <MeasuredPlace onBands={(response) => put({ response })} />
        </Bands>
        <h2 className="mt-3 border-t border-ink pt-1 text-section font-bold">What you set against it there</h2>
        <Bands
          label="Correction"
          bands={place.correction ?? []}
          most={3}
          empty="Nothing yet. It goes into an export only where you say so there."
          onChange={(correction, key) => put({ correction: correction.length === 0 ? null : correction }, key)}
        />
        <Band
          backing={place.backing ?? null}
          onChange={(backing, key) => {
            const { backing: _, ...rest } = place
            change(backing ? { ...rest, backing } : rest, key)
          }}
        />
        <p className="mt-3 border-t border-ink pt-2">
          {here === id ? (
            <b className="font-semibold text-lane">You sit here: other places are heard from here.</b>
          ) : (
            <button type="button" className="act" onClick={onHere}>
              I sit here: hear other places from here
            </button>
          )}
        </p>
        <p className="mt-1 text-[11.5px] text-ink3">
          Choose in the player bar through which place you listen. The level itself is yours: what changes is the balance.
        </p>
      </section>
    </div>
  )
}

/** The place against the one that the sound was made at. */
function Against(props: {
  id: string
  place: Place
  here: string | null
  others: readonly PlaceSummary[]
  onCorrection: (correction: Place['correction']) => void
}) {
  const { id, place, here, others, onCorrection } = props
  const rest = others.filter((p) => p.id !== id)
  const [wanted, setWanted] = useState<string | null>(null)
  const from = wanted ?? (here !== null && here !== id ? here : (rest.at(0)?.id ?? ''))
  const { data } = usePlaceQuery(from, { skip: from === '' })
  const made = data?.document ?? null
  const drawn = useMemo(() => {
    if (!made) return null
    const bare = { ...place, correction: null }
    const difference = comparePlaces(made, bare)
    const points = (db: readonly number[]) => CONTOUR_HZ.map((hz, k) => [hz, db[k]] as const)
    return {
      words: differenceWords(made, bare),
      proposed: proposeCorrection(made, place),
      curves: [
        { label: 'the ear', points: points(difference.ear), tone: 'ink-2' as const, dashed: true },
        { label: 'the place', points: points(difference.response), tone: 'lane' as const, dashed: true },
        { label: 'together', points: points(difference.sum), tone: 'ink' as const },
        ...(place.correction
          ? [{ label: 'with what you set', points: points(comparePlaces(made, place).sum), tone: 'ember' as const }]
          : []),
      ],
    }
  }, [made, place])
  if (rest.length === 0) return <p className="mt-2 text-ink2">Add a second place to hear what changes on the way.</p>
  return (
    <div className="mt-1" data-against={from}>
      <p className="flex flex-wrap items-baseline gap-x-2 text-[12px] text-ink2">
        Made at
        <Pick label="Made at" value={from} options={rest.map((p) => [p.id, p.name] as const)} onChange={setWanted} />
        and heard at {place.name}
      </p>
      {drawn && (
        <>
          <p className="my-1 font-head text-[19px] leading-[1.25] font-bold" data-difference="">
            {drawn.words}
          </p>
          <div className="h-[250px]">
            <Suspense fallback={null}>
              <LazyChart
                curves={drawn.curves}
                x={{ ...HERTZ_AXIS, min: 40, max: 12_500 }}
                y={{ min: -12, max: 12, interval: 6, unit: 'dB' }}
                height={250}
                label={`How a balance made at ${made?.name ?? ''} is heard at ${place.name}, dB a band`}
              />
            </Suspense>
          </div>
          <p className="text-[11.5px] text-ink3">
            The ear after ISO 226:2003, equal at 1 kHz; levels above 90 phon are beyond what the standard was measured for at low
            frequencies.
          </p>
          <div className="mt-2 border-t border-ink pt-1 text-[12px]" data-proposed={drawn.proposed.length}>
            <div className="flex flex-wrap items-baseline gap-x-4">
              <h2 className="text-section font-bold">Proposed for {place.name}</h2>
              {drawn.proposed.length === 0 ? (
                <span className="text-ink2">Nothing is needed.</span>
              ) : (
                <>
                  {drawn.proposed.map((band) => (
                    <span key={`${band.kind} ${band.hz}`}>
                      {KIND_WORDS[band.kind].toLowerCase()} <span className="num">{hertz(band.hz)}</span>{' '}
                      <b className="num text-ember">{figure(band.db, 1, true)} dB</b>
                    </span>
                  ))}
                  <button type="button" className="btn ml-auto" onClick={() => onCorrection(drawn.proposed)}>
                    Keep it for this place
                  </button>
                </>
              )}
            </div>
          </div>
          <table className="mt-2 w-full text-[12px]" aria-label="Difference in figures">
            <thead>
              <tr className="text-label text-ink3">
                <th className="text-left font-normal">dB there against made</th>
                {TOLD.map((hz) => (
                  <th key={hz} className="num text-right font-normal">
                    {hertz(hz)}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {drawn.curves.map(({ label, points }) => (
                <tr key={label} className="border-t border-rule">
                  <td>{label}</td>
                  {TOLD.map((hz) => (
                    <td key={hz} className="num text-right">
                      {figure(points.find(([f]) => f === hz)?.[1] ?? 0, 1, true)}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </>
      )}
    </div>
  )
}

const TOLD = [63, 125, 250, 500, 1_000, 2_000, 4_000, 8_000]
const hertz = (hz: number): string => (hz >= 1_000 ? `${Number((hz / 1_000).toFixed(2))} kHz` : `${Number(hz.toFixed(0))} Hz`)
const KIND_WORDS: Record<PlaceBand['kind'], string> = { low: 'Low shelf', bell: 'Bell', high: 'High shelf' }
const SMALL = 'num w-[66px] border-b border-control bg-transparent text-right outline-none focus:border-ink'

/** Bands that are typed, one a line. */
function Bands(props: {
  label: string
  bands: readonly PlaceBand[]
  most: number
  empty: string
  onChange: (bands: readonly PlaceBand[], key?: string) => void
  children?: ReactNode
}) {
  const { label, bands, most, empty, onChange, children } = props
  const put = (k: number, part: Partial<PlaceBand>) =>
    onChange(
      bands.map((b, i) => (i === k ? { ...b, ...part } : b)),
      `${label} ${k} ${Object.keys(part).join()}`,
    )
  return (
    <div>
      {bands.length === 0 && <p className="text-ink2">{empty}</p>}
      {bands.map((band, k) => (
        <div key={k} className="flex items-baseline gap-x-2 border-t border-rule">
          <Pick
            label={`${label} ${k + 1}, kind`}
            value={band.kind}
            options={(['low', 'bell', 'high'] as const).map((kind) => [kind, KIND_WORDS[kind]] as const)}
            className="w-[92px] text-left"
            onChange={(kind) => put(k, { kind })}
          />
          <NumberField
            spec={{ ...quantity('hz', `${label} ${k + 1}, frequency`, placeBandFields.hz.range, 100), taper: 'log' }}
            value={band.hz}
            className={SMALL}
            onChange={(hz) => put(k, { hz })}
          />
          <NumberField
            spec={quantity('db', `${label} ${k + 1}, gain`, placeBandFields.db.range, 0)}
            value={band.db}
            className={SMALL}
            onChange={(db) => put(k, { db })}
          />
          {band.kind === 'bell' && (
            <NumberField
              spec={quantity('q', `${label} ${k + 1}, Q`, placeBandFields.q.range, 1)}
              value={band.q}
              className="num w-[52px] border-b border-control bg-transparent text-right outline-none focus:border-ink"
              onChange={(q) => put(k, { q })}
            />
          )}
          <button
            type="button"
            className="act ml-auto font-normal"
            aria-label={`Remove ${label.toLowerCase()} ${k + 1}`}
            onClick={() => onChange(bands.filter((_, i) => i !== k))}
          >
            Remove
          </button>
        </div>
      ))}
      <button
        type="button"
        className="act"
        disabled={bands.length >= most}
        onClick={() => onChange([...bands, { kind: 'bell', hz: 200, db: 3, q: 1 }])}
      >
        Add a band
      </button>
      {children}
      {bands.length > 0 && (
        <span className="ml-3 text-ink2">
          at 100 Hz <span className="num">{figure(bandsDb(bands, [100])[0], 1, true)}</span>, at 5 kHz{' '}
          <span className="num">{figure(bandsDb(bands, [5_000])[0], 1, true)} dB</span>
        </span>
      )}
    </div>
  )
}

/** The band that is heard along there. */
function Band(props: { backing: PlaceBacking | null; onChange: (backing: PlaceBacking | null, key?: string) => void }) {
  const { backing, onChange } = props
  const { data } = useRecordingsQuery(ALL_OF_THEM)
  const bands = (data?.items ?? []).filter((r) => r.use === 'backing')
  const chosen = bands.find((b) => b.id === backing?.recording)
  const gone = backing !== null && data !== undefined && !chosen
  return (
    <div data-band="">
      <h2 className="mt-3 border-t border-ink pt-1 text-section font-bold">The band beside you</h2>
      <div className="flex items-baseline gap-x-2 border-t border-rule">
        <Pick
          label="Backing heard along"
          value={backing?.recording ?? ''}
          options={[
            ['', 'none'] as const,
            ...bands.map((b) => [b.id, b.name] as const),
            ...(gone ? [[backing.recording, 'a backing that is not in the Kit'] as const] : []),
          ]}
          onChange={(recording) => onChange(recording === '' ? null : { recording, lufs: backing?.lufs ?? PLACE_LUFS })}
        />
        {backing && (
          <span className="ml-auto whitespace-nowrap">
            at{' '}
            <NumberField
              spec={quantity('lufs', 'Loudness of the backing', backingFields.lufs.range)}
              value={backing.lufs}
              className="num w-[86px] border-b border-control bg-transparent text-right outline-none focus:border-ink"
              onChange={(lufs) => onChange({ ...backing, lufs }, 'backing')}
            />
          </span>
        )}
      </div>
      <p className="text-ink2">
        {bands.length === 0 ? (
          <>
            None in the Kit yet:{' '}
            <Link className="act font-normal" to="/kit/backings">
              add a backing
            </Link>
            .
          </>
        ) : (
          <>
            {chosen?.tempo != null && (
              <>
                <span className="num">{figure(chosen.tempo, chosen.tempo % 1 ? 1 : 0)} bpm. </span>
              </>
            )}
            It starts with the riff, is looped beside it, and never goes into an export.
          </>
        )}
      </p>
    </div>
  )
}

/** How long the usual limits allow such a level, and the caution. */
function Exposure({ level }: { level: number }) {
  const hours = allowedHours(level)
  if (hours === null)
    return (
      <p className="border-t border-rule py-1 text-ink2" data-exposure="">
        Below {LIMIT_DBA} dB(A) the usual limits of exposure name no time.
      </p>
    )
  const told = hours >= 1 ? `${figure(hours, 1)} h` : `${figure(hours * 60, hours * 60 < 10 ? 1 : 0)} min`
  return (
    <p className="border-t border-rule py-1" data-exposure={hours}>
      <WarningMark />{' '}
      <b>
        <span className="num">{told}</span> a day
      </b>{' '}
      is what the usual limit allows at {figure(level, 0)} dB(A): 8 h at 85, half for every 3 dB more. Take it as a caution and not as safe:
      wear protection, start turned down, and follow your local rules and the venue’s or a qualified person’s word.
    </p>
  )
}
