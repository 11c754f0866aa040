import { asIn } from '../../ui/pair'
import { Link } from '@tanstack/react-router'
import { useState } from 'react'
import { Button, Failed, Heading, Key, LinkButton, Notice, Progress, Waiting, Check } from '../../ui/parts'
import { verdictWords, type Verdict } from '../../ui/takes/model'
import { playInTurn } from '../../ui/takes/play'
import { useKeys } from '../../ui/useKeys'
import { useAgreement, useHear, useListening, useUnhear, type Heard, type ListenerPair, type Listening } from './api'

const hearingKeys = { p: 'play', y: 'pure', n: 'not pure', u: 'take back what was said last' }
const recorded = (takeId: string) => `/api/takes/${takeId}/sound`

/** Leads hear takes without a verdict beside them; how far they agree with each other and with the check is counted. */
export function Hearing({ mayExport }: { mayExport: boolean }) {
  const list = useListening()
  if (list.error && !list.data) return <Failed error={list.error} />
  if (!list.data) return <Waiting what="Laying the takes out …" />
  if (list.data.takes.length === 0) return <Notice>No take yet. Record the first one beside this tab.</Notice>
  return (
    <div className="flex flex-col gap-7">
      <Listen list={list.data} />
      <Agreement faults={list.data.faults} mayExport={mayExport} />
    </div>
  )
}

function Listen({ list }: { list: Listening }) {
  const hear = useHear()
  const unhear = useUnhear()
  const [back, setBack] = useState<string[]>([])
  const [at, setAt] = useState<string>()
  const left = list.takes.filter((t) => !t.mine)
  const take = list.takes.find((t) => t.take_id === at) ?? left[0]
  const [draft, setDraft] = useState<{ takeId: string; why: string[] }>()
  const why = draft && draft.takeId === take?.take_id ? draft.why : undefined
  const say = (heard: Heard) => {
    if (!take) return
    const takeId = take.take_id
    hear.mutate({ takeId, heard }, { onSuccess: () => setBack((b) => [...b.filter((x) => x !== takeId), takeId]) })
    setAt(undefined)
    setDraft(undefined)
  }
  const play = () => (take ? void playInTurn(recorded(take.take_id)) : false)
  const last = back[back.length - 1]
  const undo = last
    ? () => {
        unhear.mutate(last)
        setBack((b) => b.slice(0, -1))
        setAt(last)
      }
    : undefined
  const root = useKeys(
    {
      p: play,
      y: take && !why ? () => say({ pure: true, why: [] }) : undefined,
      n: take && !why ? () => setDraft({ takeId: take.take_id, why: [] }) : undefined,
      u: undo,
    },
    { says: hearingKeys },
  )
  const done = list.takes.length - left.length
  return (
    <section ref={root} className="flex flex-col gap-4">
      <Heading level={2}>Is it pure?</Heading>
      <p>
        You hear takes in an order of your own, without a name or a verdict. What you say changes nothing in the
        library; it shows how far ears and the check agree.
      </p>
      <div className="flex items-center gap-3">
        <Progress value={done} most={list.takes.length} label="Takes heard" />
        {done} of {list.takes.length} heard
      </div>
      {take ? (
        <div className="flex flex-wrap items-center gap-6 rounded-lg border-2 border-ink bg-sheet p-6">
          <p className="min-w-28 text-center">
            <span className="block font-child text-7xl leading-tight font-bold">{take.pair.grapheme}</span>
            <span className="text-xl">{asIn(take)}</span>
          </p>
          <Button look="main" onClick={play} className="text-xl">
            <span aria-hidden>▶</span> Play <Key>p</Key>
          </Button>
          {why ? (
            <fieldset className="flex min-w-72 flex-1 flex-col gap-2">
              <legend className="mb-1 font-bold">What is wrong with it?</legend>
              <div className="grid gap-x-6 sm:grid-cols-2">
                {list.faults.map((f) => (
                  <Check
                    key={f.code}
                    checked={why.includes(f.code)}
                    onChange={(e) =>
                      setDraft({
                        takeId: take.take_id,
                        why: e.target.checked ? [...why, f.code] : why.filter((c) => c !== f.code),
                      })
                    }
                  >
                    {f.text}
                  </Check>
                ))}
              </div>
              <div className="flex gap-3">
                <Button look="main" onClick={() => say({ pure: false, why })}>
                  Not pure, next
                </Button>
                <Button look="quiet" onClick={() => setDraft(undefined)}>
                  Back
                </Button>
              </div>
            </fieldset>
          ) : (
            <div className="flex flex-wrap gap-3">
              <Button className="min-w-36 text-xl" onClick={() => say({ pure: true, why: [] })}>
                <span aria-hidden>✓</span> Pure <Key>y</Key>
              </Button>
              <Button className="min-w-36 text-xl" onClick={() => setDraft({ takeId: take.take_id, why: [] })}>
                <span aria-hidden>×</span> Not pure <Key>n</Key>
              </Button>
            </div>
          )}
        </div>
      ) : (
        <Notice kind="good">You have heard every take.</Notice>
      )}
      {undo && (
        <p>
          <Button look="quiet" onClick={undo}>
            Take back what I said last <Key>u</Key>
          </Button>
        </p>
      )}
      {(hear.error ?? unhear.error) && <Notice kind="wrong">{(hear.error ?? unhear.error)?.message}</Notice>}
    </section>
  )
}

