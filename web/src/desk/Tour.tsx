import { useEffect, useLayoutEffect, useRef, useState } from 'react'
import { useAppSelector } from '../state/store'
import { TOUR } from './startTour'

/** A step: what is pointed at, and what is said of it. The first target that is in sight counts. */
const STEPS: readonly { readonly at: readonly string[]; readonly title: string; readonly words: string }[] = [
  {
    at: ['[aria-label=Player] button[aria-label=Play], [aria-label=Player] button[aria-label=Stop]'],
    title: 'Hear it',
    words: 'Play, or Space: a dry riff runs through the preset. Take another one, or your own guitar, beside it.',
  },
  {
    at: ['[data-stage] [data-cell$=",0"]'],
    title: 'The rows',
    words:
      'The signal runs down from the guitar to the output. Arrow keys walk, Enter or Tab goes to the values, “Add stage” stands below.',
  },
  {
    at: ['[data-snapshot][class*=ember], [data-snapshot]', '[aria-label=Snapshots]'],
    title: 'The snapshots',
    words: 'Each column is one sound of the preset. Choose one by its head or by 1 to 8; what you change then changes only that one.',
  },
  {
    at: ['#focus-panel [data-param]'],
    title: 'The values',
    words:
      'Drag the line, or type as you would say it: noon, 6.8, 1.2k, 1/8. Below the name stands which snapshots an edit changes; E switches over.',
  },
  {
    at: ['[data-trace]'],
    title: 'What it does to the sound',
    words: 'Level, dynamics and brightness after every row, measured on the riff. Hatched is too hot.',
  },
  {
    at: ['[aria-label=Loudness] .btn'],
    title: 'As loud as each other',
    words: 'The loudness of every snapshot as distance from the target; one press levels them all.',
  },
  {
    at: ['[data-findings]', 'header .btn'],
    title: 'What is found',
    words: 'Checks tell what would go wrong on stage, with the figure and what mends it. Everything can be undone, and every edit is kept.',
  },
]

const inSight = (selectors: readonly string[]): HTMLElement | null =>
  selectors
    .flatMap((selector) => [...document.querySelectorAll<HTMLElement>(selector)])
    .find((element) => element.offsetWidth > 0 && element.offsetHeight > 0) ?? null

/** A walk over the real page, step by step; it can be left at any step and taken again. */
export function Tour() {
  const [step, setStep] = useState<number | null>(null)
  const open = useAppSelector((s) => s.editor.id)
  const card = useRef<HTMLDivElement>(null)
  const [box, setBox] = useState<DOMRect | null>(null)
  useEffect(() => {
    const start = () => setStep(0)
    addEventListener(TOUR, start)
    return () => removeEventListener(TOUR, start)
  }, [])
  useLayoutEffect(() => {
    if (step === null) return
    const target = inSight(STEPS[step].at)
    target?.scrollIntoView({ block: 'nearest', inline: 'nearest' })
    const place = () => setBox(target?.getBoundingClientRect() ?? null)
    place()
    card.current?.focus()
    addEventListener('resize', place)
    addEventListener('scroll', place, true)
    return () => {
      removeEventListener('resize', place)
      removeEventListener('scroll', place, true)
    }
  }, [step, open])
  if (step === null || open === null) return null
  const { title, words } = STEPS[step]
  const end = () => setStep(null)
  const last = step === STEPS.length - 1
  const zoom = Number(getComputedStyle(document.getElementById('root') ?? document.body).zoom || 1)
  const at = box && { left: box.left / zoom, top: box.top / zoom, width: box.width / zoom, height: box.height / zoom }
  const [width, height] = [innerWidth / zoom, innerHeight / zoom]
  const below = !at || at.top + at.height + 150 < height
  const left = Math.max(8, Math.min((at?.left ?? 40) - 8, width - 318))
  return (
    <>
      {at && (
        <div
          aria-hidden="true"
          className="pointer-events-none fixed z-40 border-2 border-dashed border-lane"
          style={{ left: at.left - 4, top: at.top - 4, width: at.width + 8, height: at.height + 8 }}
        />
      )}
      <div
        ref={card}
        role="dialog"
        aria-label={`Tour, ${step + 1} of ${STEPS.length}: ${title}`}
        tabIndex={-1}
        className="fixed z-50 w-[310px] border border-ink bg-paper px-4 py-3 outline-none"
        style={{ left, ...(below ? { top: at ? at.top + at.height + 12 : 80 } : { bottom: height - (at?.top ?? 0) + 12 }) }}
        onKeyDown={(event) => {
          const act = { Escape: end, ArrowRight: () => !last && setStep(step + 1), ArrowLeft: () => step > 0 && setStep(step - 1) }[
            event.key
          ]
          if (!act) return
          event.preventDefault()
          event.stopPropagation()
          act()
        }}
      >
        <p className="eyebrow num">
          {step + 1} of {STEPS.length}
        </p>
        <h2 className="text-[15px]">{title}</h2>
        <p className="mt-1 text-[12.5px] leading-[17px] text-ink2">{words}</p>
        <div className="mt-2 flex gap-4">
          <button type="button" className="act" disabled={step === 0} onClick={() => setStep(step - 1)}>
            Back
          </button>
          <button type="button" className="act" onClick={() => (last ? end() : setStep(step + 1))}>
            {last ? 'Done' : 'Next'}
          </button>
          {!last && (
            <button type="button" className="act ml-auto font-normal" onClick={end}>
              Leave the tour
            </button>
          )}
        </div>
      </div>
    </>
  )
}
