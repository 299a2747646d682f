import { type ReactNode } from 'react'
import type { ResponseAsset } from '@fulgor/core/api'
import { regionDb, timbreDistance, type Timbre } from '@fulgor/core/cabinet'
import { figure } from '../../ui/format'
import { TextField } from '../../ui/TextField'
import { type Sort } from './listing'

/** The figure that the list is ordered by, and brightness where that is none. */
export function Figures({ response, sort, aim }: { response: ResponseAsset; sort: Sort; aim: Timbre | null }) {
  const text =
    sort === 'distance'
      ? aim
        ? `${figure(timbreDistance(response, aim))} dB`
        : '–'
      : sort === 'name' || sort === 'brightness'
        ? `${figure(response.centroidHz / 1000, 2)} kHz`
        : `${figure(regionDb(response, sort), 1, true)} dB`
  return (
    <>
      {response.clipped > 0 && (
        <span className="text-label text-ink2" title={`${response.clipped} samples at full scale`}>
          clipped
        </span>
      )}{' '}
      <span className="num flex-none text-right text-label text-ink2">{text}</span>
    </>
  )
}

/** Everything that was read of a file, and its tags. */
export function Report({
  response,
  onTag,
  onUntag,
}: {
  response: ResponseAsset
  onTag: (tag: string) => void
  onUntag: (tag: string) => void
}) {
  return (
    <div className="border-t border-rule py-1 text-label leading-[15px] text-ink2" data-report>
      {reportWords(response)}.
      <span className="flex flex-wrap items-baseline gap-x-2">
        {response.tags.map((tag) => (
          <button
            key={tag}
            type="button"
            className="min-h-0 underline underline-offset-2 hover:text-ember"
            title={`Take the tag “${tag}” off`}
            onClick={() => onUntag(tag)}
          >
            {tag}
          </button>
        ))}
        <TextField
          label="Add a tag"
          value=""
          maxLength={40}
          className="w-[90px] border-b border-control bg-transparent outline-none"
          onCommit={(text) => {
            if (text.trim() !== '') onTag(text.trim())
            return null
          }}
        />
        <span className="text-ink3">add a tag</span>
      </span>
    </div>
  )
}

function reportWords(r: ResponseAsset): string {
  return [
    `${r.sampleRate / 1000} kHz${r.sampleRate === 48_000 ? '' : ', played at 48 by Kaiser-windowed sinc'}, ${r.bits} bits, ${r.channels === 1 ? 'mono' : 'stereo'}`,
    `${r.frames.toLocaleString('en-GB')} samples, ${figure(r.lengthMs, 0)} ms to −60 dB`,
    `first sound after ${r.onsetSamples}`,
    `polarity ${r.polarity}`,
    `peak ${figure(r.peakDbfs)} dBFS`,
    `loudness ${figure(r.loudnessDb, 1, true)} dB`,
    Math.abs(r.dc) < 1e-5 ? 'no DC' : `DC ${figure(20 * Math.log10(Math.abs(r.dc)), 0)} dBFS`,
    r.clipped > 0 ? `${r.clipped} samples clipped` : 'not clipped',
  ].join('; ')
}

export function Toggle({ on, onClick, children }: { on: boolean; onClick: () => void; children: ReactNode }) {
  return (
    <button
      type="button"
      aria-pressed={on}
      onClick={onClick}
      className={`min-h-6 border-b-2 whitespace-nowrap ${on ? 'border-ember font-semibold' : 'border-transparent'}`}
    >
      {children}
    </button>
  )
}

export const StarMark = ({ on }: { on: boolean }) => (
  <svg width="12" height="12" viewBox="0 0 12 12" aria-hidden="true">
    <path
      d="M6 .8 7.6 4.4l3.9.4-2.9 2.6.8 3.9L6 9.3l-3.4 2 .8-3.9L.5 4.8l3.9-.4Z"
      fill={on ? 'currentColor' : 'none'}
      stroke="currentColor"
    />
  </svg>
)
