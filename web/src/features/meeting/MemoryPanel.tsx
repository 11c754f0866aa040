import { Button, Heading, Notice } from '../../ui/parts'
import { useFit, useForgetFit, useMemory } from './api'
import { day } from './model'

/** How the classes forget: as usual, or as was fitted to the team's own logs, with the proof. */
export function MemoryPanel({ lead }: { lead: boolean }) {
  const memory = useMemory()
  const fit = useFit()
  const forget = useForgetFit()
  const m = memory.data
  if (!m) return null
  const enough = m.meetings >= m.needed
  const error = fit.error ?? forget.error
  return (
    <section className="flex max-w-4xl flex-col gap-2 print:hidden">
      <Heading level={2}>How our classes forget</Heading>
      {!m.fit && (
        <p>
          {enough
            ? `The usual memory is used. Your logs hold ${m.meetings} meetings, ${m.lapses} of them forgotten: enough to fit it to your classes.`
            : `The usual memory is used. Your logs hold ${m.meetings} of the ${m.needed} meetings from which on it can be fitted to your classes.`}
        </p>
      )}
      {m.fit && (
        <p>
          Fitted on {m.made_at && day(m.made_at)} to {m.fit.meetings} meetings, and tried on the {m.fit.held} latest,
          which took no part: their mean log-likelihood is <b>{m.fit.after.toFixed(3)}</b> by the fit and{' '}
          <b>{m.fit.before.toFixed(3)}</b> as usual; nearer to 0 is better.{' '}
          <b>{m.fit.better ? 'The fit is used.' : 'The fit is not better, so the usual memory stays.'}</b>
        </p>
      )}
      {error && <Notice kind="wrong">{error.message}</Notice>}
      {lead && (
        <div className="flex gap-3">
          <Button disabled={!enough || fit.isPending} onClick={() => fit.mutate()}>
            {fit.isPending ? 'Fitting …' : m.fit ? 'Fit it anew' : 'Fit it to our logs'}
          </Button>
          {m.fit && (
            <Button disabled={forget.isPending} onClick={() => forget.mutate()}>
              Back to the usual
            </Button>
          )}
        </div>
      )}
    </section>
  )
}
