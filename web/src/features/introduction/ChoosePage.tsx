import { Link, useNavigate, useSearch } from '@tanstack/react-router'
import { useState } from 'react'
import { mayI, useClass, useClasses, useMe, useWall, useRecent } from '../../api/shared'
import { Button, Failed, Heading, Inline, Notice, Waiting } from '../../ui/parts'
import { Letter, isGroup } from '../../ui/Letter'
import { useAssemble } from './api'

/** Pick a class and a sound; the next one of the order is offered. */
export function ChoosePage() {
  const { card: wanted } = useSearch({ from: '/introductions' })
  const me = useMe()
  const wall = useWall()
  const classes = useClasses()
  const recent = useRecent()
  const assemble = useAssemble()
  const go = useNavigate()
  const [classId, setClassId] = useState('')
  const chosenClass = classId || classes.data?.[0]?.class_id || ''
  const klass = useClass(chosenClass)
  const [cardId, setCardId] = useState(wanted ?? '')
  const [minutes, setMinutes] = useState(20)
  if (wall.error && !wall.data) return <Failed error={wall.error} />
  if (!wall.data || !classes.data) return <Waiting what="Looking up the classes …" />
  const chosen = wall.data.find((c) => c.card_id === (cardId || klass.data?.next))
  const make = () => {
    if (!chosen) return
    assemble.mutate(
      { class_id: chosenClass, card_id: chosen.card_id, minutes },
      { onSuccess: (i) => go({ to: '/introductions/$introductionId', params: { introductionId: i.introduction_id } }) },
    )
  }
  return (
    <div className="mx-auto flex max-w-6xl flex-col gap-8 p-6">
      <Heading>Introduce a sound</Heading>
      {classes.data.length === 0 ? (
        <Notice>There is no class yet. Make one under “Team”; then its next sound is offered here.</Notice>
      ) : (
        <section
          className="flex flex-wrap items-center gap-8 rounded-xl border-2 border-ink bg-sheet p-6 shadow-md"
          aria-label="New introduction"
        >
          {chosen && (
            <div className="w-44 rounded-lg border-2 border-ink bg-paper p-2">
              <Letter
                drawn={chosen.drawn}
                grapheme={chosen.pair.grapheme}
                group={isGroup(chosen.kind)}
                className="mx-auto h-32"
              />
            </div>
          )}
          <div className="flex min-w-0 flex-1 flex-col gap-4 text-xl">
            <p className="flex flex-wrap items-center gap-2">
              <label htmlFor="for-class">For</label>
              <Inline
                id="for-class"
                value={chosenClass}
                onChange={(e) => {
                  setClassId(e.target.value)
                  setCardId('')
                }}
              >
                {classes.data.map((c) => (
                  <option key={c.class_id} value={c.class_id}>
                    {c.name}
                  </option>
                ))}
              </Inline>
              <label htmlFor="for-card">introduce</label>
              <Inline id="for-card" value={chosen?.card_id ?? ''} onChange={(e) => setCardId(e.target.value)}>
                {wall.data.map((c) => (
                  <option key={c.card_id} value={c.card_id}>
                    {c.step}. {c.pair.grapheme} {c.keyword ? `(${c.keyword})` : `/${c.pair.sound}/`}
                    {c.card_id === klass.data?.next ? ' – next' : ''}
                  </option>
                ))}
              </Inline>
              <label htmlFor="for-minutes">in</label>
              <Inline id="for-minutes" value={minutes} onChange={(e) => setMinutes(Number(e.target.value))}>
                {[10, 12, 15, 20, 25, 30, 35, 40].map((m) => (
                  <option key={m} value={m}>
                    {m} minutes
                  </option>
                ))}
              </Inline>
            </p>
            <p className="text-base text-soft">
              {klass.data
                ? `${klass.data.name} has been taught ${klass.data.taught} of ${wall.data.length} cards.`
                : ''}{' '}
              {chosen?.card_id === klass.data?.next && 'This is the next one in your order.'}
              {klass.data && !klass.data.next && 'The whole order has been taught.'}
            </p>
            <div className="flex items-center gap-4">
              <Button
                look="main"
                className="px-8 text-xl"
                disabled={!chosen || assemble.isPending || !mayI(me.data?.rights, 'teach')}
                onClick={make}
              >
                {assemble.isPending ? 'Putting it together …' : 'Make the introduction'}
              </Button>
            </div>
            {assemble.error && <Notice kind="wrong">{assemble.error.message}</Notice>}
          </div>
        </section>
      )}
      <section className="flex flex-col gap-3">
        <Heading level={2}>Made lately</Heading>
        {recent.data?.length === 0 && <Notice>None yet. The first one is a click away.</Notice>}
        <ul className="grid gap-3 sm:grid-cols-2 lg:grid-cols-3">
          {recent.data?.map((r) => (
            <li key={r.introduction_id}>
              <Link
                to="/introductions/$introductionId"
                params={{ introductionId: r.introduction_id }}
                className="flex items-center gap-4 rounded-lg border-2 border-line bg-sheet p-3 hover:border-ink"
              >
                <span className="min-w-14 text-center font-child text-4xl">{r.grapheme}</span>
                <span>
                  <b>{r.class_name}</b>, {r.minutes} minutes
                  <br />
                  <span className="text-sm text-soft">
                    {new Date(r.created_at).toLocaleDateString('en-GB', {
                      weekday: 'short',
                      day: 'numeric',
                      month: 'short',
                    })}{' '}
                    · {r.taught ? '✓ taught' : 'not taught yet'}
                  </span>
                </span>
              </Link>
            </li>
          ))}
        </ul>
      </section>
    </div>
  )
}
