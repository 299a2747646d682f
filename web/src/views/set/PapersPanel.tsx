import { useMemo, useState } from 'react'
import type { Plan, ShownPreset } from '@fulgor/core/plan'
import { deskFields, type RunningOrder, type Show } from '@fulgor/core/show'
import { checkList, deskSheet, gigSheet, type Night } from '@fulgor/core/sheets'
import type { DeviceCapacity } from '@fulgor/core/preset'
import { useGuitarsQuery } from '../../api/api'
import { useWishes } from '../../background/useWish'
import { reasonOf } from '../../background/tasks'
import { ALL_OF_THEM } from '../../state/fetched'
import { renderers } from '../../threads/crews'
import { download, fileName } from '../../ui/files'
import { WarningMark } from '../../ui/marks'
import { Segments } from '../../ui/Segments'
import { TextField } from '../../ui/TextField'
import { Line, Tick } from './fields'
import { nightCalendar, nightCsv, nightMidi } from './nightFiles'
import { gigPdf, listPdf, loadFaces, type Paper } from './pdf'
import { renderingFor } from './rehearsal'

interface Props {
  id: string
  show: Show
  order: RunningOrder
  plan: Plan | null
  presets: readonly ShownPreset[]
  capacity: DeviceCapacity | null
  onShow: (show: Show, key?: string) => void
}

