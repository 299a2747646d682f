import { Suspense, useMemo, useState } from 'react'
import { firstNullHz, type BenchChannel, type MicBench } from '@fulgor/core/cabinet'
import { channelSpecs } from '@fulgor/core/catalogue'
import { ARRIVAL_MS, type BenchPicture } from '../../threads/cabinet.worker'
import { cabinetMaker } from '../../threads/crews'
import { reasonOf } from '../../background/tasks'
import { notified } from '../../state/notices'
import { useAppDispatch } from '../../state/store'
import { figure } from '../../ui/format'
import { LazyChart } from '../../ui/LazyChart'
import { WarningMark } from '../../ui/marks'
import { Explain } from '../../ui/Explain'
import { delayValue, withChannel } from './bench'
import { kilo } from './ResponseChart'

/** How the channel lies against the main one, and the way to lay it there. */
export function Alignment({
  bench,
  picture,
  channel,
  onChange,
}: {
  bench: MicBench
  picture: BenchPicture | null
  channel: BenchChannel
  onChange: (bench: MicBench, touched: string) => void
}) {
  const dispatch = useAppDispatch()
  const [busy, setBusy] = useState(false)
  const late = picture?.channels.find((c) => c.id === channel.id)?.late ?? null
  const align = async () => {
    setBusy(true)
    try {
      const { lateUs, inverted } = await cabinetMaker.run({ task: 'align', args: [bench, channel.id], key: null })
      onChange(
        withChannel(bench, channel.id, (c) => ({ ...c, delay: delayValue(-lateUs), inverted })),
        `align ${channel.id}`,
      )
    } catch (error) {
      dispatch(notified({ kind: 'warning', text: `Not aligned: ${reasonOf(error)}` }))
    } finally {
      setBusy(false)
    }
  }
  const off = late !== null && (Math.abs(late.lateUs) > 4 || late.inverted)
  const us = late ? Math.abs(late.lateUs) : 0
  return (
    <div className="mb-1 border-b border-rule pb-1.5" data-late={late ? late.lateUs.toFixed(2) : ''} data-inverted={late?.inverted ?? ''}>
      <p className="text-[12px]">
        {late === null ? (
          <span className="text-ink3">Listening to both …</span>
        ) : off ? (
          <>
            <WarningMark />{' '}
            {us > 4 && (
              <>
                Arrives <b className="num">{us >= 100 ? `${figure(us / 1000, 2)} ms` : `${figure(us, 0)} µs`}</b>{' '}
                {late.lateUs > 0 ? 'late' : 'early'}: first null at <b className="num">{kilo(firstNullHz(us))}</b>.{' '}
              </>
            )}
            {late.inverted && 'It pushes where the main one pulls.'}
          </>
        ) : (
          'Lies on the main channel.'
        )}
      </p>
      <div className="flex items-center gap-3 pt-1">
        <button type="button" className="btn" disabled={busy || !off} onClick={() => void align()}>
          {busy ? 'Aligning …' : off && late && us > 4 ? `Align, ${figure(delayValue(channel.delay - late.lateUs), 0)} µs` : 'Align'}
        </button>
        <button
          type="button"
          className="act"
          onClick={() =>
            onChange(
              withChannel(bench, channel.id, (c) => ({ ...c, inverted: !c.inverted })),
              `${channel.id} inverted`,
            )
          }
        >
          Flip polarity
        </button>
        {(channel.delay !== 0 || channel.inverted) && (
          <button
            type="button"
            className="act"
            onClick={() =>
              onChange(
                withChannel(bench, channel.id, (c) => ({ ...c, delay: 0, inverted: false })),
                `${channel.id} reset`,
              )
            }
          >
            As placed
          </button>
        )}
      </div>
    </div>
  )
}

export function MatchLevel({
  bench,
  channel,
  set,
}: {
  bench: MicBench
  channel: BenchChannel
  set: (change: Partial<BenchChannel>, touched: string) => void
}) {
  const { min, max } = channelSpecs.level
  const match = async () => {
    const level = await cabinetMaker.run({ task: 'levelLike', args: [bench, channel.id], key: null })
    set({ level: Math.round(Math.min(max, Math.max(min, level)) * 10) / 10 }, 'level')
  }
  return (
    <button type="button" className="act" onClick={() => void match()}>
      As loud as the main one
    </button>
  )
}

/** The beginning of the main channel and of this one, delay and polarity included. */
export function Arrivals({ bench, picture, channel }: { bench: MicBench; picture: BenchPicture; channel: BenchChannel }) {
  const { curves, marks } = useMemo(() => {
    const main = picture.channels[0]
    const own = picture.channels.find((c) => c.id === channel.id) ?? main
    const points = (arrival: readonly number[]) => arrival.map((v, n) => [(n / (arrival.length - 1)) * ARRIVAL_MS, v] as const)
    const two = own.id === main.id ? [own] : [main, own]
    return {
      curves: two.map((c, i) => ({
        label: `${bench.channels.findIndex((b) => b.id === c.id) + 1}`,
        points: points(c.arrival),
        tone: c.id === channel.id ? ('ember' as const) : ('lane' as const),
        width: 1.4,
        nameAt: 0.25 + i * 0.3,
      })),
      marks:
        // the same lateness as in the line above: what aligning takes away, not the difference of the first sounds
        own.id === main.id || !own.late
          ? []
          : [{ x: main.onsetMs + own.late.lateUs / 1000, words: `${figure(own.late.lateUs / 1000, 2, true)} ms`, side: 'right' as const }],
    }
  }, [bench.channels, picture, channel.id])
  return (
    <div className="mt-2 border-t border-rule pt-1">
      <div className="eyebrow flex items-center gap-1">
        Arrival, each at its own height <Explain term="arrival" />
      </div>
      <Suspense fallback={<div style={{ height: 96 }} />}>
        <LazyChart
          curves={curves}
          x={{ min: 0, max: ARRIVAL_MS, ticks: [0.5, 1, 1.5, 2], format: (v) => String(v), unit: 'ms' }}
          y={{ min: -1, max: 1, interval: 1, unit: '−1' }}
          marks={marks}
          height={96}
          label="Start of the responses over time"
        />
      </Suspense>
    </div>
  )
}
