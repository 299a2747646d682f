import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react'
import { MAX_CHANNELS, microphones, type BenchChannel, type MicBench } from '@fulgor/core/cabinet'
import { benchNumber, defaultMic, formatNumber } from '@fulgor/core/catalogue'
import type { BenchPicture } from '../../threads/cabinet.worker'
import { figure } from '../../ui/format'
import { Chevron, WarningMark } from '../../ui/marks'
import { NumberField } from '../../ui/NumberField'
import type { Action } from '../../ui/actionList'
import { PointerMenu } from '../../ui/PointerMenu'
import { addChannel, asMain, channelName, withChannel, withMic, withoutChannel } from './bench'
import { ChannelMark, channelTone } from './ChannelMark'

interface Props {
  bench: MicBench
  picture: BenchPicture | null
  selected: string
  onSelect: (id: string) => void
  onChange: (bench: MicBench, touched: string) => void
}

const CELL = 'num w-full border-b border-transparent bg-transparent text-right outline-none hover:border-control focus:border-ink'

/** All channels with what is set most; the first one is the main one. */
export function ChannelTable({ bench, picture, selected, onSelect, onChange }: Props) {
  const add = (type: string, distance: number) => {
    const source = defaultMic(type)
    const made = addChannel(bench, source.kind === 'mic' ? { ...source, offset: 30, distance } : source)
    if (!made) return
    onChange(made.bench, `add ${made.id}`)
    onSelect(made.id)
  }
  const number = (channel: BenchChannel, key: 'level' | 'delay' | 'offset' | 'distance' | 'angle') => {
    const spec = benchNumber(key)
    const own = key === 'level' || key === 'delay'
    const value = own ? channel[key] : channel.source.kind === 'mic' ? channel.source[key] : 0
    return (
      <NumberField
        spec={spec}
        label={`${spec.label} of channel ${bench.channels.indexOf(channel) + 1}`}
        value={value}
        format={(v) => formatNumber(spec, v)}
        className={CELL}
        onChange={(next) =>
          onChange(
            withChannel(bench, channel.id, (c) => (own ? { ...c, [key]: next } : withMic(c, { [key]: next }))),
            `${channel.id} ${key}`,
          )
        }
      />
    )
  }
  const actionsAt = (target: HTMLElement): readonly Action[] => {
    const index = Number(target.closest<HTMLElement>('[data-channel]')?.dataset.channel ?? NaN)
    const channel = bench.channels.at(index)
    if (Number.isNaN(index) || !channel) return []
    const { id } = channel
    const change = (touched: string, part: Partial<BenchChannel>) => () =>
      onChange(
        withChannel(bench, id, (c) => ({ ...c, ...part })),
        `${id} ${touched}`,
      )
    return [
      { label: channel.muted ? 'Unmute' : 'Mute', act: change('muted', { muted: !channel.muted }) },
      { label: channel.solo ? 'Not solo' : 'Solo', act: change('solo', { solo: !channel.solo }) },
      { label: 'Flip polarity', act: change('inverted', { inverted: !channel.inverted }) },
      { label: 'Make it the main one', act: () => onChange(asMain(bench, id), `main ${id}`), off: index === 0 },
      { label: 'Remove it', keys: 'Delete', act: () => onChange(withoutChannel(bench, id), `remove ${id}`) },
    ]
  }
  return (
    <div>
      <PointerMenu actionsAt={actionsAt}>
        <table className="w-full table-fixed" aria-label="Channels">
          <thead>
            <tr className="border-t border-ink text-label text-ink3 [&>th]:py-1 [&>th]:pr-1 [&>th]:text-right [&>th]:align-bottom [&>th]:leading-[13px] [&>th]:font-normal">
              <th className="w-[24px]">
                <span className="sr-only">Number</span>
              </th>
              <th className="!text-left">Channel</th>
              <th className="w-[34px]">off mm</th>
              <th className="w-[40px]">dist mm</th>
              <th className="w-[38px]">angle °</th>
              <th className="w-[46px]">level dB</th>
              <th className="w-[26px]">pol.</th>
              <th className="w-[52px]">delay µs</th>
            </tr>
          </thead>
          <tbody>
            {bench.channels.map((channel, index) => {
              const drawn = picture?.channels.find((c) => c.id === channel.id)
              const on = channel.id === selected
              const toggle = (key: 'muted' | 'solo', words: string) => (
                <button
                  type="button"
                  aria-pressed={channel[key]}
                  aria-label={`${words} channel ${index + 1}`}
                  onClick={() =>
                    onChange(
                      withChannel(bench, channel.id, (c) => ({ ...c, [key]: !c[key] })),
                      `${channel.id} ${key}`,
                    )
                  }
                  className={`min-h-6 min-w-6 text-label ${channel[key] ? 'font-bold text-ember underline underline-offset-2' : 'text-ink3 hover:text-ink'}`}
                >
                  {words.toLowerCase()}
                </button>
              )
              return (
                <tr
                  key={channel.id}
                  data-channel={index}
                  aria-selected={on}
                  onFocus={() => onSelect(channel.id)}
                  onPointerDown={() => onSelect(channel.id)}
                  onKeyDown={(event) => {
                    if (event.key !== 'Delete' || event.target instanceof HTMLInputElement) return
                    onChange(withoutChannel(bench, channel.id), `remove ${channel.id}`)
                  }}
                  className={`border-t border-rule text-[11.5px] [&>td]:pr-1 ${on ? 'bg-deep' : ''} ${channel.muted ? 'text-ink3' : ''}`}
                >
                  <td className={on ? 'border-l-[3px] border-ember' : 'border-l-[3px] border-transparent'}>
                    <ChannelMark index={index} tone={`var(--${channelTone(on, index === 0)})`} size={16} />
                  </td>
                  <td className="py-0.5 leading-[14px]">
                    <button
                      type="button"
                      className="-mb-1 block min-h-7 w-full truncate text-left font-semibold"
                      title={channelName(channel)}
                    >
                      {channelName(channel)}
                    </button>
                    <span className="flex items-center gap-2 text-label text-ink3">
                      {toggle('muted', 'Mute')}
                      {toggle('solo', 'Solo')}
                      {drawn?.db === null ? (
                        <span className="font-semibold text-ink">
                          <WarningMark /> file missing
                        </span>
                      ) : index === 0 ? (
                        'main'
                      ) : (
                        <span className="num whitespace-nowrap" title="Loudness against the main channel">
                          {figure(drawn?.againstMainDb, 1, true)} dB
                        </span>
                      )}
                    </span>
                  </td>
                  {channel.source.kind === 'mic' ? (
                    <>
                      <td>{number(channel, 'offset')}</td>
                      <td>{number(channel, 'distance')}</td>
                      <td>{number(channel, 'angle')}</td>
                    </>
                  ) : (
                    <td colSpan={3} className="text-right text-label text-ink3">
                      from a file
                    </td>
                  )}
                  <td>{number(channel, 'level')}</td>
                  <td className="text-right">
                    <button
                      type="button"
                      aria-label={`Polarity of channel ${index + 1}: ${channel.inverted ? 'inverted' : 'as it came'}`}
                      onClick={() =>
                        onChange(
                          withChannel(bench, channel.id, (c) => ({ ...c, inverted: !c.inverted })),
                          `${channel.id} inverted`,
                        )
                      }
                      className={`num min-h-6 min-w-6 text-right ${channel.inverted ? 'font-bold text-ember' : ''}`}
                    >
                      {channel.inverted ? '\u2212' : '+'}
                    </button>
                  </td>
                  <td>{number(channel, 'delay')}</td>
                </tr>
              )
            })}
          </tbody>
        </table>
      </PointerMenu>
      <div className="flex gap-4 border-t border-rule pt-1.5">
        <Menu>
          <MenuButton className="act" disabled={bench.channels.length >= MAX_CHANNELS}>
            Add a microphone
            <Chevron />
          </MenuButton>
          <MenuItems modal={false} anchor="top start" className="menu">
            {microphones.map((m) => (
              <MenuItem key={m.id}>
                <button
                  type="button"
                  className="menu-item"
                  onClick={() => add(m.id, m.id.includes('condenser') ? 170 : m.id === 'ribbon' ? 100 : 25)}
                >
                  {m.name}
                </button>
              </MenuItem>
            ))}
          </MenuItems>
        </Menu>
        {bench.channels.length >= MAX_CHANNELS && <span className="text-label text-ink3">Eight channels are all there are.</span>}
        {bench.channels.length === 0 && <span className="text-label text-ink3">Silent: nothing is in the blend.</span>}
      </div>
    </div>
  )
}
