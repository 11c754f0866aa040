import { useCallback, useEffect } from 'react'
import { Shape } from '../../ui/Shape'
import { CardPeek } from './CardPeek'
import { speakers } from './model'
import { OwnWord, Stage } from './Stage'
import type { Held } from './useHeld'
import { usePlayer } from './usePlayer'
import { useSwipe } from './useSwipe'
import type { Pack } from './usePreload'

/** What the children see: one thing, large, and no word that is meant for the adult. */
export function Board({ held, pack, sounds }: { held: Held; pack: Pack; sounds: boolean }) {
  const { state, place, screen, lesson } = held
  const shown = screen?.show
  const bitsOf = useCallback(
    (word: string) =>
      place.own?.word === word
        ? place.own.bits
        : shown?.kind === 'word' && shown.word === word
          ? shown.bits
          : (lesson.word_bits[word] ?? []),
    [place.own, shown, lesson],
  )
  const { audio, active, refused, retry } = usePlayer(state.play, bitsOf, pack, lesson, sounds)
  const swipe = useSwipe((way) => (way > 0 ? held.on() : held.back()))
  const open = place.open ? lesson.cards[place.open] : undefined
  useEffect(() => {
    if (refused) document.addEventListener('pointerdown', retry, { once: true })
    return () => document.removeEventListener('pointerdown', retry)
  }, [refused, retry])
  if (!screen) return null
  return (
    <>
      <audio ref={audio} />
      {/* A press anywhere on it turns; for the keyboard and a screen reader there is the button below. */}
      <div
        onClick={held.turn}
        className="relative flex min-h-0 flex-1 cursor-pointer touch-pan-y items-center justify-center"
        {...swipe}
      >
        {place.own ? (
          <OwnWord own={place.own} lesson={lesson} active={active} onBit={(b) => held.open(b.card ?? '')} />
        ) : (
          <Stage
            key={held.at}
            screen={screen}
            index={held.at}
            place={place}
            state={state}
            pack={pack}
            lesson={lesson}
            active={active}
            onBit={(b) => held.open(b.card ?? '')}
            onOrder={held.order}
            onPut={held.side}
          />
        )}
        {screen.task && !place.own && (
          <span className="absolute top-2 left-4 flex items-center gap-3 rounded-full border-2 border-marigold px-4 py-1 text-[3.4vh]">
            <Shape family={screen.task.side === 'picture' ? 'eye' : 'mouth'} className="size-[4.4vh]" />
            {screen.task.side === 'picture' ? 'rhyme' : 'sound'}
          </span>
        )}
        {screen.voice && (
          <span className="absolute top-2 right-4 text-[4.4vh] text-marigold" aria-hidden>
            {speakers[screen.voice][0]}
          </span>
        )}
        {open && <CardPeek face={open} src={pack.pictures.get(open.id)} onClose={() => held.open('')} />}
        {refused && (
          <button
            type="button"
            onClick={(e) => {
              e.stopPropagation()
              retry()
              void audio.current?.play()
            }}
            className="absolute bottom-4 rounded-xl bg-marigold px-6 py-3 text-2xl font-bold text-ink"
          >
            Press here once, so that this window may sound
          </button>
        )}
      </div>
    </>
  )
}

/** The board when the lesson is over. */
export function BoardEnd() {
  return (
    <div className="flex flex-1 items-center justify-center" role="img" aria-label="the lesson is over">
      <svg viewBox="0 0 100 100" className="h-[46vh]" aria-hidden>
        <circle cx="50" cy="50" r="44" fill="none" stroke="var(--color-chalk)" strokeWidth="4" />
        <path
          d="M28 52L44 68L74 34"
          fill="none"
          stroke="var(--color-marigold)"
          strokeWidth="8"
          strokeLinecap="round"
          strokeLinejoin="round"
        />
      </svg>
    </div>
  )
}
