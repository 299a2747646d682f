import { closestCenter, DndContext, KeyboardSensor, PointerSensor, useSensor, useSensors } from '@dnd-kit/core'
import { sortableKeyboardCoordinates } from '@dnd-kit/sortable'
import { useCallback, useRef, useState } from 'react'
import { presentPreset } from '../../state/actions'
import { useAppSelector } from '../../state/store'
import { PointerMenu } from '../../ui/PointerMenu'
import { AddStageDialog } from './AddStageDialog'
import { MatrixBody, type Hands } from './MatrixBody'

// the same objects each time: others would draw every row and head anew
const BY_POINTER = { activationConstraint: { distance: 4 } }
const BY_KEYS = { coordinateGetter: sortableKeyboardCoordinates }

/** The Sheet and what hands do on it: it is not drawn again with every edit, what it holds is. */
export function Matrix() {
  const isOpen = useAppSelector((s) => presentPreset(s) !== null)
  const [adding, setAdding] = useState(false)
  const add = useCallback(() => setAdding(true), [])
  const sensors = useSensors(useSensor(PointerSensor, BY_POINTER), useSensor(KeyboardSensor, BY_KEYS))
  const hands = useRef<Hands>(null)
  if (!isOpen) return null
  return (
    <PointerMenu actionsAt={(target) => hands.current?.actionsAt(target) ?? []}>
      <section
        aria-label="Sheet"
        className="sheet relative min-h-0 min-w-0 overflow-auto"
        onKeyDownCapture={(event) => hands.current?.onKeyDownCapture(event)}
        onPointerDownCapture={(event) => hands.current?.onPointerDownCapture(event)}
        onPointerOver={(event) => hands.current?.onPointerOver(event)}
        onCopy={(event) => hands.current?.onCopy(event)}
        onCut={(event) => hands.current?.onCut(event)}
        onPaste={(event) => hands.current?.onPaste(event)}
      >
        <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={(event) => hands.current?.onDragEnd(event)}>
          <MatrixBody hands={hands} onAddStage={add} />
        </DndContext>
        <AddStageDialog open={adding} onClose={() => setAdding(false)} />
      </section>
    </PointerMenu>
  )
}
