import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react'
import { memo } from 'react'
import type { Action } from './actionList'
import { Chevron } from './marks'
import { useSteady } from './useSteady'

interface Props {
  actions: readonly Action[]
  className: string
  /** Name of a button that shows no words. */
  label?: string
  /** Words on the button. */
  words?: string
}

/** A button that opens a list of what can be done. */
export function ActionsMenu({ actions, className, label, words }: Props) {
  const onAct = useSteady((index: number) => actions[index].act())
  return <Items {...{ actions, className, label, words, onAct }} />
}

const alike = (a: Props['actions'], b: Props['actions']): boolean =>
  a.length === b.length && a.every(({ label, keys, off }, k) => label === b[k].label && keys === b[k].keys && off === b[k].off)

/** Drawn anew only where it shows something else, for there are many of them. */
const Items = memo(
  function Items({ actions, className, label, words, onAct }: Props & { onAct: (index: number) => void }) {
    return (
      <Menu>
        <MenuButton aria-label={label} className={className}>
          {words}
          <Chevron />
        </MenuButton>
        <MenuItems modal={false} anchor="bottom end" className="menu">
          {actions.map(({ label: said, keys, off }, k) => (
            <MenuItem key={said} disabled={off ?? false}>
              <button type="button" className="menu-item" onClick={() => onAct(k)}>
                {said}
                {keys && <kbd>{keys}</kbd>}
              </button>
            </MenuItem>
          ))}
        </MenuItems>
      </Menu>
    )
  },
  (a, b) => a.className === b.className && a.label === b.label && a.words === b.words && a.onAct === b.onAct && alike(a.actions, b.actions),
)
