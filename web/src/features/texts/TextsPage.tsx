import { asIn } from '../../ui/pair'
import { offerUndo } from '../../ui/undo'
import { useDeferredValue, useState } from 'react'
import { callThen, mayI, useChosenClass, useClass, useMe, useWall } from '../../api/shared'
import { Button, Failed, Heading, Inline, Notice, Waiting, inputLook } from '../../ui/parts'
import { SendTo } from '../../ui/SendTo'
import { useBank, useCheck, useChop, useDrop, useKeep, useMade } from './api'
import { Checked } from './Checked'
import { kindOf } from './model'
import { useTextInAddress } from './useTextInAddress'

/** Sentences and pages: what of them can be read, and the team's bank. */
export function TextsPage() {
  const { classes, classId, name, choose } = useChosenClass()
  const [text, setText] = useTextInAddress()
  if (classes.error && !classes.data) return <Failed error={classes.error} />
  if (!classes.data) return <Waiting what="Opening the texts …" />
  return (
    <div className="mx-auto flex max-w-[1300px] flex-col gap-8 p-5">
      <h1 className="sr-only">Texts</h1>
      {classId === '' && (
        <Notice>Make a class under “Team” first: what can be read depends on what it has been taught.</Notice>
      )}
      <Check
        classId={classId}
        className={name}
        text={text}
        setText={setText}
        pick={
          <Inline aria-label="Class" value={classId} onChange={(e) => choose(e.target.value)}>
            {classes.data.map((c) => (
              <option key={c.class_id} value={c.class_id}>
                {c.name}
              </option>
            ))}
          </Inline>
        }
      />
      <div className="grid grid-cols-1 gap-8 lg:grid-cols-2">
        <Made key={classId} classId={classId} use={setText} />
        <Bank classId={classId} use={setText} />
      </div>
    </div>
  )
}

function Check({
  classId,
  className,
  text,
  setText,
  pick,
}: {
  classId: string
  className: string
  text: string
  setText: (t: string) => void
  pick: React.ReactNode
}) {
  const me = useMe()
  const late = useDeferredValue(text)
  const check = useCheck(classId, late)
  const keep = useKeep()
  const chop = useChop()
  const result = text.trim() && !check.error ? check.data : undefined
  const kind = result ? kindOf(result) : 'sentence'
  const change = (t: string) => {
    setText(t)
    keep.reset()
    chop.reset()
  }
  return (
    <section className="flex flex-col gap-4">
      <div className="flex flex-wrap items-center gap-2 text-xl">
        <label htmlFor="text-to-check">Can</label>
        {pick}
        <span>read this?</span>
      </div>
      <textarea
        id="text-to-check"
        rows={3}
        maxLength={20000}
        value={text}
        onChange={(e) => change(e.target.value)}
        placeholder="Type or paste a sentence or a page."
        className={`${inputLook} font-child text-2xl!`}
      />
      {check.error && text.trim() && <Notice kind="wrong">{check.error.message}</Notice>}
      {result && (
        <>
          <Checked result={result} />
          <div className="flex flex-wrap items-center gap-3">
            {mayI(me.data?.rights, 'edit') && (
              <Button disabled={keep.isPending} onClick={() => keep.mutate({ kind, body: text })}>
                Keep in the bank as a {kind}
              </Button>
            )}
            {kind === 'sentence' && <Button onClick={() => chop.mutate(text)}>Cut into pieces</Button>}
            {mayI(me.data?.rights, 'teach') && result.decodable === 1 && (
              <SendTo key={kind} classId={classId} className={className} values={[text.trim()]} kind={kind} />
            )}
          </div>
          {keep.error && <Notice kind="wrong">{keep.error.message}</Notice>}
          {keep.isSuccess && (
            <Notice kind="good">
              It is in the team’s bank now. The assembler offers it where a class can read it.
            </Notice>
          )}
          {chop.error && <Notice kind="wrong">{chop.error.message}</Notice>}
          {chop.data && (
            <div>
              <p className="text-sm text-soft">
                Cut here: the capital stays first, the full stop last, and no other order reads as a sentence. Read it
                once yourself.
              </p>
              <ul className="mt-2 flex flex-wrap gap-3">
                {chop.data.map((p, i) => (
                  <li key={i} className="border-2 border-dashed border-ink bg-sheet px-4 py-2 font-child text-3xl">
                    {p}
                  </li>
                ))}
              </ul>
            </div>
          )}
        </>
      )}
    </section>
  )
}

