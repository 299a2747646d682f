import { useEffect, useMemo, useRef, useState } from 'react'
import { Link } from 'react-router'
import type { Portrait, Taste, Trusted } from '@fulgor/core/match'
import { WHOLE } from '@fulgor/core/match'
import { applyEdit, type Preset } from '@fulgor/core/preset'
import { useRecordingsQuery, useResponsesQuery } from '../../api/api'
import { ReferenceWave } from '../../reference/ReferenceWave'
import { Statements } from '../../reference/Statements'
import { AddReference, useAddReference } from '../../reference/AddReference'
import { lookedAt, useReference } from '../../reference/useReference'
import { edit, presentPreset } from '../../state/actions'
import { ALL_OF_THEM, fetchResponses } from '../../state/fetched'
import { againstChosen, sideChosen, trialChosen } from '../../state/player'
import { store as browserStore, useAppDispatch, useAppSelector, useAppStore } from '../../state/store'
import { renderers } from '../../threads/crews'
import { renderingOf } from '../../threads/riffSource'
import { Explain } from '../../ui/Explain'
import { figure } from '../../ui/format'
import { Pick } from '../../ui/Pick'
import { Segments } from '../../ui/Segments'
import { Candidates } from './Candidates'
import { Closes, keyOf } from './Closes'
import { distanceFrom, type Row, type Wanted, type Way } from './findWay'
import { HowFar } from './HowFar'
import { soundView, useRecordingSound, useSound } from './useSound'
import { useFinding } from './useFinding'

const NONE = ''
type Page = 'closes' | 'candidates'

/** The open preset beside a recording: how far it is, and what would close the gap. */
export function MatchView() {
  const preset = useAppSelector(presentPreset)
  const lit = useAppSelector((s) => s.editor.snapshot)
  const dispatch = useAppDispatch()
  useEffect(
    () => () => {
      dispatch(trialChosen(null))
      dispatch(againstChosen(null))
    },
    [dispatch],
  )
  if (!preset || lit === null) return null
  return preset.reference === undefined ? (
    <Without preset={preset} lit={lit} />
  ) : (
    <Beside key={preset.reference} preset={preset} lit={lit} reference={preset.reference} />
  )
}

/** Hashes of the library’s responses as it is now. */
const filesNow = async (): Promise<ReadonlySet<string>> => new Set((await fetchResponses(browserStore.dispatch)).map((r) => r.hash))

type Adding = ReturnType<typeof useAddReference>
const DROP = 'data-over:outline-2 data-over:-outline-offset-4 data-over:outline-lane data-over:outline-dashed'

function useAdding(): Adding {
  const dispatch = useAppDispatch()
  return useAddReference((reference) => dispatch(edit({ type: 'setReference', reference })))
}

/** Choice of the recording that the preset is after. */
function Choice({ preset, adding }: { preset: Preset; adding: Adding }) {
  const dispatch = useAppDispatch()
  const { data } = useRecordingsQuery(ALL_OF_THEM)
  const there = (data?.items ?? []).filter((r) => r.use === 'reference')
  const own = preset.reference
  const gone = own !== undefined && data !== undefined && !there.some((r) => r.id === own)
  const choose = (id: string) => dispatch(edit({ type: 'setReference', reference: id === NONE ? null : id }))
  return (
    <span className="flex min-w-0 flex-wrap items-baseline gap-x-3">
      <Pick
        label="Reference"
        value={own ?? NONE}
        options={[
          [NONE, 'no recording'] as const,
          ...there.map((r) => [r.id, r.name] as const),
          ...(gone ? [[own, 'a recording that is not in the Kit'] as const] : []),
        ]}
        className="font-bold"
        onChange={choose}
      />
      <AddReference add={adding.add} taking={adding.taking} />
    </span>
  )
}

/** Before a recording is chosen: candidates can be compared all the same. */
function Without({ preset, lit }: { preset: Preset; lit: string }) {
  const adding = useAdding()
  return (
    <main
      {...adding.dropping}
      className={`${DROP} grid min-h-0 min-w-0 grid-cols-[minmax(0,1fr)_minmax(0,1fr)] max-[1000px]:block max-[1000px]:overflow-auto`}
    >
      <section aria-label="Match" className="min-h-0 overflow-auto px-4 py-2">
        <h1 className="flex flex-wrap items-baseline gap-x-3 text-title">
          Match <Explain term="match" />{' '}
          <span className="text-[13px]">
            <Choice preset={preset} adding={adding} />
          </span>
        </h1>
        <p className="my-2 max-w-[520px] text-[12.5px] text-ink2">
          Drop a recording whose sound you are after, or choose one of the Kit; mark the bars that matter. You are told what it is, how far
          this snapshot is from it, and what would bring it closer, each heard by an arrow key. The file stays on this machine.
        </p>
      </section>
      <div className="min-h-0 overflow-auto border-l border-rule2 px-4 py-2 max-[1000px]:border-l-0">
        <Candidates preset={preset} lit={lit} />
      </div>
    </main>
  )
}

