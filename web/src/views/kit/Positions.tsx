import type { GuitarProfile, PickupPosition } from '@fulgor/core/guitar'
import { KIND_STARTS, PLACE_LABELS, restDbfs } from '@fulgor/core/guitar'
import { figure } from '../../ui/format'
import { brightnessShare, levelShare } from './scales'
import { useModelBrightness } from './useModelBrightness'

const TICKS = [-100, -80, -60, -40, -20, 0]

/** Every position on one scale: noise at rest, soft, normal and hard strums from mean level to peak, and brightness. */
export function Positions({ guitar, chosen, onChoose }: { guitar: GuitarProfile; chosen: number; onChoose: (index: number) => void }) {
  return (
    <div className="@container mt-1" data-positions="">
      <div className="grid grid-cols-[132px_minmax(0,1fr)_78px] @min-[560px]:grid-cols-[142px_minmax(0,1fr)_92px] gap-x-3 border-b border-rule2 text-axis text-ink3">
        <span />
        <span>
          level, dBFS: noise at rest, bars from RMS to peak
          <span className="relative block h-[14px]">
            {TICKS.map((db) => (
              <span
                key={db}
                className={`num absolute -translate-x-1/2 ${db % 50 === 0 ? '' : 'hidden @min-[560px]:inline'}`}
                style={{ left: `${100 * levelShare(db)}%` }}
              >
                {figure(db, 0)}
              </span>
            ))}
          </span>
        </span>
        <span>
          brightness, Hz
          <span className="flex justify-between">
            <span className="num">500</span>
            <span className="num">5k</span>
          </span>
        </span>
      </div>
      {guitar.positions.map((position, i) => (
        <Row key={i} guitar={guitar} position={position} number={i + 1} chosen={i === chosen} onChoose={() => onChoose(i)} />
      ))}
    </div>
  )
}

function Row(props: { guitar: GuitarProfile; position: PickupPosition; number: number; chosen: boolean; onChoose: () => void }) {
  const { guitar, position, number, chosen, onChoose } = props
  const noise = restDbfs(position)
  const hums = position.humDbfs > position.hissDbfs
  const modelled = useModelBrightness(guitar, position)
  const centroid = position.centroidHz ?? modelled
  const bar = (from: number, to: number) => ({ left: `${100 * levelShare(from)}%`, width: `${100 * (levelShare(to) - levelShare(from))}%` })
  const tone = chosen ? 'bg-ember' : 'bg-ink'
  return (
    <button
      type="button"
      aria-pressed={chosen}
      onClick={onChoose}
      data-position={number}
      title={`${position.name}: hard strum ${figure(position.hard.peakDbfs)} dBFS peak, ${figure(position.hard.rmsDbfs)} dBFS RMS; at rest ${figure(noise)} dBFS`}
      className={`relative grid w-full grid-cols-[132px_minmax(0,1fr)_78px] @min-[560px]:grid-cols-[142px_minmax(0,1fr)_92px] items-center gap-x-3 border-b border-rule py-1 text-left ${chosen ? 'bg-deep' : 'hover:bg-deep'}`}
    >
      {chosen && <span className="absolute inset-y-0 left-0 w-[3px] bg-ember" />}
      <span className="min-w-0 pl-2">
        <span className={`block truncate text-name ${chosen ? 'font-bold' : 'font-semibold'}`}>
          <span className="num mr-1 font-normal text-ink2">{number}</span>
          {position.name}
        </span>
        <span className="block truncate text-[11px] text-ink2">
          {KIND_STARTS[position.kind].label.toLowerCase()}, {PLACE_LABELS[position.place]}
        </span>
      </span>
      <span className="relative block h-[34px]">
        {TICKS.map((db) => (
          <span key={db} className="absolute inset-y-0 border-l border-rule" style={{ left: `${100 * levelShare(db)}%` }} />
        ))}
        <svg className="absolute top-[13px] h-2" style={bar(-100, noise)} width="100%" height="8" aria-hidden="true">
          <rect width="100%" height="8" fill="url(#fulgor-hatch)" />
        </svg>
        <span className={`absolute inset-y-[6px] w-[2px] ${tone}`} style={{ left: `${100 * levelShare(noise)}%` }} />
        {chosen && (
          <span
            className="absolute top-[3px] hidden pl-1.5 text-[10.5px] @min-[560px]:block leading-[14px] whitespace-nowrap"
            style={{ left: `${100 * levelShare(noise)}%` }}
          >
            {hums ? `hum ${position.mains} Hz` : 'hiss'}
            <span className="num block">{figure(noise)}</span>
          </span>
        )}
        {(['soft', 'normal', 'hard'] as const).map((strength, k) => (
          <span
            key={strength}
            className={`absolute ${tone}`}
            style={{ ...bar(position[strength].rmsDbfs, position[strength].peakDbfs), top: 6 + 9 * k, height: 2 + k }}
          />
        ))}
        {chosen && (
          <span
            className="num absolute top-[20px] hidden pl-1 @min-[560px]:block text-[10.5px] leading-[12px] font-semibold whitespace-nowrap"
            style={
              position.hard.peakDbfs > -14
                ? { right: `${100 - 100 * levelShare(position.hard.rmsDbfs) + 1}%` }
                : { left: `${100 * levelShare(position.hard.peakDbfs)}%` }
            }
          >
            {figure(position.hard.peakDbfs)} dB
          </span>
        )}
      </span>
      <span>
        <span className="num block text-right text-label">{centroid === null ? '…' : `${figure(centroid / 1000, 2)} k`}</span>
        <span className="relative mt-0.5 block h-2 border-b border-control">
          {centroid !== null && (
            <span className={`absolute inset-y-0 w-[2px] ${tone}`} style={{ left: `${100 * brightnessShare(centroid)}%` }} />
          )}
        </span>
      </span>
    </button>
  )
}
