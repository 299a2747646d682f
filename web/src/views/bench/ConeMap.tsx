import { useRef, type KeyboardEvent, type PointerEvent } from 'react'
import { geometryOf, type BenchChannel } from '@fulgor/core/cabinet'
import { micSpecs } from '@fulgor/core/catalogue'
import { channelName, withChannel, withMic, type DrawingProps } from './bench'
import { channelTone, MarkShape } from './ChannelMark'

const WIDTH = 380
const LEFT = 74
const RIGHT = 10
const TOP = 14
const HEIGHT = 172
const FOOT = 18
/** mm that the drawing reaches from the centre. */
const REACH = 172

/** The map begins and ends at the left, so that right is in its middle. */
const FIRST = -180
const x = (bearing: number): number => LEFT + ((bearing - FIRST) / 360) * (WIDTH - LEFT - RIGHT)
const y = (offset: number): number => TOP + (offset / REACH) * (HEIGHT - TOP - FOOT)
const within = (low: number, high: number, value: number): number => Math.min(high, Math.max(low, Math.round(value)))
const turned = (degrees: number): number => ((((degrees + 180) % 360) + 360) % 360) - 180

const SIDES = [
  [-180, 'left'],
  [-90, 'below'],
  [0, 'right'],
  [90, 'above'],
  [180, 'left'],
] as const

/**
 * The loudspeaker's face unrolled like a score: from the centre down to the rim, and around from left to left. Microphones are dragged, or
 * moved by arrow keys: up and down by mm from the centre, left and right by degrees around it.
 */
export function ConeMap({ bench, selected, onSelect, onChange }: DrawingProps) {
  const svg = useRef<SVGSVGElement>(null)
  const { coneRadius, capRadius } = geometryOf(bench.cab)
  const rows = [
    [0, capRadius * 1000, 'dust cap'],
    [capRadius * 1000, coneRadius * 1000, 'cone'],
    [coneRadius * 1000, coneRadius * 1000 + 18, 'surround'],
    [coneRadius * 1000 + 18, REACH, 'baffle'],
  ] as const

  const moveTo = (channel: BenchChannel, offset: number, bearing: number) => {
    const place = { offset: within(micSpecs.offset.min, micSpecs.offset.max, offset), bearing: turned(Math.round(bearing)) }
    onChange(
      withChannel(bench, channel.id, (c) => withMic(c, place)),
      `${channel.id} place`,
    )
  }
  const drag = (channel: BenchChannel, event: PointerEvent) => {
    const box = svg.current?.getBoundingClientRect()
    if (!box || !(event.buttons & 1)) return
    const scale = WIDTH / box.width
    const across = ((event.clientX - box.left) * scale - LEFT) / (WIDTH - LEFT - RIGHT)
    const down = ((event.clientY - box.top) * scale - TOP) / (HEIGHT - TOP - FOOT)
    moveTo(channel, down * REACH, within(-180, 179, FIRST + across * 360))
  }
  const onKeyDown = (channel: BenchChannel, event: KeyboardEvent) => {
    const step = { ArrowLeft: [0, -1], ArrowRight: [0, 1], ArrowUp: [-1, 0], ArrowDown: [1, 0] }[event.key]
    if (!step || channel.source.kind !== 'mic') return
    event.preventDefault()
    const large = event.shiftKey ? 10 : 1
    moveTo(channel, channel.source.offset + step[0] * large, channel.source.bearing + step[1] * large)
  }

  return (
    <svg
      ref={svg}
      width="100%"
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="block max-w-[460px] touch-none"
      role="group"
      aria-label="Face of the loudspeaker, from the centre down; up and down move a microphone by 1 mm, left and right by 1°, with Shift by 10"
    >
      {rows.map(([from, to, words], i) => (
        <g key={words}>
          {i === 0 && <rect x={LEFT} y={y(0)} width={WIDTH - LEFT - RIGHT} height={y(to) - y(0)} fill="var(--paper-deep)" />}
          <path
            d={`M${LEFT} ${y(from)}H${WIDTH - RIGHT}`}
            stroke={i === 3 ? 'var(--rule-2)' : 'var(--ink)'}
            strokeWidth={i === 0 ? 1.5 : 1}
          />
          <text x="0" y={y(from) + 11} fontSize="10.5" fill="var(--ink-2)">
            {words}
          </text>
          <text
            x={LEFT - 6}
            y={y(from) + 3.5}
            textAnchor="end"
            className="num"
            fontSize="10.5"
            fill="var(--ink-3)"
            stroke="var(--paper)"
            strokeWidth="3"
            paintOrder="stroke"
          >
            {Math.round(from)}
            {i === 0 ? ' mm' : ''}
          </text>
        </g>
      ))}
      {SIDES.map(([bearing, words]) => (
        <g key={bearing}>
          <path d={`M${x(bearing)} ${TOP}V${HEIGHT - FOOT}`} stroke="var(--rule-2)" strokeDasharray={bearing === 0 ? undefined : '1.5 2'} />
          <text
            x={x(bearing)}
            y={HEIGHT - 5}
            textAnchor={bearing === 180 ? 'end' : bearing === -180 ? 'start' : 'middle'}
            fontSize="10.5"
            fill="var(--ink-3)"
          >
            {words}
          </text>
        </g>
      ))}
      {bench.channels.map((channel, index) => {
        if (channel.source.kind !== 'mic') return null
        const { offset, bearing } = channel.source
        const on = channel.id === selected
        const [cx, cy] = [x(turned(bearing)), y(offset)]
        return (
          <g key={channel.id}>
            {on && <path d={`M${cx} ${y(0)}V${cy}`} stroke="var(--ember)" strokeDasharray="2 2" />}
            <g
              role="button"
              tabIndex={0}
              aria-label={`Microphone ${index + 1}, ${channelName(channel)}: ${offset} mm from the centre`}
              aria-pressed={on}
              data-face-mic={index}
              transform={`translate(${cx} ${cy})`}
              className="cursor-grab outline-offset-4"
              opacity={channel.muted ? 0.45 : 1}
              onFocus={() => onSelect(channel.id)}
              onPointerDown={(event) => {
                event.currentTarget.setPointerCapture(event.pointerId)
                onSelect(channel.id)
              }}
              onPointerMove={(event) => drag(channel, event)}
              onKeyDown={(event) => onKeyDown(channel, event)}
            >
              <circle r="13" fill="transparent" />
              <MarkShape index={index} tone={`var(--${channelTone(on, index === 0)})`} />
            </g>
            {on && (
              <text
                x={cx > WIDTH - 70 ? cx - 15 : cx + 15}
                y={cy + 4}
                textAnchor={cx > WIDTH - 70 ? 'end' : 'start'}
                className="num pointer-events-none"
                fontSize="11"
                fontWeight="600"
                fill="var(--ember)"
                stroke="var(--paper)"
                strokeWidth="3"
                paintOrder="stroke"
              >
                {offset} mm
              </text>
            )}
          </g>
        )
      })}
    </svg>
  )
}
