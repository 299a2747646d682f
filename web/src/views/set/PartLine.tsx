import { memo, useRef, type KeyboardEvent, type PointerEvent } from 'react'
import type { PlannedChange, ShownPreset } from '@fulgor/core/plan'
import { partName } from '@fulgor/core/preset'
import { barBeat, clock, inOrder, lengthWords, moveStart, type Song, type SongPart } from '@fulgor/core/show'
import { WarningMark } from '../../ui/marks'
import { drawnUnit, LEAST } from './scale'
import { pressesOf, shortTrouble, soundOf, troubleOf } from './planned'

interface Props {
  song: Song
  /** s that the whole width stands for. */
  longest: number
  changes: readonly PlannedChange[]
  presets: readonly ShownPreset[]
  /** Id of the chosen part, where it is of this song. */
  chosen: string | null
  onChoose: (part: string) => void
  onChange: (song: Song, key?: string) => void
  onKey: (event: KeyboardEvent, part: SongPart) => void
}

const toldOf = (changes: readonly PlannedChange[]): string =>
  changes.map((c) => `${c.change.part.id} ${c.presses} ${c.troubles.map((t) => t.words).join()}`).join('|')

/** Whether two plans say the same of a song. */
export const tellTheSame = (a: readonly PlannedChange[], b: readonly PlannedChange[]): boolean => a === b || toldOf(a) === toldOf(b)

/**
 * The line of a song: its parts, what sounds in them, presses, voice and pedals. Drawn anew only where something of it has changed: a night
 * may hold hundreds of songs. What it calls must stay the same.
 */
export const PartLine = memo(
  Line,
  (a, b) =>
    a.song === b.song && a.longest === b.longest && a.presets === b.presets && a.chosen === b.chosen && tellTheSame(a.changes, b.changes),
)

