import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react'
import type { ReactNode } from 'react'
import type { Action } from './actionList'

/** A button that opens a list of what can be done. */
export function ActionsMenu({
  actions,
  className,
  label,
  children,
}: {
  actions: readonly Action[]
  className: string
  label?: string
  children: ReactNode
}) {
  return (
    <Menu>
      <MenuButton aria-label={label} className={className}>
        {children}
      </MenuButton>
      <MenuItems modal={false} anchor="bottom end" className="menu">
        {actions.map(({ label: words, keys, act, off }) => (
          <MenuItem key={words} disabled={off ?? false}>
            <button type="button" className="menu-item" onClick={act}>
              {words}
              {keys && <kbd>{keys}</kbd>}
            </button>
          </MenuItem>
        ))}
      </MenuItems>
    </Menu>
  )
}
