import { Suspense, useMemo, useState } from 'react'
import { cutLossDb, firstNullHz, type BenchChannel, type CutSlope, type MicBench } from '@fulgor/core/cabinet'
import { benchNumber, channelSpecs, formatValue, micSpecs } from '@fulgor/core/catalogue'
import { ARRIVAL_MS, type BenchPicture } from '../../threads/cabinet.worker'
import { cabinetMaker } from '../../threads/crews'
import { reasonOf } from '../../background/tasks'
import { notified } from '../../state/notices'
import { useAppDispatch } from '../../state/store'
import { ChoiceRow } from '../../ui/ChoiceRow'
import { figure } from '../../ui/format'
import { LazyChart } from '../../ui/LazyChart'
import { WarningMark } from '../../ui/marks'
import { Explain } from '../../ui/Explain'
import { ParamRow } from '../../ui/ParamRow'
import { Segments } from '../../ui/Segments'
import { asMain, channelName, delayValue, withChannel, withMic, withoutChannel } from './bench'
import { kilo } from './ResponseChart'

interface Props {
  bench: MicBench
  picture: BenchPicture | null
  channel: BenchChannel
  onChange: (bench: MicBench, touched: string) => void
}

/** Everything of the chosen channel. */
export function ChannelPanel({ bench, picture, channel, onChange }: Props) {
  const index = bench.channels.indexOf(channel)
  const set = (change: Partial<BenchChannel>, touched: string) =>
    onChange(
      withChannel(bench, channel.id, (c) => ({ ...c, ...change })),
      `${channel.id} ${touched}`,
    )
  const row = (key: 'level' | 'pan' | 'delay') => (
    <ParamRow
      name={key}
      spec={benchNumber(key)}
      value={channel[key]}
      base={null}
      own={false}
      held={null}
      inert={null}
      onChange={(v) => set({ [key]: v }, key)}
      onReset={() => undefined}
    />
  )
  const { source } = channel
  const micChoice = (key: 'stands' | 'roomKind', value: string | undefined) => (
    <ChoiceRow
      name={key}
      spec={micSpecs[key]}
      value={value ?? micSpecs[key].initial}
      own={false}
      inert={null}
      onChange={(next) =>
        onChange(
          withChannel(bench, channel.id, (c) => withMic(c, { [key]: next })),
          `${channel.id} ${key}`,
        )
      }
      onReset={() => undefined}
    />
  )
  return (
    <section aria-label="Channel" className="min-h-0 overflow-y-auto px-4 pt-2 pb-4">
      <div className="mb-0.5 flex items-baseline justify-between gap-3">
        <h2 className="truncate text-[15px]">
          {index + 1} {channelName(channel)}
        </h2>
        <span className="eyebrow whitespace-nowrap">{index === 0 ? 'the main channel' : 'against channel 1'}</span>
      </div>
      {index > 0 && <Alignment bench={bench} picture={picture} channel={channel} onChange={onChange} />}
      <div className="grid grid-cols-2 gap-x-5">
        {source.kind === 'mic' ? (
          <ChoiceRow
            name="type"
            spec={micSpecs.type}
            value={source.type}
            own={false}
            inert={null}
            onChange={(type) =>
              onChange(
                withChannel(bench, channel.id, (c) => withMic(c, { type })),
                `${channel.id} type`,
              )
            }
            onReset={() => undefined}
          />
        ) : (
          <div className="flex items-center justify-between pt-1 text-[12px]">
            Side
            <Segments
              label="Side of a stereo file"
              value={source.side}
              options={[
                ['sum', 'Both'],
                ['left', 'Left'],
                ['right', 'Right'],
              ]}
              onChange={(side) => set({ source: { ...source, side } }, 'side')}
            />
          </div>
        )}
        <div className="flex flex-wrap items-center justify-end gap-x-3 pt-1">
          <Toggle
            on={channel.minimumPhase}
            onClick={() => set({ minimumPhase: !channel.minimumPhase }, 'phase')}
            title="Keeps the tone, gives up its delay and phase: it lies on any other minimum-phase response"
          >
            Minimum phase
          </Toggle>
        </div>
        {row('level')}
        {row('pan')}
        {row('delay')}
        {source.kind === 'mic' ? (
          <>
            {(['reflections', 'room', 'air'] as const).map((key) => (
              <ParamRow
                key={key}
                name={key}
                spec={micSpecs[key]}
                value={source[key] ?? micSpecs[key].initial}
                base={null}
                own={false}
                held={null}
                inert={null}
                onChange={(v) =>
                  onChange(
                    withChannel(bench, channel.id, (c) => withMic(c, { [key]: v })),
                    `${channel.id} ${key}`,
                  )
                }
                onReset={() => undefined}
              />
            ))}
            {(bench.cab.second ?? 'same') !== 'same' && bench.cab.drivers !== '1' && micChoice('stands', source.stands)}
            {source.room > 0 && micChoice('roomKind', source.roomKind)}
          </>
        ) : (
          <div />
        )}
      </div>
      <div className="mt-1 grid grid-cols-2 gap-x-5">
        <Cut kind="low" channel={channel} set={set} />
        <Cut kind="high" channel={channel} set={set} />
      </div>
      <div className="flex flex-wrap gap-x-4 pt-2">
        {index > 0 && (
          <button type="button" className="act" onClick={() => onChange(asMain(bench, channel.id), `main ${channel.id}`)}>
            Make it the main one
          </button>
        )}
        {index > 0 && <MatchLevel bench={bench} channel={channel} set={set} />}
        <button
          type="button"
          className="act"
          title="Delete"
          onClick={() => onChange(withoutChannel(bench, channel.id), `remove ${channel.id}`)}
        >
          Remove it
        </button>
      </div>
      {picture && bench.channels.length > 1 && <Arrivals bench={bench} picture={picture} channel={channel} />}
    </section>
  )
}

