import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react'
import { useState } from 'react'
import { Link } from 'react-router'
import { quantity } from '@fulgor/core/catalogue'
import { writeWav } from '@fulgor/core/formats'
import { correctSides, type PlaceBand } from '@fulgor/core/place'
import { handOf, madeOn, presetFields, riffOf, tempoOf, type Preset } from '@fulgor/core/preset'
import { renderingOf, riffSource } from '../threads/riffSource'
import { SAMPLE_RATE } from '../threads/rate'
import { renderers } from '../threads/crews'
import { session } from '../audio/session'
import { edit, presentPreset } from '../state/actions'
import { redone, undone } from '../state/editor'
import { setTempo, tap } from '../state/tempo'
import { notified } from '../state/notices'
import { useAppDispatch, useAppSelector, type Thunk } from '../state/store'
import { useSettings } from '../state/useSettings'
import { download, fileName } from '../ui/files'
import { clock, figure } from '../ui/format'
import { Chevron, WarningMark } from '../ui/marks'
import { MoreButton } from '../ui/MoreButton'
import { NumberField } from '../ui/NumberField'
import { TextField } from '../ui/TextField'
import { Findings } from './Findings'
import { VersionsDialog } from './VersionsDialog'
import { reasonOf } from '../background/tasks'

const inline = 'bg-transparent border-b border-transparent hover:border-control focus:border-ink outline-none'

const tenths = (value: number): number => Math.round(value * 10) / 10

const TEMPO = quantity('bpm', 'Tempo', presetFields.tempo.range, 120)
const TARGET = quantity('lufs', 'The target', presetFields.targetLufs.range, -18)

export function TopBar() {
  const dispatch = useAppDispatch()
  const { save } = session
  const preset = useSettings()
  const canUndo = useAppSelector((s) => (s.editor.history?.past.length ?? 0) > 0)
  const canRedo = useAppSelector((s) => (s.editor.history?.future.length ?? 0) > 0)
  const lit = useAppSelector((s) => s.editor.snapshot)
  const [versions, setVersions] = useState(false)
  const [more, setMore] = useState(false)
  if (!preset) return null
  const tempo = tempoOf(preset, lit)
  return (
    <header className="flex min-h-[var(--top-h)] flex-wrap items-center gap-x-5 gap-y-1 border-b border-rule2 px-4 py-1">
      <div className="mr-auto min-w-[110px] flex-1">
        <TextField
          label="Name of the preset"
          value={preset.name}
          maxLength={presetFields.name.most}
          className={`w-full max-w-[420px] truncate font-head text-preset leading-tight font-bold [font-stretch:var(--head-width)] ${inline}`}
          onCommit={(text) => {
            if (text.trim() === '') return 'A preset needs a name.'
            dispatch(edit({ type: 'rename', name: text.trim() }))
            return null
          }}
        />
      </div>
      <MadeFor preset={preset} />
      <div className={`contents ${more ? '' : 'small:hidden'} small:*:order-1`}>
        <div>
          <div className="eyebrow">Tempo</div>
          <div className="flex items-baseline gap-1 font-medium whitespace-nowrap">
            <NumberField
              spec={TEMPO}
              label="Tempo in bpm"
              value={tempo}
              format={(bpm) => figure(bpm, bpm % 1 ? 1 : 0)}
              className={`num [field-sizing:content] ${inline}`}
              onChange={(bpm) => dispatch(setTempo(tenths(bpm)))}
            />
            <span className="text-ink2">bpm</span>
            <TapButton />
          </div>
        </div>
        <div>
          <div className="eyebrow">Target loudness</div>
          <div className="flex items-baseline gap-1 font-medium whitespace-nowrap">
            <NumberField
              spec={TARGET}
              label="Target loudness in LUFS"
              value={preset.targetLufs}
              format={(lufs) => figure(lufs)}
              className={`num [field-sizing:content] ${inline}`}
              onChange={(lufs) => dispatch(edit({ type: 'setTarget', lufs: tenths(lufs) }))}
            />
            <span className="text-ink2">LUFS</span>
          </div>
        </div>
      </div>
      <div className="flex gap-3">
        <button type="button" className="act" disabled={!canUndo} onClick={() => dispatch(undone())} title="Ctrl/Cmd Z">
          Undo
        </button>
        <button type="button" className="act" disabled={!canRedo} onClick={() => dispatch(redone())} title="Ctrl/Cmd Shift Z">
          Redo
        </button>
      </div>
      <div className={`contents ${more ? '' : 'small:hidden'} small:*:order-1`}>
        <Findings />
        <ExportMenu preset={preset} />
        <div className="min-w-[112px]">
          <div className="eyebrow">
            <SyncWords />
          </div>
          <div className="flex gap-3">
            <button type="button" className="act" onClick={() => setVersions(true)}>
              Versions
            </button>
          </div>
        </div>
      </div>
      <button type="button" className="btn" onClick={() => void save()} title="Ctrl/Cmd S">
        <span className="small:hidden">Save version</span>
        <span className="hidden small:inline">Save</span>
      </button>
      <MoreButton open={more} onToggle={() => setMore(!more)} what="of the preset" />
      <VersionsDialog open={versions} onClose={() => setVersions(false)} />
    </header>
  )
}