function Line({ song, longest, changes, presets, chosen, onChoose, onChange, onKey }: Props) {
  const line = useRef<HTMLDivElement>(null)
  const dragged = useRef<string | null>(null)
  const unit = drawnUnit(song)
  const share = (count: number) => `${(100 * count * unit) / longest}%`
  const parts = inOrder(song)
  const drag = (event: PointerEvent<HTMLElement>, part: SongPart) => {
    if (dragged.current !== part.id || !line.current) return
    const box = line.current.getBoundingClientRect()
    const count = ((event.clientX - box.left) / box.width) * (longest / unit)
    const snap = event.shiftKey ? LEAST : song.counted === 'beats' ? song.metre.beats : 1
    onChange(moveStart(song, part.id, Math.round(count / snap) * snap, LEAST), `border ${part.id}`)
  }
  return (
    <div ref={line} className="relative h-[66px]" role="group" aria-label={`Parts of ${song.name}`}>
      {parts.map((part, k) => {
        const own = changes.filter((c) => c.change.part.id === part.id)
        const sound = soundOf(part, presets)
        const presses = pressesOf(own)
        const trouble = troubleOf(own)
        const on = part.id === chosen
        // no room for words: they are in its title and in the panel
        const tiny = (part.length * unit) / longest < 0.03
        const stages = part.moves.flatMap((m) => (m.do === 'stage' ? [m] : []))
        const preset = presets.find((p) => p.id === part.sound?.preset)?.preset
        const what = sound ? `${sound.number} ${sound.name}` : 'nothing'
        const where = song.counted === 'beats' ? `bar ${barBeat(song.metre, part.at)}` : clock(part.at)
        const words = `${where}, ${lengthWords(song, part.length)}${part.sung ? ', sung' : ''}, ${presses} ${presses === 1 ? 'press' : 'presses'}${trouble ? `, ${trouble.words}` : ''}`
        const extra = stages.map((m) => `${m.on ? '+' : '−'} ${preset ? partName(preset, m.stage) : m.stage}`).join(' ')
        return (
          <div
            key={part.id}
            className="absolute inset-y-0 min-w-0"
            style={{ left: share(part.at), width: share(part.length), zIndex: tiny ? 5 : undefined }}
            data-part={part.id}
          >
            <button
              type="button"
              id={`part-${part.id}`}
              aria-pressed={on}
              title={`${part.name}, ${what}, ${words}`}
              onClick={() => onChoose(part.id)}
              onKeyDown={(event) => onKey(event, part)}
              className={`absolute inset-y-0 left-0 w-full min-w-6 cursor-pointer text-left ${on ? 'bg-lit' : 'hover:bg-deep'}`}
            >
              <span
                className={`absolute top-[17px] right-0 left-[7px] truncate text-[11px] leading-[13px] text-ink2 narrow ${tiny ? 'sr-only' : ''}`}
              >
                {part.name}
              </span>
              <span
                className={`absolute right-0 left-0 ${on ? 'bg-ember' : 'bg-ink'} ${sound ? '' : 'opacity-30'}`}
                style={{ top: 34, height: sound ? Math.max(1, Math.min(5, 2 + 0.6 * sound.lu)) : 1 }}
              />
              <span className="absolute top-[28px] left-0 h-[13px] w-px bg-ink" />
              {part.sung && <span className="absolute top-[40px] right-1 left-1 border-t-[1.6px] border-dotted border-ink2" data-sung="" />}
              {part.moves.map((m, i) =>
                m.do === 'pedal' ? (
                  <svg
                    key={i}
                    className="absolute top-[58px] h-[9px] overflow-visible"
                    style={{ left: `${(100 * m.at) / part.length}%`, width: `${(100 * m.length) / part.length}%` }}
                    viewBox="0 0 100 10"
                    preserveAspectRatio="none"
                    aria-hidden="true"
                  >
                    <path
                      d={m.to >= m.from ? 'M0 5L100 0M0 5L100 10' : 'M0 0L100 5M0 10L100 5'}
                      stroke="var(--lane)"
                      strokeWidth="1.2"
                      fill="none"
                      vectorEffect="non-scaling-stroke"
                    />
                  </svg>
                ) : m.do === 'tap' ? (
                  <span
                    key={i}
                    className="absolute top-[37px] text-[9px] leading-none"
                    style={{ left: `${(100 * m.at) / part.length}%` }}
                    aria-hidden="true"
                  >
                    <svg width="7" height="7" viewBox="0 0 7 7">
                      <circle cx="3.5" cy="3.5" r="2.6" fill="none" stroke="currentColor" strokeWidth="1.2" />
                    </svg>
                  </span>
                ) : m.at > 0 ? (
                  <span
                    key={i}
                    className="absolute top-[28px] h-[13px] w-px bg-ink2"
                    style={{ left: `${(100 * m.at) / part.length}%` }}
                    aria-hidden="true"
                  />
                ) : null,
              )}
              <span className={`absolute top-[44px] right-0 left-[7px] truncate text-[12px] leading-[15px] ${tiny ? 'sr-only' : ''}`}>
                <b className="num">{sound?.number ?? '–'}</b> <span className="font-medium">{sound?.name ?? 'nothing'}</span>
                {extra !== '' && <span className="text-ink2"> {extra}</span>}
              </span>
              <span className="sr-only">{words}</span>
            </button>
            <span
              className="pointer-events-none absolute top-[5px] left-0 flex -translate-x-1/2 gap-[3px] bg-paper px-[2px]"
              aria-hidden="true"
            >
              {Array.from({ length: Math.min(8, presses) }, (_, i) => (
                <i key={i} className={`h-[9px] bg-ink ${trouble ? 'w-[2.4px]' : 'w-[1.8px]'}`} />
              ))}
            </span>
            {trouble && (
              <span
                className="pointer-events-none absolute top-[3px] right-3 z-10 truncate pl-1 text-[11px] leading-[13px] font-semibold"
                style={{ left: 3 + 4 * Math.min(8, presses) }}
                data-trouble={trouble.kind}
              >
                <WarningMark /> {shortTrouble(trouble)}
              </span>
            )}
            {k > 0 && (
              <span
                role="presentation"
                title="Drag to move where it begins; with Shift beat by beat"
                className="absolute inset-y-3 -left-[5px] z-10 w-[10px] cursor-ew-resize touch-none"
                data-border={part.id}
                onPointerDown={(event) => {
                  event.currentTarget.setPointerCapture(event.pointerId)
                  dragged.current = part.id
                  onChoose(part.id)
                }}
                onPointerMove={(event) => drag(event, part)}
                onPointerUp={() => (dragged.current = null)}
                onPointerCancel={() => (dragged.current = null)}
              />
            )}
          </div>
        )
      })}
      {parts.length > 0 && (
        <span
          className="pointer-events-none absolute top-[28px] h-[13px] border-r-[2.5px] border-l border-ink"
          style={{ left: `calc(${share(parts[parts.length - 1].at + parts[parts.length - 1].length)} - 5px)`, width: 6 }}
        />
      )}
      {parts.length === 0 && <span className="absolute top-6 text-[12px] text-ink2">No parts yet: add one in the panel.</span>}
    </div>
  )
}
