import { quantity } from '@fulgor/core/catalogue'
import {
  bleedFields,
  cableFields,
  cablePf,
  toneFields,
  volumeFields,
  wiringFields,
  type GuitarDocument,
  type GuitarProfile,
  type PickupPosition,
} from '@fulgor/core/guitar'
import { figure } from '../../ui/format'
import { NumberField } from '../../ui/NumberField'
import { Pick } from '../../ui/Pick'
import { Line } from './PositionPart'

const SMALL = 'num w-[62px] border-b border-control bg-transparent text-right outline-none focus:border-ink'
const TAPERS = [
  ['audio', 'audio'],
  ['linear', 'linear'],
] as const

/** Pots, treble bleed, cable and what the guitar is plugged into. */
export function WiringPart(props: {
  guitar: GuitarProfile
  position: PickupPosition
  onChange: (part: Partial<GuitarDocument>, key?: string) => void
}) {
  const { guitar, onChange } = props
  const { volume, bleed, tone, cable } = guitar
  const bleedKind = bleed === null ? 'none' : bleed.kohm === 0 ? 'alone' : bleed.way
  return (
    <div className="min-w-0 text-[12px]" data-wiring="">
      <h2 className="text-section font-bold">Wiring</h2>
      <Line name="Volume">
        <span className="flex items-baseline gap-1">
          <NumberField
            spec={quantity('kohm', 'Volume pot', volumeFields.kohm.range)}
            value={volume.kohm}
            className={SMALL}
            onChange={(kohm) => onChange({ volume: { ...volume, kohm } }, 'volume')}
          />
          <Pick
            label="Taper of the volume"
            value={volume.taper}
            options={TAPERS}
            onChange={(taper) => onChange({ volume: { ...volume, taper } })}
          />
        </span>
      </Line>
      <Line name="Bleed">
        <Pick
          label="Treble bleed"
          value={bleedKind}
          options={[
            ['none', 'none'],
            ['alone', 'capacitor'],
            ['beside', 'resistor beside'],
            ['behind', 'resistor behind'],
          ]}
          onChange={(kind) => {
            const pf = bleed?.pf ?? 1_000
            const kohm = bleed?.kohm ? bleed.kohm : 150
            onChange({
              bleed: kind === 'none' ? null : kind === 'alone' ? { pf, kohm: 0, way: 'beside' } : { pf, kohm, way: kind },
            })
          }}
        />
      </Line>
      {bleed && (
        <Line name="">
          <span className="flex items-baseline gap-1">
            <NumberField
              spec={quantity('pf', 'Capacitor of the bleed', bleedFields.pf.range)}
              value={bleed.pf}
              className={SMALL}
              onChange={(pf) => onChange({ bleed: { ...bleed, pf } }, 'bleed pf')}
            />
            {bleed.kohm > 0 && (
              <NumberField
                spec={quantity('kohm', 'Resistor of the bleed', bleedFields.kohm.range)}
                value={bleed.kohm}
                className={SMALL}
                onChange={(kohm) => onChange({ bleed: { ...bleed, kohm } }, 'bleed kohm')}
              />
            )}
          </span>
        </Line>
      )}
      <Line name="Tone">
        {tone ? (
          <span className="flex items-baseline gap-1">
            <NumberField
              spec={quantity('kohm', 'Tone pot', toneFields.kohm.range)}
              value={tone.kohm}
              className={SMALL}
              onChange={(kohm) => onChange({ tone: { ...tone, kohm } }, 'tone')}
            />
            <Pick
              label="Taper of the tone"
              value={tone.taper}
              options={TAPERS}
              onChange={(taper) => onChange({ tone: { ...tone, taper } })}
            />
          </span>
        ) : (
          <button type="button" className="act" onClick={() => onChange({ tone: { kohm: volume.kohm, nf: 22, taper: 'audio' } })}>
            none; add one
          </button>
        )}
      </Line>
      {tone && (
        <Line name="">
          <span className="flex items-baseline gap-2">
            <button type="button" className="act font-normal" onClick={() => onChange({ tone: null })}>
              no tone control
            </button>
            <NumberField
              spec={quantity('nf', 'Capacitor of the tone control', toneFields.nf.range)}
              value={tone.nf}
              className={SMALL}
              onChange={(nf) => onChange({ tone: { ...tone, nf } }, 'tone nf')}
            />
          </span>
        </Line>
      )}
      <Line name="Cable">
        <span className="flex items-baseline gap-1">
          <NumberField
            spec={quantity('m', 'Length of the cable', cableFields.metres.range)}
            value={cable.metres}
            className="num w-[46px] border-b border-control bg-transparent text-right outline-none focus:border-ink"
            before={(text) => {
              // a cable may also be told by what it has in all
              const match = /^(\d+(?:[.,]\d+)?) ?(p|pf|n|nf)$/i.exec(text.trim())
              if (!match) return null
              const pf = Number(match[1].replace(',', '.')) * (match[2].toLowerCase().startsWith('n') ? 1_000 : 1)
              const metres = Math.round((pf / cable.pfPerMetre) * 100) / 100
              const [, longest] = cableFields.metres.range
              if (metres > longest) return `${figure(pf, 0)} pF is more than ${longest} m of this cable.`
              onChange({ cable: { ...cable, metres } }, 'cable')
              return ''
            }}
            onChange={(metres) => onChange({ cable: { ...cable, metres } }, 'cable')}
          />
          <NumberField
            spec={quantity('pf', 'Capacitance a metre', cableFields.pfPerMetre.range, 100)}
            value={cable.pfPerMetre}
            format={(pf) => `${figure(pf, 0)} pF/m`}
            className="num w-[70px] border-b border-control bg-transparent text-right outline-none focus:border-ink"
            onChange={(pfPerMetre) => onChange({ cable: { ...cable, pfPerMetre } }, 'cable pf')}
          />
        </span>
      </Line>
      <Line name="in all">
        <span className="num">{figure(cablePf(guitar), 0)} pF</span>
      </Line>
      <Line name="Input">
        <NumberField
          spec={quantity('kohm', 'Input of the device', wiringFields.inputKohm.range, 1_000)}
          value={guitar.inputKohm}
          format={(k) => (k >= 1_000 ? `${figure(k / 1_000, k % 1_000 ? 1 : 0)} MΩ` : `${figure(k, 0)} kΩ`)}
          className={SMALL}
          onChange={(inputKohm) => onChange({ inputKohm }, 'input')}
        />
      </Line>
    </div>
  )
}
