import { useEffect, useState } from 'react'
import { profileOf, tuningName } from '@fulgor/core/guitar'
import { handOf, madeOn, onGuitar, onMade, usedGuitar, type Edit, type Preset } from '@fulgor/core/preset'
import { sentenceOf } from '../../api/api'
import { fetchGuitar } from '../../state/fetched'
import { usePlayable } from '../../desk/GuitarChoice'
import { edit, presentPreset } from '../../state/actions'
import type { Playable } from '../../state/hand'
import { trialChosen } from '../../state/player'
import { useAppDispatch, useAppSelector } from '../../state/store'
import { Explain } from '../../ui/Explain'
import { figure } from '../../ui/format'
import { WarningMark } from '../../ui/marks'
import { Pick } from '../../ui/Pick'
import { HandPart } from './HandPart'
import { LoudnessTable } from './LoudnessTable'
import { Proposals } from './Proposals'
import { TransferTable } from './TransferTable'
import { bare, fitFrom, useTransfer, withTrim, type Ticks, type Transfer } from './useTransfer'

const ALL: Ticks = { trim: true, bands: true, gates: true, trims: true }
export type Side = 'A' | 'B' | 'C'

/** The open preset on another guitar: what changes, and what would make it the same. */
export function PlayOnView() {
  const preset = useAppSelector(presentPreset)
  const lit = useAppSelector((s) => s.editor.snapshot)
  if (!preset || lit === null) return null
  return <PlayOn preset={preset} lit={lit} />
}

/** The guitar that is looked at, with its figures; those of the Kit are fetched when they are chosen. */
function useChosen(preset: Preset) {
  const dispatch = useAppDispatch()
  const playable = usePlayable(preset)
  const now = handOf(preset, null)
  const first =
    now.guitar !== madeOn(preset).id ? now.guitar : (preset.guitars[1]?.id ?? playable.find((g) => g.id !== madeOn(preset).id)?.id)
  const [wanted, setWanted] = useState<string | null>(null)
  const id = wanted ?? first
  const found = playable.find((g) => g.id === id)
  const [fetched, setFetched] = useState<Playable | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const needed = found && !found.profile ? found.id : null
  useEffect(() => {
    if (needed === null) return
    let current = true
    setProblem(null)
    void fetchGuitar(dispatch, needed).then(
      ({ document }) => {
        if (current) setFetched({ id: needed, profile: profileOf(document), kit: needed })
      },
      (error: unknown) => {
        if (current) setProblem(`This guitar could not be had from the Kit: ${sentenceOf(error)}`)
      },
    )
    return () => {
      current = false
    }
  }, [needed, dispatch])
  const chosen: Playable | null = found?.profile
    ? { id: found.id, profile: found.profile, ...(found.kit === undefined ? {} : { kit: found.kit }) }
    : fetched?.id === id
      ? fetched
      : null
  return { playable, chosen, choose: setWanted, problem }
}

