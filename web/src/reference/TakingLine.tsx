import { Progress } from '../ui/Progress'
import type { Taking } from './useAddRecording'

const WORDS: Record<Taking['does'], string> = {
  reading: 'Reading',
  decoding: 'Decoding',
  writing: 'Writing',
  sending: 'Laying into the Kit',
}

/** How far a file has come on its way into the Kit, and the way back. */
export function TakingLine({ taking: { name, does, share, cancel } }: { taking: Taking }) {
  const percent = share === null ? null : Math.round(100 * share)
  return (
    <span role="status" className="flex min-w-0 items-center gap-x-2 text-[12px]" data-taking={does}>
      <span className="num min-w-0 truncate" title={name}>
        {WORDS[does]} “{name}” {percent === null ? '…' : `${percent} %`}
      </span>
      {percent !== null && (
        <span className="flex w-[70px] flex-none">
          <Progress label={WORDS[does]} value={percent} max={100} />
        </span>
      )}
      <button type="button" className="act" onClick={cancel}>
        Cancel
      </button>
    </span>
  )
}
