import { useRef, useState, type PointerEvent } from 'react'
import type { CardView } from '../../api/client'
import { Button, Heading, Key, Notice } from '../../ui/parts'
import { LetterOverPicture, type Place } from '../../ui/LetterOverPicture'
import type { Written } from '../../ui/Writing'
import { keysOn } from '../../ui/useKeys'
import { useSaveCard } from './api'

const start: Place = { x: 0.3, y: 0.7, size: 0.4 }

/** The letter laid over the picture: drag it, or use the arrow keys; plus and minus change its size. */
export function Overlay({ card, written, mayEdit }: { card: CardView; written: Written; mayEdit: boolean }) {
  const stored = card.content.place
  const [place, setPlace] = useState<Place>(stored ?? start)
  const save = useSaveCard(card.card_id)
  const box = useRef<HTMLDivElement>(null)
  const from = useRef<{ x: number; y: number; place: Place }>(undefined)
  const clamp = (p: Place): Place => ({
    x: Math.max(-0.4, Math.min(1.2, p.x)),
    y: Math.max(-0.2, Math.min(1.4, p.y)),
    size: Math.max(0.06, Math.min(0.9, p.size)),
  })
  const drag = (e: PointerEvent) => {
    if (!from.current || !box.current) return
    const side = box.current.clientWidth
    setPlace(
      clamp({
        ...from.current.place,
        x: from.current.place.x + (e.clientX - from.current.x) / side,
        y: from.current.place.y + (e.clientY - from.current.y) / side,
      }),
    )
  }
  const steps: Record<string, Partial<Place>> = {
    ArrowLeft: { x: -0.01 },
    ArrowRight: { x: 0.01 },
    ArrowUp: { y: -0.01 },
    ArrowDown: { y: 0.01 },
    '+': { size: 0.02 },
    '=': { size: 0.02 },
    '-': { size: -0.02 },
  }
  const nudges = Object.fromEntries(
    Object.entries(steps).map(([key, by]) => [
      key,
      () => setPlace(clamp({ x: place.x + (by.x ?? 0), y: place.y + (by.y ?? 0), size: place.size + (by.size ?? 0) })),
    ]),
  )
  const changed = JSON.stringify(place) !== JSON.stringify(stored ?? start) || !stored
  return (
    <section className="flex flex-col gap-3">
      <Heading level={2}>Over the picture</Heading>
      <div className="flex flex-wrap gap-6">
        <div
          ref={box}
          tabIndex={mayEdit ? 0 : -1}
          role="application"
          aria-label="Letter over the picture; arrow keys move it, plus and minus change its size"
          className="relative w-96 touch-none rounded-lg border-2 border-ink"
          onPointerDown={(e) => {
            if (!mayEdit) return
            from.current = { x: e.clientX, y: e.clientY, place }
            e.currentTarget.setPointerCapture(e.pointerId)
          }}
          onPointerMove={drag}
          onPointerUp={() => (from.current = undefined)}
          onKeyDown={keysOn(mayEdit ? nudges : {})}
        >
          <LetterOverPicture
            src={`/api/pictures/${card.content.picture}`}
            alt={card.content.picture_alt}
            written={written}
            place={place}
          />
        </div>
        <div className="flex max-w-sm flex-col gap-3">
          <p>
            Move and scale the letter until its strokes follow the picture. It is stored on the card and shown there and
            in Teach.
          </p>
          <p>
            <Key>←</Key> <Key>→</Key> <Key>↑</Key> <Key>↓</Key> move, <Key>+</Key> <Key>−</Key> scale, or drag
          </p>
          {mayEdit && (
            <>
              <label className="flex flex-col gap-1 text-sm font-bold">
                Size
                <input
                  type="range"
                  min={0.06}
                  max={0.9}
                  step={0.01}
                  value={place.size}
                  onChange={(e) => setPlace({ ...place, size: e.target.valueAsNumber })}
                  className="h-11 accent-slate"
                />
              </label>
              <Button
                look={changed ? 'main' : 'plain'}
                disabled={!changed || save.isPending}
                onClick={() => save.mutate({ base: card.version, content: { ...card.content, place } })}
              >
                Keep it so
              </Button>
              {stored && (
                <Button
                  look="quiet"
                  onClick={() => {
                    const content = { ...card.content }
                    delete content.place
                    save.mutate({ base: card.version, content })
                  }}
                >
                  Take the letter off the picture
                </Button>
              )}
            </>
          )}
          {save.error && <Notice kind="wrong">{save.error.message}</Notice>}
          {save.isSuccess && !changed && <Notice kind="good">Kept on the card.</Notice>}
        </div>
      </div>
    </section>
  )
}
