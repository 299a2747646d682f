import { quantity } from '@fulgor/core/catalogue'
import { deviceFields, type DeviceScale } from '@fulgor/core/preset'
import { figure } from '../ui/format'
import { NumberField } from '../ui/NumberField'
import { Pick } from '../ui/Pick'

const KINDS: readonly (readonly [DeviceScale['kind'], string])[] = [
  ['db', 'dB'],
  ['share', 'proportional, as % or 0 to 10 of the amplitude'],
  ['steps', 'steps of so many dB'],
]

const SMALL = 'num w-[64px] border-b border-control bg-transparent text-right outline-none focus:border-ink'

/** How the level control of a device is marked. */
export function ScaleFields({ scale, onChange }: { scale: DeviceScale; onChange: (part: Partial<DeviceScale>, key: string) => void }) {
  return (
    <>
      <Pick label="Kind of the level control" value={scale.kind} options={KINDS} onChange={(kind) => onChange({ kind }, 'kind')} />
      {scale.kind === 'steps' && (
        <span>
          <NumberField
            spec={quantity('db', 'dB of one mark', deviceFields.stepDb.range)}
            value={scale.stepDb}
            format={(stepDb) => figure(stepDb, 2)}
            className={SMALL}
            onChange={(stepDb) => onChange({ stepDb }, 'stepDb')}
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
          className={SMALL}
          onChange={(min) => onChange({ min }, 'min')}
        />{' '}
        to{' '}
        <NumberField
          spec={quantity('plain', 'Highest mark', [scale.min + 0.1, deviceFields.max.range[1]])}
          value={scale.max}
          format={(mark) => figure(mark)}
          className={SMALL}
          onChange={(max) => onChange({ max }, 'max')}
        />
      </span>
    </>
  )
}

/** The same in words. */
export const scaleWords = ({ kind, min, max, stepDb }: DeviceScale): string =>
  `${kind === 'db' ? 'dB' : kind === 'share' ? 'proportional marks' : `steps of ${figure(stepDb, 2)} dB`}, from ${figure(min)} to ${figure(max)}`
