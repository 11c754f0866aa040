import { DndContext, MouseSensor, TouchSensor, closestCenter, useSensor, useSensors } from '@dnd-kit/core'
import { SortableContext, rectSortingStrategy, useSortable } from '@dnd-kit/sortable'
import { CSS } from '@dnd-kit/utilities'
import type { WallCard } from '../../api/client'
import type { OrderStep } from './api'
import { clashWord, isMixed, ledges, moveTo, range } from './model'

type Props = {
  ids: string[]
  standing: string[]
  size: number
  steps: readonly OrderStep[]
  cards: ReadonlyMap<string, WallCard>
  current: string
  picked: ReadonlySet<string>
  keep: ReadonlySet<string>
  may: boolean
  onAt: (id: string) => void
  onPick: (picked: ReadonlySet<string>) => void
  onPut: (ids: string[]) => void
}

/** The order on ledges, one ledge a week. A drag moves a card, or all that are picked. */
export function Ledges(p: Props) {
  const sensors = useSensors(
    useSensor(MouseSensor, { activationConstraint: { distance: 6 } }),
    useSensor(TouchSensor, { activationConstraint: { delay: 180, tolerance: 8 } }), // a swipe scrolls
  )
  const steps = new Map(p.steps.map((s) => [s.card_id, s]))
  const press = (id: string, e: React.MouseEvent) => {
    if (e.shiftKey) p.onPick(new Set([...p.picked, ...range(p.ids, p.current, id)]))
    else if (e.ctrlKey || e.metaKey) {
      const next = new Set(p.picked)
      if (!next.delete(id)) next.add(id)
      p.onPick(next)
    }
    p.onAt(id)
  }
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragEnd={({ active, over }) => {
        const id = String(active.id)
        if (over && over.id !== id) p.onPut(moveTo(p.ids, p.picked.has(id) ? p.picked : new Set([id]), String(over.id)))
        p.onAt(id)
      }}
    >
      <SortableContext items={p.ids} strategy={rectSortingStrategy} disabled={!p.may}>
        <ol className="grid gap-x-6 gap-y-1 xl:grid-cols-2" aria-label="The order, a ledge a week">
          {ledges(p.ids, p.size).map((ledge, i) => (
            <li key={i} className="flex flex-col justify-end">
              <div className="flex items-end gap-2">
                <span className="w-9 shrink-0 self-center text-center text-xs leading-tight text-soft">
                  week
                  <br />
                  <b className="text-lg text-ink">{i + 1}</b>
                </span>
                <ol
                  className="grid min-w-0 flex-1 gap-1.5"
                  style={{ gridTemplateColumns: `repeat(${p.size}, minmax(0, 1fr))` }}
                >
                  {ledge.map((id) => (
                    <Tile
                      key={id}
                      id={id}
                      number={p.ids.indexOf(id) + 1}
                      was={p.standing.indexOf(id) + 1}
                      card={p.cards.get(id)}
                      step={steps.get(id)}
                      current={id === p.current}
                      picked={p.picked.has(id)}
                      kept={p.keep.has(id)}
                      onPress={(e) => press(id, e)}
                    />
                  ))}
                </ol>
              </div>
              <div aria-hidden className="h-2 rounded-sm border-t-2 border-[#b9ad92] bg-ledge shadow-sm" />
            </li>
          ))}
        </ol>
      </SortableContext>
    </DndContext>
  )
}

type TileProps = {
  id: string
  number: number
  was: number
  card: WallCard | undefined
  step: OrderStep | undefined
  current: boolean
  picked: boolean
  kept: boolean
  onPress: (e: React.MouseEvent) => void
}

function Tile({ id, number, was, card, step, current, picked, kept, onPress }: TileProps) {
  const { listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id })
  const clash = step ? clashWord(step) : ''
  const mixed = step !== undefined && isMixed(step)
  const moved = was > 0 && was !== number
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Transform.toString(transform), transition }}
      className={isDragging ? 'z-10 opacity-80' : ''}
    >
      <button
        type="button"
        id={`step-${id}`}
        {...listeners}
        onClick={onPress}
        tabIndex={current ? 0 : -1}
        aria-current={current}
        aria-pressed={picked}
        data-mixed={mixed || undefined}
        className={`flex h-24 w-full touch-manipulation flex-col items-center rounded-t-lg border-2 border-b-0 px-1 pt-0.5 leading-none ${picked ? 'bg-marigold/45' : moved ? 'bg-sky/25' : 'bg-sheet'} ${current ? 'border-ink outline-2 outline-ink' : mixed ? 'border-brick' : 'border-line'}`}
      >
        <span className="flex w-full justify-between text-xs text-soft">
          <span>
            <span className="sr-only">step </span>
            {number}
          </span>
          <span>
            {kept && (
              <>
                <span aria-hidden>⚓</span>
                <span className="sr-only">, kept at its place</span>
              </>
            )}
            {moved && (
              <>
                <span aria-hidden> {was < number ? '↓' : '↑'}</span> was {was}
              </>
            )}
          </span>
        </span>
        <span className="font-child text-3xl leading-tight font-bold">{card?.pair.grapheme ?? '?'}</span>
        <span className="w-full truncate text-center text-xs text-soft">{card?.as_in}</span>
        <span className={`mt-0.5 w-full truncate text-center text-xs ${mixed ? 'font-bold text-brick' : ''}`}>
          {mixed ? (
            <>
              <span aria-hidden>≈ </span>
              {clash}
            </>
          ) : (
            step && (
              <>
                +{step.words}
                <span className="sr-only"> words</span>
              </>
            )
          )}
        </span>
      </button>
    </li>
  )
}
