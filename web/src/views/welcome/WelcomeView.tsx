import { useEffect, useState } from 'react'
import { Link, useNavigate } from 'react-router'
import type { Preset } from '@fulgor/core/preset'
import { sentenceOf, useCreatePresetMutation, usePresetsQuery } from '../../api/api'

const SHOWN = 5

const STEPS: readonly (readonly [does: string, where: string])[] = [
  ['Hear it', 'A dry guitar plays through the preset: Space. Your own guitar or a WAV stand in the bar at the foot.'],
  ['Change it', 'Rows are stages, columns are snapshots. What is lit is what sounds, and what an edit changes.'],
  ['Measure and level it', 'Every snapshot is measured while you work; L brings all of them to the target loudness.'],
  ['Take it along', 'Values, blends and messages leave as files; each stage says what to look for on your device.'],
]

/** What a press takes onto the shelf is fetched by that press: the page itself needs nothing of it. */
const demoPresets = async () => (await import('@fulgor/core/demo')).demoPresets.map((d) => d.preset)
const blankPage = async () => [(await import('@fulgor/core/preset')).blankPreset('New tone')]

/** The first page: what this is, and a sound at one press. */
export function WelcomeView() {
  const navigate = useNavigate()
  const { data, error, refetch } = usePresetsQuery({ sort: 'updated' })
  const [create] = useCreatePresetMutation()
  const [busy, setBusy] = useState(false)
  const [problem, setProblem] = useState<string | null>(null)
  useEffect(() => {
    document.title = 'Fulgor'
  }, [])
  const hear = (id: string) => void navigate(`/sheet/${id}`, { state: { play: true } })
  const around = (id: string) => void navigate(`/sheet/${id}`, { state: { tour: true } })
  /** Takes presets onto the shelf and opens the first of them. */
  const take = async (fetchPresets: () => Promise<readonly Preset[]>, play: boolean) => {
    setBusy(true)
    setProblem(null)
    const presets = await fetchPresets().catch(() => null)
    if (!presets) {
      setProblem('The page could not fetch it: the server does not answer. Try again when it does.')
      setBusy(false)
      return
    }
    let first: string | null = null
    for (const preset of [...presets].reverse()) {
      const answer = await create(preset)
      if (answer.error) {
        setProblem(`“${preset.name}” was not taken onto the shelf: ${sentenceOf(answer.error)}`)
        setBusy(false)
        return
      }
      first = answer.data.id
    }
    if (first !== null) void navigate(`/sheet/${first}`, play ? { state: { play: true } } : {})
  }
  const presets = data?.items ?? []
  const [latest] = presets
  return (
    <main className="min-h-0 min-w-0 overflow-auto px-8 py-10 max-[700px]:px-4 max-[700px]:py-5">
      <div className="mx-auto max-w-[760px]">
        <h1 className="text-[34px] leading-tight">A guitar preset as a score: heard, measured, levelled</h1>
        <p className="mt-2 max-w-prose text-[15px] text-ink2">
          Amp, cabinet, microphones, effects and snapshots on one sheet, on sound that is really computed. It does the measuring and the
          arithmetic; taste stays with you.
        </p>
        {error !== undefined && (
          <p role="alert" className="mt-4">
            {sentenceOf(error)}{' '}
            <button type="button" className="act" onClick={() => void refetch()}>
              Ask again
            </button>
          </p>
        )}
        {data && (
          <div className="mt-6 flex flex-wrap items-center gap-4">
            {presets.length > 0 ? (
              <button type="button" className="btn btn-filled min-h-10 px-4 text-[15px]" onClick={() => hear(latest.id)}>
                Hear “{latest.name}”
              </button>
            ) : (
              <button
                type="button"
                className="btn btn-filled min-h-10 px-4 text-[15px]"
                disabled={busy}
                onClick={() => void take(demoPresets, true)}
              >
                Load the demo and hear it
              </button>
            )}
            <button type="button" className="btn min-h-10 px-4 text-[15px]" disabled={busy} onClick={() => void take(blankPage, false)}>
              Start from a blank page
            </button>
            {presets.length > 0 && (
              <button type="button" className="act" onClick={() => around(latest.id)}>
                Show me around
              </button>
            )}
            <span className="text-[12px] text-ink2">Mind the volume of your headphones or monitors before the first sound.</span>
          </div>
        )}
        {problem !== null && (
          <p role="alert" className="mt-3 font-semibold text-ember">
            {problem}
          </p>
        )}
        <ol className="mt-8 grid grid-cols-2 gap-x-8 border-t border-ink max-[700px]:grid-cols-1">
          {STEPS.map(([does, where], i) => (
            <li key={does} className="grid grid-cols-[24px_minmax(0,1fr)] border-b border-rule py-2.5">
              <span className="num text-ink3">{i + 1}</span>
              <span>
                <b className="font-semibold">{does}. </b>
                <span className="text-ink2">{where}</span>
              </span>
            </li>
          ))}
        </ol>
        {presets.length > 0 && (
          <section aria-label="Presets" className="mt-6">
            <h2 className="text-[15px]">On the shelf</h2>
            <ul>
              {presets.slice(0, SHOWN).map((p) => (
                <li key={p.id} className="flex items-baseline gap-4 border-b border-rule py-1.5">
                  <Link className="min-w-0 flex-1 truncate font-semibold hover:text-ember" to={`/sheet/${p.id}`}>
                    {p.name}
                  </Link>
                  <span className="text-label text-ink2 max-[700px]:hidden">{p.tags.join(', ')}</span>
                  <button type="button" className="act" aria-label={`Hear ${p.name}`} onClick={() => hear(p.id)}>
                    Hear
                  </button>
                </li>
              ))}
            </ul>
            {presets.length > SHOWN && (
              <Link className="act mt-2 inline-block" to="/shelf">
                All presets
              </Link>
            )}
          </section>
        )}
      </div>
    </main>
  )
}
