import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react'
import { memo } from 'react'
import { TERMS, type Term } from './terms'

/** A “?” that explains what stands beside it, by pointer, touch or key. */
export const Explain = memo(function Explain({ term, className = '' }: { term: Term; className?: string }) {
  const [title, words] = TERMS[term]
  return (
    <Popover className={`inline-block align-middle ${className}`}>
      <PopoverButton aria-label={`What is “${title}”?`} className="group grid size-6 place-items-center text-ink3 hover:text-ink">
        <span className="grid size-[14px] place-items-center rounded-full border border-control text-[10px] leading-none font-semibold group-data-open:border-ink group-data-open:bg-ink group-data-open:text-paper">
          ?
        </span>
      </PopoverButton>
      <PopoverPanel
        anchor={{ to: 'bottom start', padding: 8, gap: 4 }}
        className="z-50 w-[290px] border border-ink bg-paper px-3 py-2 text-left font-body text-[12px] leading-[16px] font-normal tracking-normal text-ink normal-case"
        data-explains={term}
      >
        <b className="font-semibold">{title}. </b>
        {words}
      </PopoverPanel>
    </Popover>
  )
})
