import { useRef, useState, type DragEvent } from 'react'
import { quantity } from '@fulgor/core/catalogue'
import {
  KIND_STARTS,
  measuredPosition,
  PICKUP_KINDS,
  PLACE_LABELS,
  PLACES,
  positionFields,
  voiceOf,
  type GuitarMeasure,
  type GuitarProfile,
  type PickupPosition,
  type PickupType,
} from '@fulgor/core/guitar'
import { STRENGTHS, type Strength } from '@fulgor/core/riffs'
import { session } from '../../audio/session'
import { Cancelled, reasonOf } from '../../background/tasks'
import { renderers } from '../../threads/crews'
import { NumberField } from '../../ui/NumberField'
import { Explain } from '../../ui/Explain'
import { WarningMark } from '../../ui/marks'
import { Pick } from '../../ui/Pick'
import { TextField } from '../../ui/TextField'
import { FoundInFile, type Found } from './FoundInFile'
import { MeasureDialog } from './MeasureDialog'
import { StrumSpectrum } from './StrumSpectrum'
import { today } from './today'
import { useModelBrightness } from './useModelBrightness'

const LEVEL = (label: string) => quantity('dbfs', label, [-140, 0], -20)
const WORDS: Record<Strength, string> = { soft: 'Soft', normal: 'Normal', hard: 'Hard' }
const FROM: Record<PickupPosition['from'], string> = {
  start: 'as its kind usually is',
  typed: 'typed',
  played: 'measured by playing',
  file: 'measured from a file',
}

interface Props {
  guitar: GuitarProfile
  position: PickupPosition
  number: number
  onChange: (position: PickupPosition, key?: string) => void
  onKind: (kind: PickupType) => void
}

