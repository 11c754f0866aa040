import { Link } from '@tanstack/react-router'
import { isOpen, useBegin, useJobs } from '../../api/jobs'
import { JobProgress } from '../../ui/jobs/JobProgress'
import { Button, Heading, Notice } from '../../ui/parts'
import { verdictWords, type Verdict } from '../../ui/takes/model'

/** One press judges every take of the library anew, and says which verdicts are others now, and why. */
export function Renew() {
  const begin = useBegin()
  const job = useJobs().data?.find((j) => j.kind === 'renew' && j.state !== 'stopped')
  const renewed = job?.renewed
  const changed = renewed?.changed ?? []
  const word = (v: string) => verdictWords[v as Verdict].text
  const goesOn = job !== undefined && isOpen(job)
  return (
    <section className="flex flex-col gap-3">
      <Heading level={2}>Judge all takes again</Heading>
      <p>After the check has learned something. What is chosen stays chosen, and no card loses its state by it.</p>
      <div className="flex flex-wrap items-center gap-3">
        <Button disabled={begin.isPending || goesOn} onClick={() => begin.mutate({ kind: 'renew' })}>
          Judge them all again
        </Button>
        {goesOn && <JobProgress job={job} />}
      </div>
      {begin.error && <Notice kind="wrong">{begin.error.message}</Notice>}
      {job?.state === 'failed' && <Notice kind="wrong">{job.said}</Notice>}
      {renewed && changed.length === 0 && (
        <Notice kind="good">{renewed.judged} takes judged: every verdict is as it was.</Notice>
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
