import { useRef, type KeyboardEvent, type PointerEvent } from 'react'
import { geometryOf, type BenchChannel } from '@fulgor/core/cabinet'
import { micSpecs } from '@fulgor/core/catalogue'
import { channelName, sideOffset, withChannel, withMic, type DrawingProps } from './bench'
import { channelTone, MarkShape } from './ChannelMark'

const WIDTH = 380
const HEIGHT = 128
/** Where the grille cloth stands. */
const GRILLE = 56
const AXIS_Y = 56
const RANGES = [200, 500, 1_500]
const clamp = (spec: { min: number; max: number }, value: number): number => Math.min(spec.max, Math.max(spec.min, Math.round(value)))

/** The loudspeaker from the side: distance from the grille cloth and angle. */
export function SideView({ bench, selected, onSelect, onChange }: DrawingProps) {
  const svg = useRef<SVGSVGElement>(null)
  const farthest = Math.max(0, ...bench.channels.map((c) => (c.source.kind === 'mic' ? c.source.distance : 0)))
  const range = RANGES.find((r) => r >= farthest * 1.02) ?? RANGES[2]
  const { coneRadius, coneDepth } = geometryOf(bench.cab)
  const x = (mm: number) => GRILLE + (mm / range) * (WIDTH - GRILLE - 44)
  // across is drawn to one scale whatever the range
  const y = (mm: number) => AXIS_Y - (mm / 160) * 48
  const move = (channel: BenchChannel, change: { distance?: number; angle?: number; offset?: number }) =>
    onChange(
      withChannel(bench, channel.id, (c) => withMic(c, change)),
      `${channel.id} place`,
    )

  const drag = (channel: BenchChannel, event: PointerEvent) => {
    const box = svg.current?.getBoundingClientRect()
    if (!box || !(event.buttons & 1) || channel.source.kind !== 'mic') return
    const scale = WIDTH / box.width
    const across = ((AXIS_Y - (event.clientY - box.top) * scale) / 48) * 160
    move(channel, {
      distance: clamp(micSpecs.distance, (((event.clientX - box.left) * scale - GRILLE) / (WIDTH - GRILLE - 44)) * range),
      offset: clamp(micSpecs.offset, across * (channel.source.bearing < 0 ? -1 : 1)),
    })
  }
  const turn = (channel: BenchChannel, event: PointerEvent) => {
    const box = svg.current?.getBoundingClientRect()
    if (!box || !(event.buttons & 1) || channel.source.kind !== 'mic') return
    const scale = WIDTH / box.width
    const dx = (event.clientX - box.left) * scale - x(channel.source.distance)
    const dy = y(sideOffset(channel.source)) - (event.clientY - box.top) * scale
    const side = channel.source.bearing < 0 ? -1 : 1
    move(channel, { angle: clamp(micSpecs.angle, (Math.atan2(dy * side, Math.max(8, dx)) * 180) / Math.PI) })
  }
  const onKeyDown = (channel: BenchChannel, event: KeyboardEvent) => {
    if (channel.source.kind !== 'mic') return
    const large = event.shiftKey ? 10 : 1
    const { distance, angle } = channel.source
    const change = {
      ArrowLeft: { distance: clamp(micSpecs.distance, distance - large) },
      ArrowRight: { distance: clamp(micSpecs.distance, distance + large) },
      ArrowUp: { angle: clamp(micSpecs.angle, angle + large) },
      ArrowDown: { angle: clamp(micSpecs.angle, angle - large) },
    }[event.key]
    if (!change) return
    event.preventDefault()
    move(channel, change)
  }
  const depth = Math.min(34, (coneDepth * 1000) / 1.6)
  const rim = y(coneRadius * 1000) - AXIS_Y
  const ticks = Array.from({ length: 5 }, (_, i) => (i * range) / (range === 1_500 ? 3 : 4)).filter((t) => t <= range)
  return (
    <svg
      ref={svg}
      width="100%"
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="block max-w-[460px] touch-none"
      role="group"
      aria-label="Side of the loudspeaker; left and right move a microphone, up and down turn it"
    >
      <rect x={GRILLE - depth - 18} y={AXIS_Y - 16} width="13" height="32" fill="var(--paper-deep)" stroke="var(--ink-2)" />
      <path
        d={`M${GRILLE - 7} ${AXIS_Y + rim}L${GRILLE - depth} ${AXIS_Y - 15}V${AXIS_Y + 15}L${GRILLE - 7} ${AXIS_Y - rim}`}
        fill="none"
        stroke="var(--ink)"
      />
      <path
        d={`M${GRILLE - depth} ${AXIS_Y - 15}Q${GRILLE - depth + 11} ${AXIS_Y} ${GRILLE - depth} ${AXIS_Y + 15}`}
        fill="none"
        stroke="var(--ink)"
      />
      <path d={`M${GRILLE} 6V106`} stroke="var(--ink)" strokeDasharray="1.5 2" />
      <path d={`M${GRILLE} 106H${WIDTH - 44}`} stroke="var(--ink-2)" />
      {ticks.map((mm) => (
        <g key={mm}>
          <path d={`M${x(mm)} 106v4`} stroke="var(--ink-2)" />
          <text x={x(mm)} y={121} textAnchor="middle" className="num" fontSize="10.5" fill="var(--ink-3)">
            {mm}
            {mm === ticks.at(-1) ? ' mm' : ''}
          </text>
        </g>
      ))}
      {bench.channels.map((channel, index) => {
        if (channel.source.kind !== 'mic') return null
        const { distance, angle, bearing } = channel.source
        const on = channel.id === selected
        const tone = `var(--${channelTone(on, index === 0)})`
        const cy = y(sideOffset(channel.source))
        const tilt = bearing < 0 ? angle : -angle
        return (
          <g key={channel.id} opacity={channel.muted ? 0.45 : 1}>
            <path d={`M${GRILLE} ${cy}H${x(distance)}`} stroke={tone} strokeDasharray="1.5 2" />
            <g transform={`translate(${x(distance)} ${cy}) rotate(${tilt})`}>
              <path d="M0-7V7M0 0H40" stroke={tone} strokeWidth="2.6" />
              <g
                role="button"
                tabIndex={0}
                aria-label={`Microphone ${index + 1}, ${channelName(channel)}: ${distance} mm from the grille, turned ${angle}°`}
                aria-pressed={on}
                data-side-mic={index}
                className="cursor-grab"
                transform={`translate(18 0) rotate(${-tilt}) scale(.86)`}
                onFocus={() => onSelect(channel.id)}
                onPointerDown={(event) => {
                  event.currentTarget.setPointerCapture(event.pointerId)
                  onSelect(channel.id)
                }}
                onPointerMove={(event) => drag(channel, event)}
                onKeyDown={(event) => onKeyDown(channel, event)}
              >
                <circle r="13" fill="transparent" />
                <MarkShape index={index} tone={tone} />
              </g>
              <circle
                cx="40"
                r="8"
                fill="transparent"
                className="cursor-alias"
                onPointerDown={(event) => {
                  event.currentTarget.setPointerCapture(event.pointerId)
                  onSelect(channel.id)
                }}
                onPointerMove={(event) => turn(channel, event)}
              />
            </g>
            {on && (
              <text
                x={Math.min(x(distance) + 18, WIDTH - 40)}
                y={cy < 28 ? cy + 24 : cy - 14}
                textAnchor="middle"
                className="num"
                fontSize="11"
                fontWeight="600"
                fill="var(--ember)"
                stroke="var(--paper)"
                strokeWidth="3"
                paintOrder="stroke"
              >
                {distance} mm{angle === 0 ? '' : `, ${String(angle).replace('-', '\u2212')}°`}
              </text>
            )}
          </g>
        )
      })}
    </svg>
  )
}
