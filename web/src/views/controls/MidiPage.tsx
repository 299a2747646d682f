import { quantity } from '@fulgor/core/catalogue'
import { midiList, type MidiRow } from '@fulgor/core/board'
import { checkPreset } from '@fulgor/core/checks'
import { controllerName, type MidiMessage } from '@fulgor/core/formats'
import { DEFAULT_MIDI, runsItself, tempoOf, type MidiPlan } from '@fulgor/core/preset'
import { listenToMidi, sendMidi } from '../../state/midi'
import { FindingItem } from '../../desk/Findings'
import { edit, newId, presentPreset } from '../../state/actions'
import { notified } from '../../state/notices'
import { useAppDispatch, useAppSelector, useAppStore } from '../../state/store'
import { download, fileName } from '../../ui/files'
import { Pick } from '../../ui/Pick'
import { NumberField } from '../../ui/NumberField'
import { hexOf, midiCsv, midiFile, TYPE_NAMES } from './midiFile'
import { reasonOf } from '../../background/tasks'

const SMALL = 'num w-[46px] border-b border-control bg-transparent text-right outline-none focus:border-ink'
const KINDS: Record<MidiRow['kind'], string> = { preset: 'Preset', snapshot: 'Snapshot', source: 'Source', switch: 'Switch' }

/** What is sent to the player's device, and understood when it comes from there. */
export function MidiPage() {
  const dispatch = useAppDispatch()
  const store = useAppStore()
  const preset = useAppSelector(presentPreset)
  const lit = useAppSelector((s) => s.editor.snapshot)
  const inputs = useAppSelector((s) => s.controls.midi)
  const outputs = useAppSelector((s) => s.controls.outputs)
  if (!preset) return null
  const rows = midiList(preset)
  const unbound = (preset.controls ?? []).filter((c) => c.midi === null && !runsItself(c))
  const findings = checkPreset(preset, newId).filter((f) => f.rule === 'midi-clash')
  const listen = async () => {
    try {
      await listenToMidi(store)
    } catch (error) {
      dispatch(notified({ kind: 'warning', text: reasonOf(error) }))
    }
  }
  return (
    <section aria-label="MIDI" className="min-h-0 min-w-0 overflow-auto px-4 pt-2 pb-4">
      <Plan plan={preset.midiPlan ?? DEFAULT_MIDI} />
      <div className="mt-2 flex flex-wrap items-baseline gap-x-5 gap-y-1 border-t border-rule pt-1.5 text-[12px]">
        {inputs === null ? (
          <button type="button" className="act" onClick={() => void listen()}>
            Listen to MIDI
          </button>
        ) : (
          <span data-midi-inputs={inputs.length}>
            <span className="text-ink2">{inputs.length === 0 ? 'No MIDI input is plugged in.' : 'Listens to'}</span>{' '}
            <b className="font-semibold">{inputs.join(', ')}</b>
            {outputs.length > 0 && (
              <>
                <span className="text-ink2">, sends to</span> <b className="font-semibold">{outputs.join(', ')}</b>
              </>
            )}
          </span>
        )}
        <span className="ml-auto flex gap-3">
          <button
            type="button"
            className="btn"
            onClick={() => download(`${fileName(preset.name)}.mid`, midiFile(rows, preset.name, tempoOf(preset, lit)), 'audio/midi')}
          >
            Standard MIDI File
          </button>
          <button type="button" className="btn" onClick={() => download(`${fileName(preset.name)}-midi.csv`, midiCsv(rows), 'text/csv')}>
            CSV
          </button>
        </span>
      </div>
      <table className="mt-2 w-full text-[12px]" aria-label="MIDI messages">
        <thead>
          <tr className="border-t border-ink text-left text-label text-ink3 [&>th]:py-1 [&>th]:pr-3 [&>th]:font-normal">
            <th scope="col" className="max-[700px]:hidden">
              For
            </th>
            <th scope="col">Name</th>
            <th scope="col" className="max-[700px]:hidden">
              What it does
            </th>
            <th scope="col">Message</th>
            <th scope="col">Channel</th>
            <th scope="col">Bytes, hex</th>
            {outputs.length > 0 && <th aria-label="Send" />}
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr
              key={`${row.kind} ${row.id}`}
              className="border-t border-rule align-baseline [&>td]:py-1 [&>td]:pr-3"
              data-midi-row={`${row.kind} ${row.name}`}
            >
              <td className="text-ink2 max-[700px]:hidden">{KINDS[row.kind]}</td>
              <td className="font-semibold">{row.name}</td>
              <td className="max-[700px]:hidden">{row.what}</td>
              <td>{messageWords(row)}</td>
              <td className="num">{row.messages[0].channel}</td>
              <td className="num">{row.messages.map(hexOf).join(row.kind === 'source' || row.kind === 'switch' ? ' … ' : ' · ')}</td>
              {outputs.length > 0 && (
                <td className="text-right">
                  <button type="button" className="act" aria-label={`Send ${row.name}`} onClick={() => sendMidi(row.messages)}>
                    Send
                  </button>
                </td>
              )}
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-1 max-w-[90ch] border-t border-rule pt-1 text-[12px] text-ink2">
        Programs and values count from 0, as they are sent; a device that counts from 1 shows one more. What stands here is understood when
        it comes in, too: a program or value loads its snapshot, a controller moves its source.
        {unbound.length > 0 && ` Without a message: ${unbound.map((c) => c.name).join(', ')}; learn one on the page of sources.`}
      </p>
      {findings.length > 0 && (
        <ul aria-label="Findings of the messages" className="mt-2 max-w-[760px] text-[12px]">
          {findings.map((finding) => (
            <FindingItem key={finding.figure} preset={preset} finding={finding} />
          ))}
        </ul>
      )}
    </section>
  )
}

