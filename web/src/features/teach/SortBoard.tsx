import {
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
} from '@dnd-kit/core'
import { CSS } from '@dnd-kit/utilities'
import { Shape } from '../../ui/Shape'

export type Sorted = { word: string; side: string; heard: boolean }

type Props = {
  now: Sorted
  all: readonly Sorted[]
  names: readonly string[]
  /** Where each was put so far. */
  put: ReadonlyMap<string, string>
  turned: boolean
  srcOf: (word: string) => string | undefined
  onPut: (word: string, side: string) => void
}

/** One picture, or a word that is only heard, and the baskets that fill with those before it. */
export function SortBoard({ now, all, names, put, turned, srcOf, onPut }: Props) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(KeyboardSensor),
  )
  const where = turned ? now.side : put.get(now.word)
  return (
    <DndContext
      sensors={sensors}
      onDragEnd={({ over }) => {
        if (over) onPut(now.word, String(over.id))
      }}
    >
      <div className="flex w-full flex-1 items-stretch justify-center gap-[2vw] self-stretch px-[2vw] py-[1vh]">
        {names.map((name, i) => (
          <div key={name} className={`flex ${i === 0 ? 'order-1' : 'order-3'} w-[26vw]`}>
            <Basket name={name} onPress={() => onPut(now.word, name)}>
              {all
                .filter((p) => (p.word === now.word ? where === name : put.get(p.word) === name))
                .map((p) => (
                  <Small key={p.word} item={p} src={srcOf(p.word)} named={p.word !== now.word || turned} />
                ))}
            </Basket>
          </div>
        ))}
        <div className="order-2 flex flex-1 flex-col items-center justify-center gap-[2vh]">
          {where === undefined && <Big item={now} src={srcOf(now.word)} />}
          <p className="min-h-[7vh] text-center font-child text-[5vh] leading-none">
            {turned ? `${now.word}: ${now.side}` : where === undefined ? '?' : ''}
          </p>
        </div>
      </div>
    </DndContext>
  )
}

function Basket({ name, onPress, children }: { name: string; onPress: () => void; children: React.ReactNode }) {
  const { setNodeRef, isOver } = useDroppable({ id: name })
  return (
    <div
      ref={setNodeRef}
      data-basket={name}
      className={`flex w-full flex-col rounded-b-[6vh] border-4 border-t-0 ${isOver ? 'border-marigold bg-marigold/15' : 'border-chalk/70'}`}
    >
      <button
        type="button"
        onClick={(e) => {
          e.stopPropagation()
          onPress()
        }}
        className="min-h-12 border-y-4 border-chalk/70 text-[4.5vh] leading-tight font-bold"
      >
        {name}
      </button>
      <div className="flex flex-1 flex-wrap content-end items-end justify-center gap-2 p-2">{children}</div>
    </div>
  )
}

function Small({ item, src, named }: { item: Sorted; src: string | undefined; named: boolean }) {
  return src ? (
    <img src={src} alt={named ? item.word : 'picture'} className="size-[15vh]" />
  ) : (
    <span className="rounded border-2 border-chalk px-3 font-child text-[4vh]">{named ? item.word : '♪'}</span>
  )
}

function Big({ item, src }: { item: Sorted; src: string | undefined }) {
  const { attributes, listeners, setNodeRef, transform } = useDraggable({ id: item.word })
  return (
    <button
      ref={setNodeRef}
      type="button"
      {...attributes}
      {...listeners}
      aria-label={item.heard ? 'the word that was said' : item.word}
      onClick={(e) => e.stopPropagation()}
      onTouchStart={(e) => e.stopPropagation()} // a drag is no swipe
      onTouchEnd={(e) => e.stopPropagation()}
      style={{ transform: CSS.Translate.toString(transform) }}
      className="z-10 touch-none rounded-2xl"
    >
      {item.heard ? (
        <Shape family="ear" className="size-[28vh]" />
      ) : src ? (
        <img src={src} alt="" draggable={false} className="size-[40vh] max-w-[40vw]" />
      ) : (
        <span className="flex size-[36vh] items-center justify-center rounded-2xl border-4 border-dashed border-chalk/60 text-3xl">
          no picture
        </span>
      )}
    </button>
  )
}