function Beside({ preset, lit, reference }: { preset: Preset; lit: string; reference: string }) {
  const dispatch = useAppDispatch()
  const store = useAppStore()
  const adding = useAdding()
  const of = useReference(reference, false)
  const { recording, editing, inspection } = of
  const [page, setPage] = useState<Page>('closes')
  const [take, setTake] = useState<string | null>(null)
  const [order, setOrder] = useState<Wanted['order']>('cabinet')
  const [tastes, setTastes] = useState<readonly Taste[]>([])
  const [eq, setEq] = useState<Wanted['eq']>({ bands: 3, cutOnly: false, mostDb: 9, mostQ: 6, place: 'behind the cabinet' })
  const snapshot = preset.snapshots.find((s) => s.id === lit) ?? preset.snapshots[0]
  const takes = snapshot.takes ?? []
  const heardTake = takes.some((t) => t.file === take) ? take : null
  const view = recording?.view ?? 'mid'
  const now = useSound(preset, snapshot.id, heardTake, view)
  const sound = useRecordingSound(recording)
  const report = inspection.answer?.report ?? null
  const trusted: Trusted = report?.trusted ?? WHOLE
  const key = recording ? JSON.stringify(lookedAt(recording)) : ''
  const aim = useMemo<Wanted['aim']>(() => {
    const [file, parts] = key === '' ? ['', []] : (JSON.parse(key) as ReturnType<typeof lookedAt>)
    return { file, parts, view, trusted: { fromHz: trusted.fromHz, toHz: trusted.toHz }, tastes }
  }, [key, view, trusted.fromHz, trusted.toHz, tastes])
  const wanted = useMemo<Wanted>(() => ({ order, aim, eq }), [order, aim, eq])
  const { data: files } = useResponsesQuery(undefined)
  const { finding, find, first, cancel } = useFinding()
  const [heard, setHeard] = useState<{ key: string; row: Row } | null>(null)
  const playing = useAppSelector((s) => s.player.trial !== null)
  // something else has taken the trial away
  const shown = playing ? heard : null

  const lufs = sound.answer?.lufs ?? null
  const name = recording?.name ?? ''
  useEffect(() => {
    if (key === '') return
    const [file, parts, of] = JSON.parse(key) as ReturnType<typeof lookedAt>
    dispatch(againstChosen({ key, name, file, parts, view: of, lufs }))
  }, [key, name, lufs, dispatch])

  const hear = (row: Row | null) => {
    if (!row) {
      setHeard(null)
      dispatch(trialChosen(null))
      return
    }
    const step = finding.way?.steps.find((s) => s.rows.includes(row))?.step ?? 'cabinet'
    const of = applyEdit(finding.of?.preset ?? preset, row.whole)
    const gainOf = (portrait: Portrait | null) => (portrait?.lufs != null && now.answer?.lufs != null ? now.answer.lufs - portrait.lufs : 0)
    setHeard({ key: keyOf(step, row), row })
    dispatch(sideChosen('A'))
    dispatch(trialChosen({ preset: of, gainDb: gainOf(row.portrait) }))
    if (row.portrait) return
    // what nobody has rendered yet is turned to the sheet’s loudness as soon as it is measured
    renderers.run({ task: 'portrait', args: [renderingOf(of, snapshot.id, 'live'), soundView(view)], rank: 'now', key: null }).then(
      (portrait) => {
        if (store.getState().player.trial?.preset !== of) return
        setHeard({ key: keyOf(step, row), row: { ...row, portrait } })
        dispatch(trialChosen({ preset: of, gainDb: gainOf(portrait) }))
      },
      () => undefined,
    )
  }
  // edits that were found name stages of the sheet as it was, and bring ids of new ones: they fit that sheet alone
  const moved =
    finding.of !== null &&
    (finding.of.preset.chain !== preset.chain || finding.of.preset.snapshots !== preset.snapshots || finding.of.snapshot !== snapshot.id)
  const old = moved || (finding.of !== null && finding.of.key !== JSON.stringify(wanted))
  const take1 = (row: Row) => {
    if (moved) return
    setHeard(null)
    dispatch(trialChosen(null))
    dispatch(edit(row.whole))
  }
  const takeAll = (way: Way) => {
    const last = way.steps.findLast((s) => s.taken !== null)
    const row = last?.rows[last.taken ?? 0]
    if (row) take1(row)
  }
  // what was found for another sheet is no longer laid over this one
  const stale = useRef(preset)
  useEffect(() => {
    if (stale.current === preset) return
    stale.current = preset
    setHeard(null)
    dispatch(trialChosen(null))
  }, [preset, dispatch])

  // the nearest files of the library stand there as soon as there is something to be near to
  const heardSound = sound.fresh ? sound.answer : null
  const heardNow = now.fresh && heardTake === null ? now.answer : null
  const told = inspection.fresh ? report : null
  const searched = finding.way !== null && !finding.first
  const { running } = finding
  useEffect(() => {
    if (!told || !heardSound || !heardNow || !files || searched || running) return
    first({ preset, snapshot: snapshot.id, report: told, recording: heardSound, now: heardNow, files, wanted, filesNow })
  }, [told, heardSound, heardNow, files, wanted, first, searched, running, preset, snapshot.id])

  if (editing.missing !== null)
    return (
      <main className="px-4 py-2">
        <h1 className="flex flex-wrap items-baseline gap-x-3 text-title">
          Match{' '}
          <span className="text-[13px]">
            <Choice preset={preset} adding={adding} />
          </span>
        </h1>
        <p role="alert" className="my-2">
          {editing.missing} Choose another recording, or bring it back from the bin of the Kit.
        </p>
      </main>
    )
  const portrait: Portrait | null = now.answer ?? null
  const ready = report !== null && sound.answer !== null && portrait !== null && recording !== null && heardTake === null
  return (
    <main
      {...adding.dropping}
      className={`${DROP} match grid min-h-0 min-w-0 grid-cols-[minmax(0,1.08fr)_minmax(0,1fr)] max-[1000px]:block max-[1000px]:overflow-auto`}
      data-match={portrait && report ? 'ready' : 'working'}
    >
      <div className="min-h-0 min-w-0 overflow-auto px-4 py-1.5">
        <h1 className="flex flex-wrap items-baseline gap-x-3 text-title">
          Match <Explain term="match" />
          <span className="text-[13px]">
            <Choice preset={preset} adding={adding} />
          </span>
          {report && (
            <span className="num text-[11px] font-normal text-ink2">
              {figure(sound.answer?.lufs)} LUFS, crest {figure(report.crestDb)} dB
            </span>
          )}
          <Link className="act ml-auto text-[12px]" to={`/kit/references/${reference}`}>
            In the Kit
          </Link>
        </h1>
        <ReferenceWave of={of} height={64} heard={false} />
        {takes.length > 0 && (
          <div className="flex items-baseline gap-2 text-[12px]">
            <span className="text-ink2">Compared is</span>
            <Pick
              label="What is compared"
              value={heardTake ?? NONE}
              options={[
                [NONE, 'this snapshot on its riff'] as const,
                ...takes.map((t) => [t.file, `take of ${t.device}, ${t.date}`] as const),
              ]}
              className="font-semibold"
              onChange={(next) => setTake(next === NONE ? null : next)}
            />
          </div>
        )}
        {now.problem !== null && <p role="alert">{now.problem}</p>}
        {now.fresh && now.answer === null && now.problem === null && (
          <p role="alert">{snapshot.name} is silent on this riff: there is nothing to compare.</p>
        )}
        <HowFar
          name={heardTake === null ? `${snapshot.name} on its riff` : 'The take'}
          now={portrait}
          heard={shown?.row.portrait ? { name: 'what you hear', portrait: shown.row.portrait } : null}
          recording={sound.answer ?? null}
          report={report}
          aim={aim}
          working={!now.fresh || !inspection.fresh}
        />
      </div>
      <div className="min-h-0 min-w-0 overflow-auto border-l border-rule2 px-4 py-1.5 max-[1000px]:border-l-0">
        <Statements of={of} />
        <div className="mt-2 flex items-baseline gap-3 border-t border-ink pt-1 text-[12px]">
          <Segments
            label="What is shown"
            value={page}
            options={[
              ['closes', 'Close the gap'],
              ['candidates', 'Candidates'],
            ]}
            onChange={(next) => {
              hear(null)
              setPage(next)
            }}
          />
        </div>
        {page === 'closes' ? (
          <Closes
            finding={finding}
            wanted={wanted}
            onWanted={(next) => {
              setOrder(next.order)
              setEq(next.eq)
              setTastes(next.aim.tastes)
            }}
            ready={ready}
            old={old}
            moved={moved}
            heard={shown?.key ?? null}
            ownDb={report?.ownDb ?? null}
            onFind={() => {
              if (!report || !sound.answer || !portrait) return
              hear(null)
              find({ preset, snapshot: snapshot.id, report, recording: sound.answer, now: portrait, files: files ?? [], wanted, filesNow })
            }}
            onCancel={cancel}
            onHear={hear}
            onTake={take1}
            onTakeAll={takeAll}
          />
        ) : (
          <Candidates
            preset={preset}
            lit={snapshot.id}
            distance={sound.answer ? (of) => (sound.answer ? (distanceFrom(of, sound.answer, aim)?.db ?? null) : null) : null}
          />
        )}
      </div>
    </main>
  )
}
