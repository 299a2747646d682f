import { useState } from 'react'
import { quantity } from '@fulgor/core/catalogue'
import { DEFAULT_SCALE, levelFromTakes, type DeviceScale, type Preset } from '@fulgor/core/preset'
import { edit } from '../../state/actions'
import { useAppDispatch, useAppSelector } from '../../state/store'
import { figure } from '../../ui/format'
import { WarningMark } from '../../ui/marks'
import { PaperDialog } from '../../ui/PaperDialog'
import { Pick } from '../../ui/Pick'
import { NumberField } from '../../ui/NumberField'
import { DeviceChoice } from '../../device/DeviceChoice'
import { ScaleFields, scaleWords } from '../../device/ScaleFields'
import { measuresOf, takesOf, useRecordings } from './takes'

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
        <DeviceChoice preset={preset} />
        <span className="text-ink2">its level control is marked in</span>
        {scale.kit === undefined ? <ScaleFields scale={scale} onChange={change} /> : <span>{scaleWords(scale)}</span>}
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
