import { Dialog, DialogBackdrop, DialogPanel, DialogTitle } from '@headlessui/react'
import type { ReactNode } from 'react'
import { Overlays } from './Overlays'

/** A dialog: paper with an ink edge, a title and what it holds. */
export function PaperDialog(props: { open: boolean; onClose: () => void; title: string; children: ReactNode; wide?: boolean }) {
  return (
    <Overlays>
      <Dialog open={props.open} onClose={props.onClose} className="relative z-40">
        <DialogBackdrop className="fixed inset-0 bg-[rgb(0_0_0/0.45)]" />
        <div className="fixed inset-0 grid place-items-center p-4">
          <DialogPanel
            className={`paper-dialog relative max-h-[86vh] w-full overflow-auto border border-ink bg-paper px-6 py-5 ${props.wide ? 'max-w-[720px]' : 'max-w-[480px]'}`}
          >
            <DialogTitle as="h2" className="mb-3 pr-16 text-title">
              {props.title}
            </DialogTitle>
            {props.children}
            {/* last in order, so that what the dialog is for comes first */}
            <button type="button" className="act absolute top-5 right-6 font-normal" onClick={props.onClose}>
              Close
            </button>
          </DialogPanel>
        </div>
      </Dialog>
    </Overlays>
  )
}
