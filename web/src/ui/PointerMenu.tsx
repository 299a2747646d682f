import * as ContextMenu from '@radix-ui/react-context-menu'
import { useRef, useState, type ReactElement } from 'react'
import type { Action } from './actionList'

interface Props {
  /** What can be done with the thing at this place of the page; empty: nothing of ours. */
  actionsAt: (target: HTMLElement) => readonly Action[]
  children: ReactElement
}

/** What a right click, the menu key or a long press opens. A text field keeps the browser's own menu. */
export function PointerMenu({ actionsAt, children }: Props) {
  const [actions, setActions] = useState<readonly Action[]>([])
  const chosen = useRef<Action | null>(null)
  const overlays = document.getElementById('overlays')
  const look = (target: EventTarget): boolean => {
    const found = (target as HTMLElement).closest('input, textarea') ? [] : actionsAt(target as HTMLElement)
    setActions(found)
    return found.length > 0
  }
  return (
    <ContextMenu.Root modal={false}>
      <ContextMenu.Trigger
        asChild
        onContextMenuCapture={(event) => {
          if (!look(event.target)) event.stopPropagation()
        }}
        onPointerDownCapture={(event) => {
          if (event.pointerType !== 'mouse') look(event.target)
        }}
      >
        {children}
      </ContextMenu.Trigger>
      <ContextMenu.Portal container={overlays}>
        {actions.length > 0 && (
          <ContextMenu.Content
            className="menu max-h-[min(70vh,420px)] overflow-auto"
            collisionPadding={8}
            // what was chosen may move the focus: only then does the menu leave it alone
            onCloseAutoFocus={(event) => {
              const action = chosen.current
              chosen.current = null
              if (!action) return
              event.preventDefault()
              action.act()
            }}
          >
            {actions.map((action) => (
              <ContextMenu.Item
                key={action.label}
                disabled={action.off}
                className="menu-item"
                onSelect={() => {
                  chosen.current = action
                }}
              >
                {action.label}
                {action.keys && <kbd>{action.keys}</kbd>}
              </ContextMenu.Item>
            ))}
          </ContextMenu.Content>
        )}
      </ContextMenu.Portal>
    </ContextMenu.Root>
  )
}