function Agreement({ faults, mayExport }: { faults: Listening['faults']; mayExport: boolean }) {
  const agreement = useAgreement()
  const pairs = agreement.data?.pairs ?? []
  if (pairs.length === 0) return null
  const text = (code: string) => faults.find((f) => f.code === code)?.text ?? code
  return (
    <section className="flex flex-col gap-3">
      <Heading level={2}>How far ears agree</Heading>
      <p>
        Kappa is 1 where two always say the same and 0 where they agree no more than by chance. Behind it stands the
        range that holds it with 95 % confidence: with few takes it is wide.
      </p>
      <ul className="grid gap-3 md:grid-cols-2">
        {pairs.map((p) => (
          <Pair key={`${p.a} ${p.b}`} pair={p} />
        ))}
      </ul>
      {(agreement.data?.divided.length ?? 0) > 0 && (
        <>
          <h3 className="text-xl font-bold">Takes to hear together</h3>
          <ul className="flex flex-col">
            {agreement.data?.divided.map((d) => (
              <li key={d.take_id} className="flex flex-wrap items-center gap-3 border-b border-line py-1">
                <b className="min-w-12 font-child text-3xl">{d.pair.grapheme}</b>
                <Button onClick={() => void playInTurn(recorded(d.take_id))}>
                  <span aria-hidden>▶</span> Play
                </Button>
                <span className="min-w-60 flex-1">
                  The check: {verdictWords[d.verdict as Verdict].text}.{' '}
                  {d.said
                    .map((s) => `${s.initials}: ${s.pure ? 'pure' : ['not pure', ...s.why.map(text)].join(', ')}`)
                    .join('. ')}
                  .
                </span>
                <Link
                  to="/cards/$cardId"
                  params={{ cardId: d.card_id }}
                  className="inline-flex min-h-11 items-center font-bold underline underline-offset-4"
                >
                  Its card
                </Link>
              </li>
            ))}
          </ul>
        </>
      )}
      {mayExport && (
        <p>
          <LinkButton href="/api/hearings.csv" download="hearings.csv">
            All that was heard, as a table (CSV)
          </LinkButton>
        </p>
      )}
    </section>
  )
}

const number = (v: number) => v.toFixed(2).replace('-', '−')

/** Kappa on a line from 0 to 1, with its range. */
function Pair({ pair }: { pair: ListenerPair }) {
  const at = (v: number) => `${Math.max(0, Math.min(1, v)) * 100}%`
  return (
    <li className="flex flex-col gap-2 rounded-lg border-2 border-line bg-sheet p-3">
      <p className="text-lg">
        <b>{pair.a}</b> and <b>{pair.b || 'the check'}</b>: {pair.word}
      </p>
      {pair.known && (
        <div aria-hidden className="relative mx-2 h-6">
          <span className="absolute inset-x-0 top-1/2 border-t-2 border-ink/40" />
          <span
            className="absolute top-1/2 h-2 -translate-y-1/2 rounded bg-sky"
            style={{ left: at(pair.low), right: `calc(100% - ${at(pair.high)})` }}
          />
          <span
            className="absolute top-1/2 size-5 -translate-1/2 rounded-full border-2 border-ink bg-marigold"
            style={{ left: at(pair.kappa) }}
          />
        </div>
      )}
      <p>
        {pair.takes} {pair.takes === 1 ? 'take' : 'takes'} heard by both, the same of {Math.round(pair.agree * 100)} %
        {pair.known && (
          <>
            ; kappa {number(pair.kappa)} ({number(pair.low)} to {number(pair.high)})
          </>
        )}
        .
      </p>
    </li>
  )
}