function messageWords({ kind, messages }: MidiRow): string {
  const number = ({ type, number: n }: MidiMessage) => `${TYPE_NAMES[type]} ${n}`
  const [first, last] = [messages[0], messages[messages.length - 1]]
  const name = first.type === 'cc' ? controllerName(first.number) : null
  if (kind === 'source') return `${number(first)}${name ? ` (${name})` : ''}, heel ${first.value} to toe ${last.value}`
  if (kind === 'switch') return `${number(first)}${name ? ` (${name})` : ''}, down ${last.value}, up ${first.value}`
  return messages.map((m) => `${number(m)}${m.type === 'cc' ? ` at ${m.value}` : ''}`).join(', then ')
}

function Plan({ plan }: { plan: MidiPlan }) {
  const dispatch = useAppDispatch()
  const change = (part: Partial<MidiPlan>) => dispatch(edit({ type: 'setMidiPlan', plan: { ...plan, ...part } }))
  const snapshots = (part: Partial<MidiPlan['snapshots']>) => change({ snapshots: { ...plan.snapshots, ...part } })
  const number = (label: string, value: number, range: readonly [number, number], take: (n: number) => void) => (
    <NumberField spec={quantity('count', label, range)} value={value} className={SMALL} onChange={take} />
  )
  const orNone = (label: string, value: number | null, range: readonly [number, number], take: (n: number | null) => void) => (
    <NumberField
      spec={quantity('count', label, range)}
      value={value}
      empty={{ word: 'none', onEmpty: () => take(null) }}
      title="Empty: none is sent"
      className={SMALL}
      onChange={take}
    />
  )
  return (
    <div className="flex flex-wrap items-baseline gap-x-5 gap-y-1 text-[12px]" role="group" aria-label="Messages of the preset">
      <Item name="The device listens on channel">{number('MIDI channel', plan.channel, [1, 16], (channel) => change({ channel }))}</Item>
      <Item name="the preset is program">{orNone('Program of the preset', plan.program, [0, 127], (program) => change({ program }))}</Item>
      <Item name="of bank">{orNone('Bank of the preset', plan.bank, [0, 16_383], (bank) => change({ bank }))}</Item>
      <Item name="snapshots are">
        <Pick
          label="Snapshots are told by"
          value={plan.snapshots.by}
          options={[
            ['controller', 'values of a controller'],
            ['program', 'programs'],
          ]}
          onChange={(by) => snapshots({ by })}
        />
      </Item>
      {plan.snapshots.by === 'controller' && (
        <Item name="number">
          {number('Controller of the snapshots', plan.snapshots.controller, [0, 119], (controller) => snapshots({ controller }))}
        </Item>
      )}
      <Item name="from">{number('First snapshot', plan.snapshots.first, [0, 120], (first) => snapshots({ first }))}</Item>
    </div>
  )
}

const Item = ({ name, children }: { name: string; children: React.ReactNode }) => (
  <span className="flex items-baseline gap-1.5">
    <span className="text-ink2">{name}</span>
    {children}
  </span>
)
