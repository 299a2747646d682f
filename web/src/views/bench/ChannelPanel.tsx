import { cutLossDb, type BenchChannel, type CutSlope, type MicBench } from '@fulgor/core/cabinet'
import { benchNumber, channelSpecs, formatValue, micSpecs } from '@fulgor/core/catalogue'
import { type BenchPicture } from '../../threads/cabinet.worker'
import { ChoiceRow } from '../../ui/ChoiceRow'
import { figure } from '../../ui/format'
import { ParamRow } from '../../ui/ParamRow'
import { Segments } from '../../ui/Segments'
import { asMain, channelName, withChannel, withMic, withoutChannel } from './bench'
import { kilo } from './ResponseChart'
import { Alignment, MatchLevel, Arrivals } from './Alignment'

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