function Toggle({ on, onClick, title, children }: { on: boolean; onClick: () => void; title: string; children: string }) {
  return (
    <button
      type="button"
      aria-pressed={on}
      title={title}
      onClick={onClick}
      className={`min-h-6 border-b-2 text-[12px] ${on ? 'border-ember font-semibold' : 'border-transparent'}`}
    >
      {children}
    </button>
  )
}

/** A cut with its −3 dB point and what is lost an octave beyond. */
function Cut({
  kind,
  channel,
  set,
}: {
  kind: 'low' | 'high'
  channel: BenchChannel
  set: (change: Partial<BenchChannel>, touched: string) => void
}) {
  const hz = kind === 'low' ? channel.lowCut : channel.highCut
  const slope = kind === 'low' ? channel.lowSlope : channel.highSlope
  const spec = kind === 'low' ? channelSpecs.lowCut : channelSpecs.highCut
  const beyond = kind === 'low' ? hz / 2 : hz * 2
  return (
    <div data-cut={kind} className="pt-1">
      <div className="flex items-center gap-2 text-[12px]">
        <span>{spec.label}</span>
        <span className="ml-auto">
          <Segments
            label={`${spec.label} slope, dB per octave`}
            value={slope}
            options={[
              ['off', 'Off'],
              ['6', '6'],
              ['12', '12'],
              ['24', '24'],
            ]}
            onChange={(next: CutSlope) => set({ [`${kind}Slope`]: next }, `${kind}Slope`)}
          />
        </span>
        <span className="text-label text-ink3">dB/oct</span>
      </div>
      {slope !== 'off' && (
        <>
          <ParamRow
            name={`${kind}Cut`}
            spec={spec}
            value={hz}
            base={null}
            own={false}
            held={null}
            inert={null}
            onChange={(v) => set({ [`${kind}Cut`]: v }, `${kind}Cut`)}
            onReset={() => undefined}
          />
          <p className="num text-label text-ink2">
            −3.0 dB at {formatValue(spec, hz)}, {figure(cutLossDb(kind, hz, slope, beyond))} dB at {kilo(beyond)}
          </p>
        </>
      )}
    </div>
  )
}

/** How the channel lies against the main one, and the way to lay it there. */
function Alignment({ bench, picture, channel, onChange }: Props) {
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

function MatchLevel({
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
function Arrivals({ bench, picture, channel }: { bench: MicBench; picture: BenchPicture; channel: BenchChannel }) {
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