/** What one position of the switch is and gives: measured by playing, from a recording, or typed. */
export function PositionPart({ guitar, position, number, onChange, onKind }: Props) {
  const [playing, setPlaying] = useState(false)
  const [found, setFound] = useState<Found | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const [reading, setReading] = useState(false)
  const [over, setOver] = useState(false)
  const input = useRef<HTMLInputElement>(null)
  const modelled = useModelBrightness(guitar, position)

  const take = async (file: File | undefined, channel: 0 | 1 | null = null) => {
    if (!file) return
    setProblem(null)
    setReading(true)
    try {
      const bytes = new Uint8Array(await file.arrayBuffer())
      const answer = await renderers.run({ task: 'measureFile', args: [file.name, bytes, guitar, channel], key: null, rank: 'now' })
      setFound({ ...answer, name: file.name, file })
    } catch (error) {
      if (!(error instanceof Cancelled)) setProblem(reasonOf(error))
      setFound(/two different signals/.test(reasonOf(error)) ? { name: file.name, file, measure: null, outline: null } : null)
    } finally {
      setReading(false)
    }
  }
  const keep = (measure: GuitarMeasure, from: 'played' | 'file') => onChange(measuredPosition(position, measure, from, today()))
  const typed = (part: Partial<PickupPosition>, key: string) => onChange({ ...position, ...part, from: 'typed' }, key)
  const hear = async () => {
    const strum = await renderers.run({ task: 'strums', args: [voiceOf(guitar, position), 'normal'], key: null, rank: 'now' })
    await session.player.playSound([strum, strum])
  }
  const onDrop = (event: DragEvent) => {
    event.preventDefault()
    setOver(false)
    void take(event.dataTransfer.files[0])
  }
  return (
    <div
      className={over ? 'outline-2 outline-offset-4 outline-lane outline-dashed' : ''}
      onDragOver={(event) => {
        event.preventDefault()
        setOver(true)
      }}
      onDragLeave={() => setOver(false)}
      onDrop={onDrop}
      data-figures={position.from}
    >
      <h2 className="flex items-baseline gap-2 text-section font-bold">
        <span className="num font-normal text-ink2">{number}</span>
        <TextField
          label="Name of the position"
          value={position.name}
          maxLength={positionFields.name.most}
          className="max-w-[200px] [field-sizing:content] border-b border-transparent bg-transparent font-bold outline-none hover:border-control focus:border-ink"
          onCommit={(name) => {
            if (name.trim() === '') return 'A position needs a name.'
            onChange({ ...position, name: name.trim() })
            return null
          }}
        />
        <span className="text-[11.5px] font-normal text-ink2">
          {FROM[position.from]}
          {position.measuredOn ? `, ${position.measuredOn}` : ''}
        </span>
      </h2>
      <div className="flex flex-wrap gap-x-4 text-[12px]">
        <Pick
          label="Kind of pickup"
          value={position.kind}
          options={PICKUP_KINDS.map((k) => [k, KIND_STARTS[k].label] as const)}
          onChange={onKind}
        />
        <Pick
          label="Where it lies"
          value={position.place}
          options={PLACES.map((p) => [p, PLACE_LABELS[p]] as const)}
          onChange={(place) => onChange({ ...position, place })}
        />
      </div>
      <div className="my-1 flex flex-wrap gap-x-4 text-[12px]">
        <button type="button" className="act" onClick={() => setPlaying(true)}>
          Measure by playing
        </button>
        <button type="button" className="act" disabled={reading} onClick={() => input.current?.click()}>
          {reading ? 'Listening …' : 'Drop or choose a DI file'}
        </button>
        <button type="button" className="act" onClick={() => void hear()}>
          Hear its strums
        </button>
        <button type="button" className="act font-normal" onClick={() => session.player.stopSound()}>
          Stop
        </button>
        <input
          ref={input}
          type="file"
          accept=".wav,.aif,.aiff,audio/*"
          aria-label="A dry recording of this position"
          className="hidden"
          onChange={(event) => {
            void take(event.currentTarget.files?.[0])
            event.currentTarget.value = ''
          }}
        />
      </div>
      {problem !== null && (
        <p role="alert" className="my-1 text-[12px] font-semibold">
          <WarningMark /> {problem}
        </p>
      )}
      {found && (
        <FoundInFile
          found={found}
          onSide={(side) => void take(found.file, side)}
          onKeep={(measure) => {
            keep(measure, 'file')
            setFound(null)
          }}
          onLeave={() => {
            setFound(null)
            setProblem(null)
          }}
        />
      )}
      <table className="mt-1 w-full text-[12px]" aria-label="Strums of the position">
        <thead>
          <tr className="text-label text-ink3">
            <th className="text-left font-normal">
              Strums <Explain term="strums" />
            </th>
            <th className="text-right font-normal">peak, dBFS</th>
            <th className="text-right font-normal">RMS, dBFS</th>
          </tr>
        </thead>
        <tbody>
          {STRENGTHS.map((s) => (
            <tr key={s} className="border-t border-rule">
              <td>{WORDS[s]}</td>
              <td className="num text-right">
                <Cell
                  label={`${WORDS[s]} strum, peak`}
                  value={position[s].peakDbfs}
                  onChange={(peakDbfs) => typed({ [s]: { ...position[s], peakDbfs } }, `${s} peak`)}
                />
              </td>
              <td className="num text-right">
                <Cell
                  label={`${WORDS[s]} strum, RMS`}
                  value={position[s].rmsDbfs}
                  onChange={(rmsDbfs) => typed({ [s]: { ...position[s], rmsDbfs } }, `${s} rms`)}
                />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="grid grid-cols-2 gap-x-5 border-t border-rule text-[12px]">
        <Line name="Brightness">
          <NumberField
            spec={quantity('hz', 'Brightness of a normal strum', [60, 12_000], 1_200)}
            value={position.centroidHz}
            title={position.centroidHz === null ? 'By the string model; measured or typed it counts instead' : undefined}
            className={FIELD}
            empty={{
              word: modelled === null ? 'model' : `${(modelled / 1000).toFixed(2)} kHz`,
              onEmpty: () => {
                const { bands: _, ...rest } = position
                onChange({ ...rest, centroidHz: null, from: 'typed' })
              },
            }}
            onChange={(hz) => {
              // a typed brightness stands for itself: the measured spectrum said something else
              const { bands: _, ...rest } = position
              onChange({ ...rest, centroidHz: hz, from: 'typed' }, 'brightness')
            }}
          />
        </Line>
        <Line name="Mains">
          <Pick
            label="Mains that it hums with"
            value={String(position.mains)}
            options={[
              ['50', '50 Hz'],
              ['60', '60 Hz'],
            ]}
            onChange={(mains) => typed({ mains: mains === '60' ? 60 : 50 }, 'mains')}
          />
        </Line>
        <Line name="Hum at rest">
          <Cell label="Hum at rest" value={position.humDbfs} onChange={(humDbfs) => typed({ humDbfs }, 'hum')} unit />
        </Line>
        <Line name="Hiss at rest">
          <Cell label="Hiss at rest" value={position.hissDbfs} onChange={(hissDbfs) => typed({ hissDbfs }, 'hiss')} unit />
        </Line>
        <Line name="Coil">
          <NumberField
            spec={quantity('kohm', 'Resistance of the coil', positionFields.resistance.range)}
            value={position.resistance}
            className={FIELD}
            onChange={(resistance) => onChange({ ...position, resistance }, 'resistance')}
          />
        </Line>
        <Line name="Inductance">
          <NumberField
            spec={quantity('henry', 'Inductance of the coil', positionFields.inductance.range)}
            value={position.inductance}
            className={FIELD}
            onChange={(inductance) => onChange({ ...position, inductance }, 'inductance')}
          />
        </Line>
        <Line name="Capacitance">
          <NumberField
            spec={quantity('pf', 'Capacitance of the coil', positionFields.capacitance.range)}
            value={position.capacitance}
            className={FIELD}
            onChange={(capacitance) => onChange({ ...position, capacitance }, 'capacitance')}
          />
        </Line>
      </div>
      {position.bands && <StrumSpectrum bands={position.bands} name={position.name} />}
      <p className="mt-1 text-[11.5px] text-ink3">
        Riffs are heard through a guitar in level, spectrum, noise and tuning; attack and sustain stay the riff’s own.
      </p>
      <MeasureDialog
        open={playing}
        guitar={guitar}
        position={position}
        onClose={() => setPlaying(false)}
        onKeep={(measure) => {
          keep(measure, 'played')
          setPlaying(false)
        }}
      />
    </div>
  )
}

export const FIELD = 'num w-[84px] border-b border-control bg-transparent text-right outline-none focus:border-ink'

export function Line({ name, children }: { name: string; children: React.ReactNode }) {
  return (
    <div className="flex min-h-6 items-baseline justify-between gap-2 border-t border-rule">
      <span className="truncate text-ink2">{name}</span>
      {children}
    </div>
  )
}

function Cell({
  label,
  value,
  onChange,
  unit = false,
}: {
  label: string
  value: number
  onChange: (value: number) => void
  unit?: boolean
}) {
  return (
    <NumberField
      spec={LEVEL(label)}
      value={value}
      className={unit ? FIELD : 'num w-[64px] border-b border-control bg-transparent text-right outline-none focus:border-ink'}
      {...(unit ? {} : { format: (v: number) => v.toFixed(1).replace('-', '\u2212') })}
      onChange={onChange}
    />
  )
}
