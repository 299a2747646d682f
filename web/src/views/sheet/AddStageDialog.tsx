import { useMemo, useState } from 'react'
import { catalogue, FAMILIES, type Family, type StageModel } from '@fulgor/core/catalogue'
import { findLane, placeOf, type Place, type Preset } from '@fulgor/core/preset'
import { edit, newId, presentPreset } from '../../state/actions'
import { stageChosen } from '../../state/editor'
import { useAppDispatch, useAppSelector } from '../../state/store'
import { PaperDialog } from '../../ui/PaperDialog'
import { sheetRows } from './rows'

const WORDS: Record<Family, string> = {
  gate: 'Gate',
  compressor: 'Compressors',
  drive: 'Drives',
  filter: 'Filters',
  pitch: 'Pitch',
  amp: 'Amps',
  cabinet: 'Cabinet',
  eq: 'EQ',
  modulation: 'Modulation',
  delay: 'Delays',
  reverb: 'Reverbs',
  utility: 'Utility',
}

/** Where a new stage goes: behind the chosen one, first in a chosen lane, and never behind the output. */
function placeFor(preset: Preset, chosen: string | null): { place: Place; where: string } {
  const lane = chosen ? findLane(preset, chosen) : undefined
  if (lane && chosen) return { place: { lane: chosen, index: 0 }, where: `at the top of lane ${lane.split.lanes.indexOf(lane.lane) + 1}` }
  const rows = sheetRows(preset.chain)
  const row = rows.find((r) => r.id === chosen)
  const last = preset.chain.at(-1)
  const output = last?.kind === 'stage' && last.model === 'output'
  const at = chosen ? placeOf(preset, chosen) : undefined
  if (!at || (output && chosen === last.id)) {
    const index = preset.chain.length - (output ? 1 : 0)
    return { place: { lane: null, index }, where: output ? 'before the output' : 'at the end' }
  }
  return { place: { lane: at.lane, index: at.index + 1 }, where: `after row ${row?.number ?? at.index + 1}` }
}

/** Models of a family that hold every word, those that hold them in their name first. */
function search(text: string, family: Family | null): readonly StageModel[] {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean)
  const holds = (all: string) => words.every((word) => all.toLowerCase().includes(word))
  const found = catalogue.filter(
    (m) => (family === null || m.family === family) && holds(`${m.name} ${m.family} ${WORDS[m.family]} ${m.purpose} ${m.substitute}`),
  )
  return [...found.filter((m) => holds(m.name)), ...found.filter((m) => !holds(m.name))]
}

/** The catalogue: by family, by search; a stage goes in after the chosen one. */
export function AddStageDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  const dispatch = useAppDispatch()
  const preset = useAppSelector(presentPreset)
  const chosen = useAppSelector((s) => s.editor.stage)
  const [words, setWords] = useState('')
  const [family, setFamily] = useState<Family | null>(null)
  const found = useMemo(() => search(words, family), [words, family])
  if (!preset) return null
  const { place, where } = placeFor(preset, chosen)
  const close = () => {
    onClose()
    setWords('')
    setFamily(null)
  }
  const add = (model: StageModel) => {
    const stage = newId()
    dispatch(edit({ type: 'addStage', stage, model: model.id, ...place }))
    dispatch(stageChosen({ stage, fresh: true }))
    close()
  }
  return (
    <PaperDialog open={open} onClose={close} title={`Add a stage ${where}`} wide>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1 pb-2">
        <input
          type="search"
          autoFocus
          aria-label="Search the catalogue"
          placeholder="Search: lead, octave, spring …"
          value={words}
          onChange={(event) => setWords(event.currentTarget.value)}
          onKeyDown={(event) => {
            if (event.key !== 'Enter' || found.length === 0) return
            // else the key would press what has the focus once the dialog is gone
            event.preventDefault()
            add(found[0])
          }}
          className="field w-[220px]"
        />
        <span className="text-label text-ink3" aria-live="polite">
          {found.length} of {catalogue.length}
          {words.trim() !== '' && found.length > 0 && `; Enter adds ${found[0].name}`}
        </span>
      </div>
      <div className="grid h-[min(56vh,460px)] grid-cols-[112px_minmax(0,1fr)] gap-4 max-[700px]:grid-cols-1 max-[700px]:grid-rows-[auto_minmax(0,1fr)]">
        <div role="group" aria-label="Families" className="flex flex-col items-start overflow-auto max-[700px]:flex-row max-[700px]:gap-3">
          {[null, ...FAMILIES].map((name) => (
            <button
              key={name ?? 'all'}
              type="button"
              aria-pressed={family === name}
              onClick={() => setFamily(name)}
              className={`min-h-[26px] border-l-[3px] pl-2 whitespace-nowrap ${family === name ? 'border-ember font-bold' : 'border-transparent text-ink2 hover:text-ink'}`}
            >
              {name === null ? 'All' : WORDS[name]}
            </button>
          ))}
        </div>
        <ul className="overflow-auto border-t border-rule2">
          {found.map((model) => (
            <li key={model.id} className="border-b border-rule">
              <button
                type="button"
                onClick={() => add(model)}
                className="grid w-full grid-cols-[150px_minmax(0,1fr)] gap-4 py-1.5 pr-2 text-left hover:bg-deep focus-visible:outline-offset-[-2px] max-[700px]:grid-cols-1 max-[700px]:gap-0"
              >
                <span>
                  <b className="block font-semibold">{model.name}</b>
                  <span className="eyebrow">{WORDS[model.family]}</span>
                </span>
                <span className="text-ink2">{model.purpose}</span>
              </button>
            </li>
          ))}
          {found.length === 0 && <li className="py-3 text-ink2">Nothing in the catalogue matches “{words}”.</li>}
        </ul>
      </div>
    </PaperDialog>
  )
}
