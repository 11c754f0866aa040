import { Link } from '@tanstack/react-router'
import { useState } from 'react'
import { Button, Heading, Notice, Progress } from '../../ui/parts'
import { useRenewVerdicts } from '../../ui/takes/api'
import { verdictWords, type Verdict } from '../../ui/takes/model'

/** One press judges every take of the library anew, and says which verdicts are others now, and why. */
export function Renew() {
  const [done, setDone] = useState<[judged: number, all: number]>([0, 0])
  const renew = useRenewVerdicts((judged, all) => setDone([judged, all]))
  const changed = renew.data?.changed ?? []
  const word = (v: string) => verdictWords[v as Verdict].text
  return (
    <section className="flex flex-col gap-3">
      <Heading level={2}>Judge all takes again</Heading>
      <p>After the check has learned something. What is chosen stays chosen, and no card loses its state by it.</p>
      <div className="flex flex-wrap items-center gap-3">
        <Button disabled={renew.isPending} onClick={() => renew.mutate()}>
          Judge them all again
        </Button>
        {renew.isPending && (
          <div className="flex items-center gap-3" role="status">
            <Progress value={done[0]} most={done[1]} label="Takes judged" />
            {done[0]} of {done[1]}
          </div>
        )}
      </div>
      {renew.error && <Notice kind="wrong">{renew.error.message}</Notice>}
      {renew.data && changed.length === 0 && (
        <Notice kind="good">{renew.data.judged} takes judged: every verdict is as it was.</Notice>
      )}
      {changed.length > 0 && (
        <ul className="flex flex-col gap-2">
          {changed.map((t) => (
            <li key={t.take_id} className="flex flex-wrap items-center gap-3 border-b border-line py-1">
              <b className="min-w-12 font-child text-3xl">{t.pair.grapheme}</b>
              <span className="min-w-0 flex-1">
                <b>
                  {word(t.before)} → {word(t.after)}
                </b>
                {t.chosen && ', the card’s sound'}: {t.why}
              </span>
              <Link
                to="/cards/$cardId"
                params={{ cardId: t.card_id }}
                className="inline-flex min-h-11 items-center font-bold underline underline-offset-4"
              >
                Look at it
              </Link>
            </li>
          ))}
        </ul>
      )}
    </section>
  )
}
