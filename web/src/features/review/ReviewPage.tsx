import { Link, useParams } from '@tanstack/react-router'
import { mayI, useMe } from '../../api/shared'
import { fieldName } from '../../ui/fields'
import { Letter } from '../../ui/Letter'
import { asIn } from '../../ui/pair'
import { useCardNamed, useReview, type ReviewView } from './api'
import { Failed, Heading, Notice, Waiting } from '../../ui/parts'
import { Decide, Voices } from './Decide'
import { ago, partsOf, type Card } from './model'
import { Part } from './Part'

/** A card that a team comes to agree on: what changed, what is said of it, and what becomes of it. */
export function ReviewPage() {
  const { cardId } = useParams({ from: '/cards/$cardId/review' })
  const review = useReview(cardId)
  const me = useMe()
  const named = useCardNamed(cardId)
  if (review.error && !review.data) return <Failed error={review.error} />
  if (!review.data || !me.data) return <Waiting what="Laying both side by side …" />
  const view = review.data
  const card: Card = {
    id: cardId,
    view,
    mayEdit: mayI(me.data.rights, 'edit'),
    me: me.data.member_id,
    initials: [me.data.initials, ...view.people.map((p) => p.initials)],
  }
  const parts = partsOf(view.changed, view.remarks)
  return (
    <div className="mx-auto grid max-w-[1400px] grid-cols-[minmax(0,1fr)] gap-6 p-4 wrap-anywhere sm:p-5 lg:grid-cols-[minmax(0,1fr)_22rem]">
      <div className="flex min-w-0 flex-col gap-3">
        <div className="flex flex-wrap items-center gap-4">
          {named && (
            <Letter
              grapheme={named.pair.grapheme}
              drawn={view.now.drawn}
              group={false}
              className="h-20 w-28 rounded-lg border-2 border-ink bg-sheet"
            />
          )}
          <div>
            <Heading>{named ? `${named.pair.grapheme}, ${asIn(named)}` : 'Review'}</Heading>
            <Link
              to="/cards/$cardId"
              params={{ cardId }}
              className="inline-flex min-h-11 items-center font-bold underline underline-offset-4"
            >
              To the card
            </Link>
          </div>
        </div>
        <Changed view={view} />
        {parts.changed.map((f) => (
          <Part key={f} card={card} field={f} />
        ))}
        <Part card={card} field="" />
        {parts.talked.map((f) => (
          <Part key={f} card={card} field={f} />
        ))}
        <details>
          <summary className="min-h-11 cursor-pointer content-center text-lg font-bold">
            {view.before ? 'What stayed as it is' : 'What is not filled in'}
          </summary>
          <div className="flex flex-col gap-4">
            {parts.rest.map((f) => (
              <Part key={f} card={card} field={f} />
            ))}
          </div>
        </details>
        <Past list={view.past} />
      </div>
      <aside className="flex flex-col gap-4 self-start rounded-xl border-2 border-ink bg-sheet p-4 shadow-md lg:sticky lg:top-4">
        <Heading level={2}>{view.state === 'agreed' ? 'Agreed' : view.open ? 'In review' : 'Draft'}</Heading>
        <Decide card={card} />
      </aside>
    </div>
  )
}

function Changed({ view }: { view: ReviewView }) {
  if (view.changed.length === 0) return <Notice>Nothing differs from what is agreed.</Notice>
  const what = view.changed.map(fieldName).join(', ')
  return (
    <p className="text-lg">
      {view.before ? (
        <>
          Changed since version {view.before.version}, which lessons use: <b>{what}</b>.
        </>
      ) : (
        <>
          Nothing was agreed before. Filled in: <b>{what}</b>.
        </>
      )}
    </p>
  )
}

const ends = { agreed: '✓ agreed', 'sent back': '↩ sent back', 'taken back': '↩ taken back' }

/** What was decided before, with what was said to it. */
function Past({ list }: { list: ReviewView['past'] }) {
  if (list.length === 0) return null
  return (
    <section className="flex flex-col gap-2">
      <Heading level={2}>Decided before</Heading>
      <ol className="flex flex-col gap-3">
        {list.map((p) => (
          <li key={p.asked_at + String(p.version)} className="border-l-4 border-line pl-3">
            <p>
              <b>{ends[p.state]}</b> by {p.decided_by || 'Bright Chalk'}
              {p.decided_at && `, ${ago(p.decided_at)}`}: version {p.version}
              {p.conclusion && <span className="font-child">, “{p.conclusion}”</span>}
            </p>
            <p className="text-sm text-soft">
              put forward by {p.asked_by}, {ago(p.asked_at)}
              {p.note && `: “${p.note}”`}
            </p>
            {p.voices.length > 1 && <Voices list={p.voices} />}
          </li>
        ))}
      </ol>
    </section>
  )
}