function PlayOn({ preset, lit }: { preset: Preset; lit: string }) {
  const dispatch = useAppDispatch()
  const { playable, chosen, choose, problem } = useChosen(preset)
  const now = handOf(preset, null)
  const [place, setPlace] = useState<number | null>(null)
  const [ticks, setTicks] = useState<Ticks>(ALL)
  const [side, setSide] = useState<Side | null>(null)
  const most = (chosen?.profile.positions.length ?? 1) - 1
  const position = Math.min(most, place ?? (chosen?.id === now.guitar ? now.position : 0))
  const transfer = useTransfer(preset, chosen, position, ticks)
  useEffect(() => () => void dispatch(trialChosen(null)), [dispatch])
  if (!chosen)
    return (
      <main className="px-4 py-3">
        <h1 className="text-title">Play it on another guitar</h1>
        <p className="text-ink2">{problem ?? 'Opening the guitars of the Kit …'}</p>
      </main>
    )
  const kept = preset.guitars.find((g) => g.id === chosen.id)?.fits?.find((f) => f.position === position) ?? null
  const hear = (next: Side) => {
    const of = bare(preset, chosen)
    const fit = transfer.input && fitFrom(position, transfer.input, transfer.gates, transfer.trims, ticks)
    const tried = next === 'A' ? onMade(of) : onGuitar(of, chosen.id, position, next === 'C' ? fit : null)
    const lufs = {
      A: transfer.made[lit]?.lufs,
      B: transfer.asIs[lit]?.lufs,
      C: withTrim(transfer, lit, ticks),
    }
    const there = lufs[next]
    const gainDb = lufs.A == null || there == null ? 0 : lufs.A - there
    setSide(next)
    dispatch(trialChosen({ preset: tried, gainDb }))
  }
  const end = () => {
    setSide(null)
    dispatch(trialChosen(null))
  }
  const keep = () => {
    if (!transfer.input) return
    end()
    const edits: Edit[] = [
      ...(preset.guitars.some((g) => g.id === chosen.id)
        ? []
        : [{ type: 'putGuitar', guitar: usedGuitar(chosen.id, chosen.profile, chosen.kit) } as const]),
      { type: 'setFit', guitar: chosen.id, position, fit: fitFrom(position, transfer.input, transfer.gates, transfer.trims, ticks) },
      { type: 'setHand', snapshot: null, hand: { guitar: chosen.id, position } },
    ]
    dispatch(edit({ type: 'all', edits }))
  }
  const playIt = () => {
    end()
    dispatch(
      edit({
        type: 'all',
        edits: [
          ...(preset.guitars.some((g) => g.id === chosen.id)
            ? []
            : [{ type: 'putGuitar', guitar: usedGuitar(chosen.id, chosen.profile, chosen.kit) } as const]),
          { type: 'setHand', snapshot: null, hand: { guitar: chosen.id, position } },
        ],
      }),
    )
  }
  const same = chosen.id === madeOn(preset).id && position === preset.madeOn
  return (
    <main
      className="grid min-h-0 min-w-0 grid-cols-[minmax(0,1fr)_320px] max-[1100px]:block max-[1100px]:overflow-auto"
      data-transfer={transfer.ms === null ? 'working' : Math.round(transfer.ms)}
      data-whole={transfer.wholeMs === null ? 'working' : Math.round(transfer.wholeMs)}
    >
      <section aria-label="Play it on another guitar" className="@container min-h-0 min-w-0 overflow-auto px-4 py-2">
        <p className="text-[12px] text-ink2">
          The same preset on another guitar <Explain term="playOn" />
        </p>
        <h1 className="flex flex-wrap items-baseline gap-x-2 text-[24px] leading-[1.25]">
          Play it on{' '}
          <Pick
            label="The other guitar"
            value={chosen.id}
            options={playable.map((g) => [g.id, g.name] as const)}
            className="border-b-2 border-ember font-bold"
            onChange={(next) => {
              end()
              setPlace(null)
              choose(next)
            }}
          />
          <Pick
            label="Its position"
            value={String(position)}
            options={chosen.profile.positions.map((p, i) => [String(i), `${i + 1} ${p.name}`] as const)}
            className="border-b-2 border-ember font-bold"
            onChange={(next) => {
              end()
              setPlace(Number(next))
            }}
          />
        </h1>
        {transfer.problem !== null && (
          <p role="alert" className="font-semibold">
            <WarningMark /> Not compared: {transfer.problem}
          </p>
        )}
        {same ? (
          <p className="mt-1 text-ink2">This is what the preset was made on: nothing changes. Choose another guitar or position.</p>
        ) : (
          <>
            <Headline preset={preset} transfer={transfer} lit={lit} tuned={tuningName(chosen.profile.strings.map((s) => s.note))} />
            <div className="my-1 flex flex-wrap items-baseline gap-x-4 text-[12px]" role="group" aria-label="Hear at equal loudness">
              <span className="text-ink2">Hear at equal loudness</span>
              {(
                [
                  ['A', 'as made'],
                  ['B', 'as it is'],
                  ['C', 'corrected'],
                ] as const
              ).map(([name, words]) => (
                <button
                  key={name}
                  type="button"
                  aria-pressed={side === name}
                  disabled={transfer.ms === null}
                  className="flex min-h-6 items-center gap-1.5 disabled:text-ink3"
                  onClick={() => (side === name ? end() : hear(name))}
                >
                  <b
                    className={`grid size-[18px] place-items-center border text-[11.5px] font-semibold ${side === name ? 'border-ember bg-ember text-on-ember' : 'border-control'}`}
                  >
                    {name}
                  </b>
                  {words}
                </button>
              ))}
            </div>
            <TransferTable preset={preset} to={chosen} position={position} transfer={transfer} lit={lit} />
            <LoudnessTable preset={preset} transfer={transfer} ticks={ticks} />
            <Proposals
              preset={preset}
              transfer={transfer}
              ticks={ticks}
              kept={kept}
              onTick={(part) => {
                end()
                setTicks({ ...ticks, ...part })
              }}
              onKeep={keep}
              onForget={() => dispatch(edit({ type: 'setFit', guitar: chosen.id, position, fit: null }))}
            />
            <p className="mt-1 text-[11.5px] text-ink3">
              Riffs are heard through the guitar in level, spectrum, noise and tuning; attack and sustain stay the riff’s own. Input trim
              and bands belong in front of the first stage of your device.
            </p>
            <p className="text-[12px]">
              {now.guitar === chosen.id && now.position === position ? (
                'It plays on this now.'
              ) : (
                <button type="button" className="act" onClick={playIt}>
                  Play it on this without changing anything
                </button>
              )}
            </p>
          </>
        )}
      </section>
      <HandPart preset={preset} lit={lit} />
    </main>
  )
}

