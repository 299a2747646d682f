import { useSyncExternalStore } from 'react'
import { CEILING_DBTP } from '@fulgor/core/measure'
import { dbToGain } from '@fulgor/core/signal'
import { session } from '../audio/session'
import { useAppSelector } from '../state/store'
import { figure } from '../ui/format'
import { WarningMark } from '../ui/marks'

/** dB and px of the meters. */
const SPAN = 48

const METER = 98

/** Output peaks of both sides on a dBFS axis, and loudness in numbers. */
export function Meters() {
  const { player } = session
  const { input, left, right, momentary } = useSyncExternalStore(player.meter.subscribe, player.meter.read)
  const playing = useAppSelector((s) => s.player.playing)
  const place = (linear: number) => Math.max(0, Math.min(1, (20 * Math.log10(linear + 1e-9) + SPAN) / SPAN)) * METER
  const over = Math.max(left, right) >= 1
  return (
    <div className="ml-auto small:hidden" role="group" aria-label="Meters">
      <div className="eyebrow flex items-center justify-between gap-2">
        <span>
          Out <b className="num font-semibold text-ink">{playing ? figure(momentary) : '–'}</b> LUFS
        </span>
        {over && (
          <span className="font-semibold text-ink">
            <WarningMark /> over 0 dBFS
          </span>
        )}
      </div>
      <svg width={METER + 6} height="26" aria-hidden="true" className="block overflow-visible">
        <rect x={place(dbToGain(CEILING_DBTP))} width={METER - place(dbToGain(CEILING_DBTP))} y="1" height="15" fill="url(#fulgor-hatch)" />
        {[left, right].map((level, i) => (
          <g key={i}>
            <path d={`M0 ${4 + i * 5}H${METER}`} stroke="var(--rule-2)" />
            <path d={`M0 ${4 + i * 5}H${place(level)}`} stroke="var(--ink)" strokeWidth="2.5" />
          </g>
        ))}
        <path d={`M0 14H${METER}`} stroke="var(--rule-2)" />
        <path d={`M0 14H${place(input)}`} stroke="var(--lane)" strokeWidth="2.5" />
        {[-40, -20, 0].map((db) => (
          <text
            key={db}
            x={((db + SPAN) / SPAN) * METER}
            y="25"
            textAnchor={db === 0 ? 'end' : 'middle'}
            className="num fill-ink3 text-axis"
          >
            {figure(db, 0)}
          </text>
        ))}
      </svg>
    </div>
  )
}
