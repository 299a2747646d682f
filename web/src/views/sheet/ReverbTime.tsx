import { rangeProblem, type ParamSpecs } from '@fulgor/core/catalogue'
import type { ParamMap } from '@fulgor/core/preset'
import { reverbProposal } from '@fulgor/core/stage'
import { figure } from '../../ui/format'

interface Props {
  /** As the processor gets them. */
  params: ParamMap
  specs: ParamSpecs
  tempo: number
  onNote: (param: string, note: string) => void
  /** s. */
  onDecay: (decay: number) => void
}

/** A reverb in the song: which pre-delay lets the pick through in time, and which decay is gone on a beat. */
export function ReverbTime({ params, specs, tempo, onNote, onDecay }: Props) {
  const preDelay = Number(params.preDelay)
  const decay = Number(params.decay)
  const proposal = reverbProposal(tempo, preDelay, decay)
  const note = proposal.preDelay
  const { decay: spec } = specs
  const fits = spec.kind === 'number' && rangeProblem(spec, proposal.decay) === null
  const rounded = Math.round(proposal.decay * 100) / 100
  const ends = (preDelay / 1000 + decay) / (60 / tempo)
  return (
    <section aria-label="Reverb in time" className="mt-1 text-[11.5px] text-ink2">
      <p>
        Gone {figure(ends, 2)} beats after the note.
        {fits && params.decayNote === 'free' && Math.abs(rounded - decay) >= 0.01 && (
          <button type="button" className="act ml-2" onClick={() => onDecay(rounded)}>
            Gone after {proposal.beats}: {figure(rounded, 2)} s
          </button>
        )}
      </p>
      {note && params.preNote !== note.id && (
        <button
          type="button"
          className="act"
          title="Long enough to let the pick through, too short for an echo; it follows the tempo"
          onClick={() => onNote('preNote', note.id)}
        >
          Pre-delay to a {note.name.toLowerCase()}, {figure(note.ms, 0)} ms
        </button>
      )}
    </section>
  )
}
