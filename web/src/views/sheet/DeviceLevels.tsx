import { useState } from 'react'
import { quantity } from '@fulgor/core/catalogue'
import { DEFAULT_SCALE, deviceFields, levelFromTakes, type DeviceScale, type Preset } from '@fulgor/core/preset'
import { edit } from '../../state/actions'
import { useAppDispatch, useAppSelector } from '../../state/store'
import { figure } from '../../ui/format'
import { WarningMark } from '../../ui/marks'
import { PaperDialog } from '../../ui/PaperDialog'
import { Pick } from '../../ui/Pick'
import { NumberField } from '../../ui/NumberField'
import { measuresOf, takesOf, useRecordings } from './takes'

const KINDS: readonly (readonly [DeviceScale['kind'], string])[] = [
  ['db', 'dB'],
  ['share', 'proportional, as % or 0 to 10 of the amplitude'],
  ['steps', 'steps of so many dB'],
]

/** The trims of all snapshots in the scale of the player's own device, from recordings of it. */
export function DeviceLevels({ preset, onClose }: { preset: Preset; onClose: () => void }) {
  const dispatch = useAppDispatch()
  const takes = takesOf(preset)
  const found = useRecordings(takes.map(({ take }) => take.file))
  const renders = useAppSelector((s) => s.measures.snapshots)
  const [reference, setReference] = useState('')
  const scale = preset.device ?? { ...DEFAULT_SCALE, name: takes.at(-1)?.take.device ?? DEFAULT_SCALE.name }
  const lufs = new Map(
    takes.flatMap(({ take }) => {
      const heard = measuresOf(found.get(take.file))?.integratedLufs
      return heard == null ? [] : [[take.file, heard] as const]
    }),
  )
  const rows = levelFromTakes(preset, scale, lufs, reference === '' ? null : reference)
  const without = preset.snapshots.filter((s) => !s.takes && !s.ignored)
  const change = (part: Partial<DeviceScale>) => dispatch(edit({ type: 'setDevice', device: { ...scale, ...part } }))
  const setMark = ({ snapshot, take }: (typeof rows)[number], setting: number | null) =>
    dispatch(edit({ type: 'changeTake', snapshot: snapshot.id, take: take.id, change: { setting } }))
  const small = 'num w-[64px] border-b border-control bg-transparent text-right outline-none focus:border-ink'
  return (
    <PaperDialog open onClose={onClose} title="Levels on your device" wide>
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1 text-[12px]">
        <span className="text-ink2">Level control of {scale.name} is marked in</span>
        <Pick label="Kind of the level control" value={scale.kind} options={KINDS} onChange={(kind) => change({ kind })} />
        {scale.kind === 'steps' && (
          <span>
            <NumberField
              spec={quantity('db', 'dB of one mark', deviceFields.stepDb.range)}
              value={scale.stepDb}
              format={(stepDb) => figure(stepDb, 2)}
              className={small}
              onChange={(stepDb) => change({ stepDb })}
            />{' '}
            dB a mark
          </span>
        )}
        <span>
          from{' '}
          <NumberField
            spec={quantity('plain', 'Lowest mark', [deviceFields.min.range[0], scale.max - 0.1])}
            value={scale.min}
            format={(mark) => figure(mark)}
            className={small}
            onChange={(min) => change({ min })}
          />{' '}
          to{' '}
          <NumberField
            spec={quantity('plain', 'Highest mark', [scale.min + 0.1, deviceFields.max.range[1]])}
            value={scale.max}
            format={(mark) => figure(mark)}
            className={small}
            onChange={(max) => change({ max })}
          />
        </span>
      </div>
      <div className="mt-1 flex items-baseline gap-2 text-[12px]">
        <span className="text-ink2">Levelled to</span>
        <Pick
          label="Levelled to"
          value={reference}
          options={[
            ['', `the target, ${figure(preset.targetLufs)} LUFS`] as const,
            ...takes.map(({ snapshot }) => [snapshot.id, `${snapshot.name}, which stays`] as const),
          ]}
          onChange={setReference}
        />
      </div>
      <table className="mt-2 w-full text-[12px]" aria-label="Levels from takes">
        <thead>
          <tr className="text-label text-ink3 [&>th]:py-1 [&>th]:text-right [&>th]:font-normal">
            <th className="!text-left">Snapshot</th>
            <th>take, LUFS</th>
            <th>target, LUFS</th>
            <th>change, dB</th>
            <th>device from</th>
            <th>to</th>
            <th>render, LUFS</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr
              key={row.snapshot.id}
              className="border-t border-rule [&>td]:py-0.5"
              data-device-level={`${row.snapshot.name} ${row.change.toFixed(2)} ${row.setting ?? ''}`}
            >
              <td className="font-semibold">{row.snapshot.name}</td>
              <td className="num text-right">{figure(row.lufs)}</td>
              <td className="num text-right">{figure(row.target)}</td>
              <td className="num text-right">{figure(row.change, 1, true)}</td>
              <td className="num text-right">
                <NumberField
                  spec={quantity('plain', `Level control in ${row.snapshot.name}`, [scale.min, scale.max])}
                  value={row.take.setting}
                  format={(mark) => figure(mark)}
                  empty={{ word: '–', onEmpty: () => setMark(row, null) }}
                  className={small}
                  onChange={(setting) => setMark(row, setting)}
                />
              </td>
              <td className="num text-right font-semibold">
                {row.missingDb !== 0 && <WarningMark />} {figure(row.setting)}
              </td>
              <td className="num text-right text-ink2">{figure(renders[row.snapshot.id]?.output?.integratedLufs)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {rows.some((row) => row.missingDb !== 0) && (
        <p className="mt-1 text-[12px]">
          <WarningMark />{' '}
          {rows
            .filter((row) => row.missingDb !== 0)
            .map((row) => `${row.snapshot.name} stays ${figure(Math.abs(row.missingDb))} dB ${row.missingDb > 0 ? 'too soft' : 'too loud'}`)
            .join('; ')}
          : the control ends there.
        </p>
      )}
      {rows.some((row) => row.setting === null) && (
        <p className="mt-1 text-[12px] text-ink2">Type where the control stood during a take, and its new place is told.</p>
      )}
      {without.length > 0 && <p className="mt-1 text-[12px] text-ink2">No take yet: {without.map((s) => s.name).join(', ')}.</p>}
    </PaperDialog>
  )
}
