import { Link } from '@tanstack/react-router'
import type { WallCard } from '../../api/client'
import { Letter, isGroup } from '../../ui/Letter'
import type { Standing } from './model'

const edges = {
  draft: 'border-2 border-dashed border-ink/60',
  'in review': 'border-2 border-ink/60',
  agreed: 'border-2 border-ink',
}

type Props = { card: WallCard; standing: Standing; turned: boolean; current: boolean; onFocus: () => void }

/** A card on its ledge: letter side, turned to the picture side on hover or key. State shows by edge and word. */
export function SoundCard({ card, standing, turned, current, onFocus }: Props) {
  const gaps = card.gaps
  const label = `${card.pair.grapheme}${standing === 'taught' ? '' : `, ${standing}`}${card.keyword ? ` as in ${card.keyword}` : ''}, ${card.state}${gaps.length ? `, ${gaps.map((g) => g.text).join(', ')}` : ''}`
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
      <div
        aria-hidden
        className={`turn-card relative w-full ${standing === 'next' ? 'h-52' : standing === 'later' ? 'h-44' : 'h-48'} group-hover:rotate-y-180 ${turned ? 'rotate-y-180' : ''}`}
      >
        <div
          className={`absolute inset-0 flex flex-col rounded-lg backface-hidden ${edges[card.state]} ${standing === 'later' ? 'bg-[#f3eee2]' : 'bg-sheet'} ${standing === 'next' ? 'shadow-[0_6px_0_var(--color-marigold),0_10px_18px_rgb(0_0_0/0.25)]' : 'shadow-md'}`}
        >
          <Letter
            drawn={card.drawn}
            grapheme={card.pair.grapheme}
            group={isGroup(card.kind)}
            className={`mx-auto mt-3 w-full ${standing === 'later' ? 'h-26' : 'h-30'}`}
          />
          <p className="truncate px-2 text-center text-sm text-soft">
            {card.keyword ? `as in ${card.keyword}` : 'no keyword yet'}
          </p>
          <Needs gaps={gaps.map((g) => g.part)} done={gaps.length === 0} />
        </div>
        <div
          className={`absolute inset-0 flex rotate-y-180 flex-col items-center rounded-lg bg-sheet p-2 shadow-md backface-hidden ${edges[card.state]}`}
        >
          {card.picture ? (
            <img
              src={`/api/pictures/${card.picture}`}
              alt=""
              loading="lazy"
              className={`w-auto rounded ${standing === 'later' ? 'h-28' : 'h-32'}`}
            />
          ) : (
            <span className="flex h-32 w-full items-center justify-center rounded border-2 border-dashed border-line text-sm text-soft">
              needs a picture
            </span>
          )}
          <span className="mt-1 line-clamp-2 text-center font-child text-sm leading-tight">
            {card.rhyme || 'needs a rhyme'}
          </span>
        </div>
      </div>
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

function Needs({ gaps, done }: { gaps: string[]; done: boolean }) {
  if (done) return <p className="mt-auto pb-1 text-center text-sm text-leaf">complete</p>
  const shown = gaps.length > 2 ? `needs ${gaps.length} things` : `needs ${gaps.join(', ')}`
  return <p className="mt-auto truncate px-1 pb-1 text-center text-sm text-brick">{shown}</p>
}
