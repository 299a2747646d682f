import { Portal } from '@headlessui/react'
import { useRef, type ReactNode } from 'react'

// the package marks this name for its successor, which it does not export yet
// eslint-disable-next-line @typescript-eslint/no-deprecated
const { Group } = Portal

/** Menus and dialogs of what is inside are drawn over the page, where index.html has a place for them. */
export function Overlays({ children }: { children: ReactNode }) {
  const place = useRef(document.getElementById('overlays'))
  return <Group target={place}>{children}</Group>
}
