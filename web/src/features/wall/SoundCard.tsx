import { Link } from '@tanstack/react-router'
import type { WallCard } from '../../api/client'
import { Letter, isGroup } from '../../ui/Letter'
import type { Side, Standing } from './model'

const edges = {
  draft: 'border-2 border-dashed border-ink/60',
  'in review': 'border-2 border-ink/60',
  agreed: 'border-2 border-ink',
}

type Props = {
  card: WallCard
  standing: Standing
  side: Side
  turned: boolean
  current: boolean
  onFocus: () => void
}

const heights = { next: 'h-52', later: 'h-44', taught: 'h-48' }
const tall = { next: 'h-72', later: 'h-64', taught: 'h-68' }

// A card is turned in the plane: it narrows, and its other side widens. Depth is not drawn by every machine.
const turning = 'transition-[scale] duration-150 motion-reduce:transition-none'
const over = `${turning} delay-150 group-hover:scale-x-0 group-hover:delay-0`
const under = `${turning} scale-x-0 group-hover:scale-x-100 group-hover:delay-150`

/** A card on its ledge: letter side, picture side, or both; a hover or a key turns it. State shows by edge and word. */
export function SoundCard({ card, standing, side, turned, current, onFocus }: Props) {
  const gaps = card.gaps
  const label = `${card.pair.grapheme}${standing === 'taught' ? '' : `, ${standing}`}${card.keyword ? ` as in ${card.keyword}` : ''}, ${card.state}${gaps.length ? `, ${gaps.map((g) => g.text).join(', ')}` : ''}`
  const back = (side === 'pictures') !== turned
  const face = `${edges[card.state]} ${standing === 'later' ? 'bg-[#f3eee2]' : 'bg-sheet'} ${standing === 'next' ? 'shadow-[0_6px_0_var(--color-marigold),0_10px_18px_rgb(0_0_0/0.25)]' : 'shadow-md'}`
  const letter = (
    <Letter
      drawn={card.drawn}
      grapheme={card.pair.grapheme}
      group={isGroup(card.pair.grapheme)}
      className={`mx-auto mt-3 w-full ${standing === 'later' ? 'h-26' : 'h-30'}`}
    />
  )
  const keyword = (
    <p className="truncate px-2 text-center text-sm text-soft">
      {card.keyword ? `as in ${card.keyword}` : 'no keyword yet'}
    </p>
  )
  return (
    <Link
      to="/cards/$cardId"
      params={{ cardId: card.card_id }}
      id={`card-${card.card_id}`}
      tabIndex={current ? 0 : -1}
      onFocus={onFocus}
      data-grapheme={card.pair.grapheme}
      data-state={card.state}
      data-standing={standing}
      className={`group relative block outline-offset-4 ${standing === 'next' ? 'z-10 -mx-1 -mb-2' : standing === 'later' ? 'mx-1.5' : ''}`}
    >
      <span className="sr-only">{label}</span>
      {side === 'both' ? (
        <div aria-hidden className={`flex w-full flex-col rounded-lg ${face} ${tall[standing]}`}>
          {letter}
          <Picture card={card} className="h-20" />
          {keyword}
          <Needs count={gaps.length} />
        </div>
      ) : (
        <div aria-hidden className={`relative w-full ${heights[standing]}`}>
          <div className={`absolute inset-0 flex flex-col rounded-lg ${face} ${back ? under : over}`}>
            {letter}
            {keyword}
            <Needs count={gaps.length} />
          </div>
          <div className={`absolute inset-0 flex flex-col items-center rounded-lg p-2 ${face} ${back ? over : under}`}>
            <Picture card={card} className={standing === 'later' ? 'h-28' : 'h-32'} />
            <span className="mt-1 line-clamp-2 text-center font-child text-sm leading-tight">
              {card.rhyme || 'no rhyme yet'}
            </span>
          </div>
        </div>
      )}
      {standing === 'next' && (
        <span aria-hidden className="absolute -top-3 left-2 z-10 rounded bg-marigold px-2 text-sm font-bold">
          next
        </span>
      )}
      {standing === 'later' && (
        <span aria-hidden className="absolute -top-2 left-2 rounded bg-ledge px-2 text-sm">
          later
        </span>
      )}
      <StateMark state={card.state} by={card.updated_by} />
      {card.remarks > 0 && (
        <span
          className="absolute -right-2 bottom-3 z-10 rounded bg-coral px-2 text-sm font-bold"
          title="Something on this card contradicts its sound"
        >
          mend
        </span>
      )}
    </Link>
  )
}

function StateMark({ state, by }: { state: WallCard['state']; by: string }) {
  if (state === 'agreed')
    return (
      <span
        aria-hidden
        title="agreed"
        className="absolute top-1 right-1 flex size-6 items-center justify-center rounded-full bg-mint text-base font-bold"
      >
        ✓
      </span>
    )
  if (state === 'in review')
    return (
      <span
        aria-hidden
        title={`in review, last changed by ${by}`}
        className="absolute -top-px -right-px flex size-10 items-start justify-end rounded-tr-lg bg-[linear-gradient(225deg,var(--color-sky)_50%,transparent_50%)] pr-0.5 text-sm font-bold"
      >
        {by || '?'}
      </span>
    )
  return (
    <span aria-hidden className="absolute top-1 right-2 text-sm text-soft">
      draft
    </span>
  )
}

function Picture({ card, className }: { card: WallCard; className: string }) {
  if (card.picture)
    return (
      <img
        src={`/api/pictures/${card.picture}`}
        alt=""
        loading="lazy"
        className={`mx-auto w-auto max-w-full rounded object-contain ${className}`}
      />
    )
  return (
    <span
      className={`mx-auto flex w-[85%] items-center justify-center rounded border-2 border-dashed border-line text-sm text-soft ${className}`}
    >
      no picture yet
    </span>
  )
}

/** What is still to do, said quietly: the card's page says what. */
function Needs({ count }: { count: number }) {
  if (count === 0) return <p className="mt-auto pb-1 text-center text-sm text-leaf">complete</p>
  return <p className="mt-auto pb-1 text-center text-sm text-soft">{count} to do</p>
}
