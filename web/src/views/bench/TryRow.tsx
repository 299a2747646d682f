import { Segments } from '../../ui/Segments'
import { Toggle } from './ResponseParts'
import type { Trying } from './useAudition'

interface Props {
  trying: Trying
  /** Number of the channel whose place a response is tried in. */
  channel: number
  blind: boolean
  /** Whether one is tried that could be taken. */
  ready: boolean
  onTrying: (trying: Trying) => void
  onBlind: () => void
  onTake: (how: 'heard' | 'add') => void
}

/** How responses are tried, and what is done with the one that is heard. */
export function TryRow({ trying, channel, blind, ready, onTrying, onBlind, onTake }: Props) {
  return (
    <div className="flex flex-wrap items-center gap-x-3 border-t border-rule py-1 text-[12px]">
      <span className="text-ink3">Try</span>
      <Segments
        label="Try a response"
        value={trying}
        options={[
          ['alone', 'alone'],
          ['blend', `as channel ${channel}`],
        ]}
        onChange={onTrying}
      />
      <Toggle on={blind} onClick={onBlind}>
        Blind
      </Toggle>
      <span className="ml-auto flex gap-3">
        <button type="button" className="act" disabled={!ready} title="Enter: the bench as you hear it" onClick={() => onTake('heard')}>
          Take it
        </button>
        <button type="button" className="act" disabled={!ready} title="Shift Enter" onClick={() => onTake('add')}>
          Add to blend
        </button>
      </span>
    </div>
  )
}