/** What the preset is made for, where there is room to say so. */
function MadeFor({ preset }: { preset: Preset }) {
  const lit = useAppSelector((s) => s.editor.snapshot)
  const hand = handOf(preset, lit)
  const made = madeOn(preset)
  const id = useAppSelector((s) => s.editor.id)
  return (
    <div className="flex gap-x-5 max-[1179px]:hidden">
      <div className="max-w-[170px]">
        <div className="eyebrow truncate">{hand.guitar === made.id ? 'Guitar' : `Guitar, made on ${made.name}`}</div>
        <Link className="act block truncate font-medium" to={`/play-on/${id}`} title="Play it on another guitar">
          {hand.profile.name}, {hand.position + 1}
        </Link>
      </div>
      {preset.device && (
        <div className="max-w-[140px] max-[1439px]:hidden">
          <div className="eyebrow">Device</div>
          <Link className="act block truncate font-medium" to={`/controls/${id}/board`} title={preset.device.name}>
            {preset.device.name}
          </Link>
        </div>
      )}
    </div>
  )
}

/** Taps by click, or by T anywhere. */
function TapButton() {
  const dispatch = useAppDispatch()
  const [steady, setSteady] = useState<string | null>(null)
  return (
    <button
      type="button"
      className="ml-1 min-h-6 rounded-sm border border-control px-1.5 text-[12px] font-semibold"
      title={steady ?? 'Tap in time, here or with T'}
      // the press counts, not the release
      onPointerDown={(event) => {
        const found = dispatch(tap(event.timeStamp))
        setSteady(found?.errorMs == null ? null : `${found.taps} taps, ${figure(found.intervalMs)} ± ${figure(found.errorMs)} ms`)
      }}
      onKeyDown={(event) => {
        if (event.key !== 'Enter' || event.repeat) return
        event.preventDefault()
        dispatch(tap(event.timeStamp))
      }}
    >
      Tap
    </button>
  )
}

/** How the sheet stands with the server, in words. */
function SyncWords() {
  const { status, message, at } = useAppSelector((s) => s.editor.sync)
  const time = at === null ? '' : clock(at)
  const text = {
    saved: `Saved ${time}`,
    waiting: 'Saving …',
    saving: 'Saving …',
    offline: 'Server away, kept here',
    failed: 'Not saved, kept here',
    conflict: 'Changed elsewhere',
  }[status]
  const warn = status === 'offline' || status === 'failed' || status === 'conflict'
  return (
    <span data-sync={status} title={message || undefined} className={warn ? 'font-semibold text-ink' : ''} role="status">
      {warn && <WarningMark />} {text}
    </span>
  )
}

/** The open preset as it stands when something is done with it; null without one. */
const asItStands = (): Thunk<Preset | null> => (_, getState) => presentPreset(getState())

function ExportMenu({ preset: { snapshots } }: { preset: Preset }) {
  const dispatch = useAppDispatch()
  const lit = useAppSelector((s) => s.editor.snapshot)
  const snapshot = snapshots.find((s) => s.id === lit) ?? snapshots[0]
  const place = useAppSelector((s) => s.player.place)
  const wav = async (dry: boolean, correction: readonly PlaceBand[] | null = null) => {
    const preset = dispatch(asItStands())
    if (!preset) return
    try {
      if (dry) {
        const riff = await renderers.run({ task: 'riff', args: [riffSource(preset, snapshot.id), SAMPLE_RATE] })
        download(
          `${fileName('dry', riffOf(preset, snapshot.id).id, riffOf(preset, snapshot.id).strength)}.wav`,
          writeWav([riff], SAMPLE_RATE, 24),
          'audio/wav',
        )
      } else {
        const sides = await renderers.run({ task: 'render', args: [renderingOf(preset, snapshot.id, 'highest')], key: null })
        const name = fileName(preset.name, snapshot.name, ...(correction && place ? [`for ${place.name}`] : []))
        const written = correction ? correctSides(sides, correction, SAMPLE_RATE) : sides
        download(`${name}.wav`, writeWav(written, SAMPLE_RATE, 24), 'audio/wav')
      }
    } catch (error) {
      dispatch(notified({ kind: 'warning', text: `Nothing was exported: ${reasonOf(error)}` }))
    }
  }
  const json = () => {
    const preset = dispatch(asItStands())
    if (preset) download(`${fileName(preset.name)}.json`, `${JSON.stringify(preset, null, 2)}\n`, 'application/json')
  }
  const actions: readonly (readonly [string, () => void])[] = [
    ['Preset as JSON', json],
    [`“${snapshot.name}” as WAV, 48 kHz 24 bit, highest quality`, () => void wav(false)],
    ...(place?.correction ? [[`The same with what you set for ${place.name}`, () => void wav(false, place.correction)] as const] : []),
    ['Dry riff as WAV', () => void wav(true)],
  ]
  return (
    <Menu>
      <MenuButton className="act">
        Export
        <Chevron />
      </MenuButton>
      <MenuItems modal={false} anchor="bottom end" className="menu">
        {actions.map(([label, act]) => (
          <MenuItem key={label}>
            <button type="button" className="menu-item" onClick={act}>
              {label}
            </button>
          </MenuItem>
        ))}
      </MenuItems>
    </Menu>
  )
}