function Made({ classId, use }: { classId: string; use: (t: string) => void }) {
  const klass = useClass(classId)
  const wall = useWall()
  const [own, setOwn] = useState<string>()
  const [seed, setSeed] = useState(1)
  const card = own ?? klass.data?.next ?? ''
  const made = useMade(klass.data ? classId : '', card, seed)
  return (
    <section className="flex flex-col gap-3">
      <Heading level={2}>Made sentences</Heading>
      <p className="flex flex-wrap items-center gap-2 text-lg">
        with
        <Inline aria-label="Sound" value={card} onChange={(e) => setOwn(e.target.value)}>
          <option value="">any taught sound</option>
          {wall.data?.map((c) => (
            <option key={c.card_id} value={c.card_id}>
              {c.pair.grapheme} {asIn(c)}
            </option>
          ))}
        </Inline>
        <Button onClick={() => setSeed(seed + 1)}>Others</Button>
      </p>
      <Notice kind="care">Made by rule from words the class can read. Read each one before you use it.</Notice>
      {made.error && <Notice kind="wrong">{made.error.message}</Notice>}
      {made.data?.length === 0 && (
        <Notice>
          No sentence can be made with it yet: it needs a noun, a verb and a small word such as “a” or “the” that the
          class can read.
        </Notice>
      )}
      <ul className="flex flex-col">
        {made.data?.map((s) => (
          <li key={s.text} className="flex items-center gap-3 border-b border-line">
            <span className="flex-1 font-child text-2xl" title={s.because}>
              {s.text}
            </span>
            <Button look="quiet" onClick={() => use(s.text)} aria-label={`Use: ${s.text}`}>
              use
            </Button>
          </li>
        ))}
      </ul>
    </section>
  )
}

function Bank({ classId, use }: { classId: string; use: (t: string) => void }) {
  const bank = useBank(classId)
  const me = useMe()
  const drop = useDrop()
  return (
    <section className="flex flex-col gap-3">
      <Heading level={2}>The team’s bank</Heading>
      {bank.error && <Notice kind="wrong">{bank.error.message}</Notice>}
      {drop.error && <Notice kind="wrong">{drop.error.message}</Notice>}
      {bank.data?.length === 0 && (
        <Notice>
          Nothing is kept yet. Check a sentence or a page above and keep it: the assembler draws from here.
        </Notice>
      )}
      <ul className="flex flex-col">
        {bank.data?.map((b) => (
          <li key={b.text_id} className="flex items-center gap-3 border-b border-line py-1">
            <span className="w-24 shrink-0 text-sm">
              <b>{b.kind}</b>
              {classId && (
                <span className="block">{b.decodable === 1 ? '✓ readable' : `${Math.round(b.decodable * 100)} %`}</span>
              )}
            </span>
            <span className="min-w-0 flex-1">
              <span className={`font-child ${b.kind === 'page' ? 'line-clamp-2 text-lg' : 'text-2xl'}`}>{b.body}</span>
              {b.missing.length > 0 && <span className="block text-sm text-soft">not yet: {b.missing.join(', ')}</span>}
            </span>
            <Button look="quiet" onClick={() => use(b.body)} aria-label={`Use: ${b.body}`}>
              use
            </Button>
            {mayI(me.data?.rights, 'edit') && (
              <Button
                look="quiet"
                onClick={() =>
                  callThen(drop, { id: b.text_id, archived: true }, () =>
                    offerUndo(`Taken out of the bank: ${b.body}`, () =>
                      drop.mutate({ id: b.text_id, archived: false }),
                    ),
                  )
                }
                aria-label={`Take out: ${b.body}`}
              >
                take out
              </Button>
            )}
          </li>
        ))}
      </ul>
    </section>
  )
}