/** The one figure that a player feels first. */
function Headline({ preset, transfer, lit, tuned }: { preset: Preset; transfer: Transfer; lit: string; tuned: string }) {
  const [made, asIs, corrected] = [transfer.made, transfer.asIs, transfer.corrected].map((c) => (c as Partial<typeof c>)[lit])
  const softer = made?.edgeDb == null || asIs?.edgeDb == null ? null : asIs.edgeDb - made.edgeDb
  const left = made?.edgeDb == null || corrected?.edgeDb == null ? null : corrected.edgeDb - made.edgeDb
  const name = preset.snapshots.find((s) => s.id === lit)?.name ?? ''
  const drop = preset.snapshots
    .flatMap((s) => {
      const [a, b] = [transfer.made, transfer.asIs].map((c) => (c as Partial<typeof c>)[s.id]?.lufs)
      return a == null || b == null ? [] : [{ name: s.name, lu: b - a }]
    })
    .sort((x, y) => Math.abs(y.lu) - Math.abs(x.lu))
    .at(0)
  if (softer === null)
    return (
      <p className="my-1 min-h-[44px] text-[12px] text-ink2">
        {transfer.made[lit] && transfer.asIs[lit]
          ? `${name} breaks up on no stroke, or on every one: there is no edge to carry.`
          : 'Playing it on both …'}
      </p>
    )
  return (
    <div className="my-1 flex min-h-[44px] flex-wrap items-center gap-x-3" data-headline="">
      <span className="num font-head text-[34px] leading-none font-bold">
        {figure(Math.abs(softer))} → <span className="text-ember">{left === null ? '…' : figure(Math.abs(left))}</span>
        <span className="ml-1 text-[14px]">dB</span>
      </span>
      <span className="max-w-[430px] text-[12px] text-ink2">
        {softer >= 0 ? 'harder' : 'softer'} to strike for the same breakup in {name}.{' '}
        {drop && Math.abs(drop.lu) >= 0.5
          ? `As it is, ${drop.name} ${drop.lu < 0 ? 'drops' : 'rises'} by ${figure(Math.abs(drop.lu))} LU. `
          : ''}
        Tuned to {tuned}.
      </span>
    </div>
  )
}