/** What is printed and taken along. */
export function PapersPanel({ show, order, plan, presets, capacity, onShow }: Props) {
  const { data } = useGuitarsQuery(ALL_OF_THEM)
  const [paper, setPaper] = useState<Paper>('a4')
  const [told, setTold] = useState<readonly string[]>([])
  const [problem, setProblem] = useState<string | null>(null)
  const [busy, setBusy] = useState(false)
  const renderings = useMemo(() => {
    const seen = new Map(
      (plan?.changes ?? []).map(({ change: { wanted } }) => [JSON.stringify([wanted.preset, wanted.snapshot, wanted.on]), wanted]),
    )
    return [...seen.values()].flatMap((w) => renderingFor(w, presets) ?? [])
  }, [plan, presets])
  const { answers } = useWishes(renderers, [renderings], () =>
    renderings.map((rendering) => ({ task: 'soundLevel', args: [rendering], keep: 80, rank: 'idle' })),
  )
  if (!plan) return <p className="py-2 text-ink2">Counting …</p>
  const night: Night = {
    show,
    order: order.id,
    plan,
    presets,
    ...(capacity ? { capacity } : {}),
    guitars: Object.fromEntries((data?.items ?? []).map((g) => [g.id, g.name])),
  }
  const measured = answers.flatMap((a) => a ?? [])
  const levels =
    measured.length === 0 || measured.length < renderings.length
      ? null
      : {
          softestLufs: Math.min(...measured.map((m) => m.lufs)),
          loudestLufs: Math.max(...measured.map((m) => m.lufs)),
          peakDbtp: Math.max(...measured.map((m) => m.truePeakDbtp)),
        }
  const file = (what: string, ending: string) => `${fileName(show.name, order.name, what)}.${ending}`
  const run = async (work: () => Promise<readonly string[]> | readonly string[]) => {
    setBusy(true)
    setProblem(null)
    try {
      setTold(await work())
    } catch (error) {
      setProblem(reasonOf(error))
    }
    setBusy(false)
  }
  const PAPERS = {
    gig: {
      name: 'Gig sheet',
      about: 'what to press, in large type, on one page where it fits',
      make: async () => {
        const { bytes, pages, size } = await gigPdf(gigSheet(night), paper, await loadFaces())
        return { bytes, says: `${pages === 1 ? 'One page' : `${pages} pages`}, type of ${size} pt` }
      },
      file: '',
    },
    desk: {
      name: 'For the sound engineer',
      about: levels
        ? 'outputs, level and peak as measured, in-ear wishes, cautions'
        : 'outputs, in-ear wishes, cautions; the level is being measured',
      make: async () => {
        const { bytes, pages } = await listPdf(deskSheet(night, levels), paper, await loadFaces(), false)
        return { bytes, says: pages === 1 ? 'One page' : `${pages} pages` }
      },
      file: ', sound engineer',
    },
    checks: {
      name: 'Before it begins',
      about: 'your own items and Fulgor’s, with boxes',
      make: async () => {
        const { bytes, pages } = await listPdf(checkList(night), paper, await loadFaces(), true)
        return { bytes, says: pages === 1 ? 'One page' : `${pages} pages` }
      },
      file: ', check list',
    },
  } as const
  return (
    <div className="text-[12px]">
      <h2 className="text-section font-bold">On paper</h2>
      <Line label="Paper">
        <Segments
          label="Paper"
          value={paper}
          options={[
            ['a4', 'A4'],
            ['letter', 'Letter'],
          ]}
          onChange={setPaper}
        />
      </Line>
      {Object.entries(PAPERS).map(([key, { name, about, make, file: what }]) => (
        <div key={key} className="border-t border-rule py-1">
          <span className="flex items-baseline justify-between gap-x-3">
            <b>{name}</b>
            <span className="flex gap-3">
              <button
                type="button"
                className="act"
                disabled={busy}
                aria-label={`PDF: ${name}`}
                onClick={() =>
                  void run(async () => {
                    const { bytes, says } = await make()
                    download(file(what, 'pdf'), bytes, 'application/pdf')
                    return [`${name}: ${says}.`]
                  })
                }
              >
                PDF
              </button>
              <button
                type="button"
                className="act font-normal"
                disabled={busy}
                aria-label={`Print: ${name}`}
                onClick={() =>
                  void run(async () => {
                    const { bytes, says } = await make()
                    print(new Blob([bytes], { type: 'application/pdf' }))
                    return [`${name}: ${says}.`]
                  })
                }
              >
                Print
              </button>
            </span>
          </span>
          <span className="text-ink2">{about}</span>
        </div>
      ))}
      <h2 className="mt-2 border-t border-ink pt-1 text-section font-bold">As files</h2>
      <Line label="Running order, CSV">
        <button
          type="button"
          className="act"
          onClick={() =>
            void run(() => {
              download(file('', 'csv'), nightCsv(night), 'text/csv')
              return []
            })
          }
        >
          CSV
        </button>
      </Line>
      <Line label="The night for a calendar">
        <button
          type="button"
          className="act"
          onClick={() =>
            void run(() => {
              download(file('', 'ics'), nightCalendar(night), 'text/calendar')
              return []
            })
          }
        >
          Calendar file
        </button>
      </Line>
      <Line label="Plays the whole night into a device">
        <button
          type="button"
          className="act"
          onClick={() =>
            void run(() => {
              const { bytes, missing } = nightMidi(night)
              download(file('', 'mid'), bytes, 'audio/midi')
              return missing
            })
          }
        >
          MIDI file
        </button>
      </Line>
      <Line label="The show itself, to pass on">
        <button
          type="button"
          className="act"
          onClick={() =>
            void run(() => {
              const whole = { show, presets: Object.fromEntries(presets.map((p) => [p.id, p.preset])), ...(capacity ? { capacity } : {}) }
              download(file('', 'set.json'), JSON.stringify(whole, null, 2), 'application/json')
              return []
            })
          }
        >
          JSON
        </button>
      </Line>
      {problem !== null && (
        <p role="alert" className="font-semibold">
          <WarningMark /> {problem}
        </p>
      )}
      {told.map((words) => (
        <p key={words} role="status">
          {words}
        </p>
      ))}
      <h2 className="mt-2 border-t border-ink pt-1 text-section font-bold">For the sound engineer</h2>
      <Line label="Outputs">
        <Segments
          label="Outputs"
          value={show.desk.outputs}
          options={[
            ['mono', 'one line, mono'],
            ['stereo', 'left and right'],
          ]}
          onChange={(outputs) => onShow({ ...show, desk: { ...show.desk, outputs } })}
        />
      </Line>
      {(['inEar', 'notes'] as const).map((key) => (
        <label key={key} className="block border-t border-rule py-1">
          <span className="text-ink2">{key === 'inEar' ? 'In the ears' : 'Notes for the desk'}</span>
          <TextField
            label={key === 'inEar' ? 'In-ear wishes' : 'Notes for the desk'}
            value={show.desk[key]}
            multiline
            maxLength={deskFields[key].most}
            className="field w-full"
            onCommit={(text) => {
              onShow({ ...show, desk: { ...show.desk, [key]: text } })
              return null
            }}
          />
        </label>
      ))}
      <h2 className="mt-2 border-t border-ink pt-1 text-section font-bold">Your own items before it begins</h2>
      {show.checks.map((item, i) => (
        <div key={i} className="flex items-baseline gap-2 border-t border-rule">
          <Tick
            label={item.words}
            on={item.done}
            onChange={(done) => onShow({ ...show, checks: show.checks.map((c, k) => (k === i ? { ...c, done } : c)) })}
          />
          <button
            type="button"
            className="act ml-auto font-normal"
            aria-label={`Take away “${item.words}”`}
            onClick={() => onShow({ ...show, checks: show.checks.filter((_, k) => k !== i) })}
          >
            Take away
          </button>
        </div>
      ))}
      <TextField
        label="Add an item"
        value=""
        maxLength={160}
        className="field w-full"
        onCommit={(text) => {
          if (text.trim() !== '' && show.checks.length < 60)
            onShow({ ...show, checks: [...show.checks, { words: text.trim(), done: false }] })
          return null
        }}
      />
    </div>
  )
}

/** Prints a PDF out of sight. */
function print(blob: Blob): void {
  const frame = document.createElement('iframe')
  const url = URL.createObjectURL(blob)
  frame.style.display = 'none'
  frame.src = url
  frame.onload = () => frame.contentWindow?.print()
  document.body.append(frame)
  setTimeout(() => {
    frame.remove()
    URL.revokeObjectURL(url)
  }, 120_000)
}
