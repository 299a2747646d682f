import { Suspense, useMemo, useState } from 'react'
import { quantity } from '@fulgor/core/catalogue'
import { cablePf, knobsTransfer, type GuitarProfile, type PickupPosition } from '@fulgor/core/guitar'
import { transferDb } from '@fulgor/core/signal'
import { figure } from '../../ui/format'
import { Explain } from '../../ui/Explain'
import { LazyChart } from '../../ui/LazyChart'
import { NumberField } from '../../ui/NumberField'

const POINTS = 160
const LOW = 50
const HIGH = 12_000
const KNOB = (label: string) => quantity('knob', label, [0, 10], 10)

/** What coil, pots and cable leave of the strings at some settings of both knobs. */
export function KnobsChart({ guitar, position, number }: { guitar: GuitarProfile; position: PickupPosition; number: number }) {
  const [volume, setVolume] = useState(7)
  const [tone, setTone] = useState(10)
  const curves = useMemo(() => {
    const curve = (v: number, t: number, of: GuitarProfile = guitar) => {
      const transfer = knobsTransfer(of, position, v, t)
      return Array.from({ length: POINTS }, (_, k) => {
        const hz = LOW * Math.pow(HIGH / LOW, k / (POINTS - 1))
        return [hz, transferDb(transfer, hz)] as const
      })
    }
    const other =
      guitar.bleed === null ? { ...guitar, bleed: { pf: 1_000, kohm: 150, way: 'beside' as const } } : { ...guitar, bleed: null }
    return [
      { label: 'both at 10', points: curve(10, 10), tone: 'ink' as const },
      { label: `volume ${figure(volume)}, tone ${figure(tone)}`, points: curve(volume, tone), tone: 'ember' as const },
      {
        label: guitar.bleed === null ? 'with a treble bleed' : 'without bleed',
        points: curve(volume, tone, other),
        tone: 'lane' as const,
        dashed: true,
      },
      { label: 'tone 0', points: curve(10, 0), tone: 'ink-2' as const, dashed: true },
    ]
  }, [guitar, position, volume, tone])
  const top = curves[0].points.reduce((best, p) => (p[1] > best[1] ? p : best), curves[0].points[0])
  return (
    <div className="mt-1 border-t border-ink pt-1" data-knobs="">
      <div className="flex flex-wrap items-baseline gap-x-3">
        <h2 className="text-section font-bold">
          Volume and tone <Explain term="knobs" />
        </h2>
        <span className="text-[12px] text-ink2">
          position {number} through {figure(guitar.cable.metres, 1)} m of cable,{' '}
          <span className="num">{figure(cablePf(guitar), 0)} pF</span>; peak of <span className="num">{figure(top[1])} dB</span> at{' '}
          <span className="num">{figure(top[0] / 1000, 2)} kHz</span>
        </span>
        <span className="ml-auto flex items-baseline gap-1 text-[12px]">
          Volume
          <NumberField
            spec={KNOB('Volume knob')}
            value={volume}
            onChange={setVolume}
            className="num w-[34px] border-b border-control bg-transparent text-right outline-none focus:border-ink"
          />
          <span className="ml-2">Tone</span>
          <NumberField
            spec={KNOB('Tone knob')}
            value={tone}
            onChange={setTone}
            className="num w-[34px] border-b border-control bg-transparent text-right outline-none focus:border-ink"
          />
        </span>
      </div>
      <div className="h-[190px]">
        <Suspense fallback={null}>
          <LazyChart
            curves={curves}
            x={{
              log: true,
              min: LOW,
              max: HIGH,
              ticks: [100, 1_000, 10_000],
              format: (v: number) => (v >= 1000 ? `${v / 1000}k` : String(v)),
              unit: 'Hz',
            }}
            y={{ min: -24, max: 12, interval: 12, unit: 'dB' }}
            height={190}
            label={`Response of ${position.name} at several settings of volume and tone`}
          />
        </Suspense>
      </div>
    </div>
  )
}
