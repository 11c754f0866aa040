import { closestCenter, DndContext, KeyboardSensor, PointerSensor, useSensor, useSensors } from '@dnd-kit/core'
import {
  arrayMove,
  rectSortingStrategy,
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
} from '@dnd-kit/sortable'
import { CSS } from '@dnd-kit/utilities'

type Props = { pieces: readonly string[]; order: readonly number[] | undefined; onOrder: (order: number[]) => void }

/** Pieces of a sentence that children drag into their order: with a finger, a mouse, or the keyboard. */
export function Pieces({ pieces, order, onOrder }: Props) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  )
  const now = order?.length === pieces.length ? order : pieces.map((_, i) => i)
  const ids = now.map((i) => String(i))
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragEnd={({ active, over }) => {
        if (!over || active.id === over.id) return
        onOrder(arrayMove([...now], ids.indexOf(String(active.id)), ids.indexOf(String(over.id))))
      }}
    >
      <SortableContext items={ids} strategy={rectSortingStrategy}>
        <ul
          aria-label="pieces of the sentence"
          className="flex max-w-[90vw] flex-wrap justify-center gap-[3vh]"
          onClick={(e) => e.stopPropagation()}
        >
          {ids.map((id) => (
            <Piece key={id} id={id} text={pieces[Number(id)] ?? ''} />
          ))}
        </ul>
      </SortableContext>
    </DndContext>
  )
}

function Piece({ id, text }: { id: string; text: string }) {
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id })
  return (
    <li ref={setNodeRef} style={{ transform: CSS.Transform.toString(transform), transition }} className="list-none">
      <button
        type="button"
        {...attributes}
        {...listeners}
        onTouchStart={(e) => e.stopPropagation()} // a drag is no swipe
        onTouchEnd={(e) => e.stopPropagation()}
        className={`touch-none rounded-xl border-4 px-[4vh] py-[1vh] font-child text-[11vh] leading-tight max-sm:text-[7vh] ${isDragging ? 'border-marigold bg-slate-deep' : 'border-dashed border-chalk'}`}
      >
        {text}
      </button>
    </li>
  )
}
