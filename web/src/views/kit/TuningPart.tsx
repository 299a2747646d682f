import { quantity } from '@fulgor/core/catalogue'
import {
  guitarFields,
  NAMED_TUNINGS,
  noteName,
  noteNumber,
  parseTuning,
  tuningName,
  type GuitarDocument,
  type GuitarProfile,
  type PickupPosition,
} from '@fulgor/core/guitar'
import { figure } from '../../ui/format'
import { WarningMark } from '../../ui/marks'
import { NumberField } from '../../ui/NumberField'
import { Pick } from '../../ui/Pick'
import { TextField } from '../../ui/TextField'
import { Explain } from '../../ui/Explain'

/** Cents off which a string is told to be out of tune (common practice, no source). */
const OUT = 4

/** How the guitar is tuned, and how it was heard to be. */
export function TuningPart(props: {
  guitar: GuitarProfile
  position: PickupPosition
  onChange: (part: Partial<GuitarDocument>, key?: string) => void
}) {
  const { guitar, position, onChange } = props
  const notes = guitar.strings.map((s) => s.note)
  const name = tuningName(notes)
  const heard = position.pitch
  const choose = (next: readonly string[]) => onChange({ strings: next.map((note) => ({ note, cents: 0 })) })
  const shift = (steps: number) =>
    onChange({ strings: guitar.strings.map((s) => ({ ...s, note: noteName((noteNumber(s.note) ?? 0) + steps) })) })
  return (
    <div className="min-w-0 text-[12px]" data-tuning={name}>
      <h2 className="text-section font-bold">
        Tuning <Explain term="tuning" />
      </h2>
      <Pick
        label="Tuning"
        value={name}
        options={[
          ...(NAMED_TUNINGS.some((t) => t.name === name) ? [] : [[name, name] as const]),
          ...NAMED_TUNINGS.map((t) => [t.name, t.name] as const),
        ]}
        onChange={(chosen) => {
          const found = NAMED_TUNINGS.find((t) => t.name === chosen)
          if (found) choose(found.notes)
        }}
      />
      <div className="flex items-baseline gap-2">
        <NumberField
          spec={quantity('hz', 'Concert pitch', guitarFields.a4.range, 440)}
          value={guitar.a4}
          format={(hz) => figure(hz, hz % 1 ? 1 : 0)}
          className="num w-[44px] border-b border-control bg-transparent text-right outline-none focus:border-ink"
          onChange={(a4) => onChange({ a4 }, 'a4')}
        />
        <span className="text-ink2">Hz{heard ? `, heard ${figure(heard.a4)}` : ' concert pitch'}</span>
      </div>
      <div className="flex gap-3">
        <button type="button" className="act font-normal" onClick={() => shift(-1)}>
          Half a step down
        </button>
        <button type="button" className="act font-normal" onClick={() => shift(1)}>
          up
        </button>
      </div>
      <ol className="mt-0.5">
        {[...guitar.strings.keys()].reverse().map((k) => {
          const string = guitar.strings[k]
          const off = heard?.cents.at(k) ?? null
          return (
            <li key={k} className="flex items-baseline gap-1.5 border-t border-rule">
              <span className="num w-3 text-ink3">{guitar.strings.length - k}</span>
              <TextField
                label={`String ${guitar.strings.length - k}`}
                value={string.note}
                className="num w-[34px] border-b border-control bg-transparent font-semibold outline-none focus:border-ink"
                onCommit={(text) => {
                  const number = noteNumber(text)
                  if (number === null) {
                    const whole = parseTuning(text)
                    if ('reason' in whole) return `“${text}” is no note with its octave, as E2 or B♭1 are.`
                    choose(whole)
                    return null
                  }
                  onChange({ strings: guitar.strings.map((s, i) => (i === k ? { ...s, note: noteName(number) } : s)) })
                  return null
                }}
              />
              <NumberField
                spec={quantity('cents', `Cents of string ${guitar.strings.length - k}`, [-50, 50], 0)}
                value={string.cents}
                format={(c) => (c > 0 ? `+${c}` : String(c).replace('-', '\u2212'))}
                className="num w-[26px] border-b border-transparent bg-transparent text-right text-ink2 outline-none hover:border-control focus:border-ink"
                onChange={(cents) => onChange({ strings: guitar.strings.map((s, i) => (i === k ? { ...s, cents } : s)) }, `cents ${k}`)}
              />
              <span className="relative h-3 min-w-0 flex-1 self-center border-x border-rule2">
                <span className="absolute inset-x-0 top-1/2 border-t border-rule2" />
                {off !== null && (
                  <span
                    className="absolute inset-y-0 w-[3px] -translate-x-1/2 bg-ink"
                    style={{ left: `${Math.min(100, Math.max(0, 50 + off * 4))}%` }}
                  />
                )}
              </span>
              <span className="num w-[46px] text-right">
                {off === null ? (
                  ''
                ) : (
                  <>
                    {Math.abs(off) > OUT && <WarningMark />} {figure(off)}
                  </>
                )}
              </span>
            </li>
          )
        })}
      </ol>
      <p className="text-[11px] text-ink3">
        {heard ? 'Cents heard, −12.5 to +12.5.' : 'Single strings in a measurement tell their cents.'}
      </p>
    </div>
  )
}
