import { useRef, type KeyboardEvent, type PointerEvent } from 'react'
import { geometryOf, type BenchChannel, type MicBench } from '@fulgor/core/cabinet'
import { micSpecs } from '@fulgor/core/catalogue'
import { channelName, fromPlace, placeOnCone, withChannel, withMic } from './bench'
import { channelTone, MarkShape } from './ChannelMark'

interface Props {
  bench: MicBench
  selected: string
  onSelect: (id: string) => void
  onChange: (bench: MicBench, touched: string) => void
}

/** mm that the drawing reaches from the centre. */
const REACH = 172
const SIZE = 236
const px = (mm: number): number => (mm / REACH) * (SIZE / 2)

/** The loudspeaker from the front; microphones are dragged, or moved by arrow keys. */
export function FrontView({ bench, selected, onSelect, onChange }: Props) {
  const svg = useRef<SVGSVGElement>(null)
  const { coneRadius, capRadius } = geometryOf(bench.cab)
  const rim = px(coneRadius * 1000 + 18)
  const cone = px(coneRadius * 1000)
  const cap = px(capRadius * 1000)
  const mics = bench.channels.filter((c) => c.source.kind === 'mic')

  const moveTo = (channel: BenchChannel, x: number, y: number) => {
    if (channel.source.kind !== 'mic') return
    const place = fromPlace(x, y, channel.source.bearing, micSpecs.offset.max)
    onChange(withChannel(bench, channel.id, (c) => withMic(c, place)), `${channel.id} place`) // prettier-ignore
  }
  const drag = (channel: BenchChannel, event: PointerEvent) => {
    const box = svg.current?.getBoundingClientRect()
    if (!box || !(event.buttons & 1)) return
    const scale = (2 * REACH) / box.width
    moveTo(channel, (event.clientX - box.left - box.width / 2) * scale, -(event.clientY - box.top - box.height / 2) * scale)
  }
  const onKeyDown = (channel: BenchChannel, event: KeyboardEvent) => {
    const step = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[event.key]
    if (!step || channel.source.kind !== 'mic') return
    event.preventDefault()
    const large = event.shiftKey ? 10 : 1
    const [x, y] = placeOnCone(channel.source)
    moveTo(channel, x + step[0] * large, y + step[1] * large)
  }

  return (
    <svg
      ref={svg}
      width={SIZE}
      height={SIZE}
      viewBox={`${-SIZE / 2} ${-SIZE / 2} ${SIZE} ${SIZE}`}
      className="block touch-none"
      role="group"
      aria-label="Front of the loudspeaker; arrow keys move a microphone by 1 mm, with Shift by 10"
    >
      {[0, 1, 2, 3].map((i) => (
        <circle key={i} r={rim - (i * (rim - cone)) / 4} fill="none" stroke="var(--rule-2)" />
      ))}
      <circle r={rim} fill="none" stroke="var(--ink)" />
      <circle r={cone} fill="none" stroke="var(--ink)" />
      {Array.from({ length: 6 }, (_, i) => (
        <circle key={i} r={cap + ((i + 1) * (cone - cap)) / 7} fill="none" stroke="var(--rule)" />
      ))}
      <circle r={cap} fill="var(--paper-deep)" stroke="var(--ink)" />
      <path d={`M${-px(5)} 0H${px(REACH - 6)}`} stroke="var(--rule-2)" />
      {[50, 100, 150].map((mm) => (
        <g key={mm}>
          <path d={`M${px(mm)} -3V3`} stroke="var(--ink-3)" />
          <text x={px(mm)} y={14} textAnchor="middle" className="num" fontSize="10.5" fill="var(--ink-3)">
            {mm}
          </text>
        </g>
      ))}
      <Words y={cap - 4}>dust cap</Words>
      <Words y={(cap + cone) / 2 + 16}>cone</Words>
      <Words y={rim - 2}>surround</Words>
      {mics.map((channel) => {
        if (channel.source.kind !== 'mic') return null
        const [x, y] = placeOnCone(channel.source)
        const index = bench.channels.indexOf(channel)
        const on = channel.id === selected
        return (
          <g key={channel.id}>
            {on && <path d={`M0 0L${px(x)} ${-px(y)}`} stroke="var(--ember)" strokeDasharray="2 2" />}
            <g
              role="button"
              tabIndex={0}
              aria-label={`Microphone ${index + 1}, ${channelName(channel)}: ${channel.source.offset} mm from the centre`}
              aria-pressed={on}
              data-front-mic={index}
              transform={`translate(${px(x)} ${-px(y)})`}
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
                x={px(x)}
                y={-px(y) - 15}
                textAnchor="middle"
                className="num"
                fontSize="11"
                fontWeight="600"
                fill="var(--ember)"
                stroke="var(--paper)"
                strokeWidth="3"
                paintOrder="stroke"
              >
                {channel.source.offset} mm
              </text>
            )}
          </g>
        )
      })}
    </svg>
  )
}

const Words = ({ y, children }: { y: number; children: string }) => (
  <text y={y} textAnchor="middle" fontSize="10.5" fill="var(--ink-2)" stroke="var(--paper)" strokeWidth="3" paintOrder="stroke">
    {children}
  </text>
)
