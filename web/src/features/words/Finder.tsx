import { useState, type ReactNode } from 'react'
import { callThen, mayI, useMe } from '../../api/shared'
import { Bridges } from '../../ui/Bridges'
import { Button, Inline, Input, Notice } from '../../ui/parts'
import { offerUndo } from '../../ui/undo'
import { useAddress } from '../../ui/useAddress'
import { useFound, useLook, useSend, useTakeBack, type Looked } from './api'
import { askedOf, askOf, limited, noLimits, plainFind, type Ask } from './model'
import { SoundPick, WordChip } from './parts'

const shapes = ['', 'VC', 'CV', 'CVC', 'CCVC', 'CVCC', 'CCVCC', 'CVCVC']

type Props = { kind: 'words' | 'made-up'; classId: string; next: string; pick: ReactNode }

/** The finder is a sentence whose italic parts are controls. */
export function Finder({ kind, classId, next, pick }: Props) {
  const me = useMe()
  const made = kind === 'made-up'
  const [asked, setAsked] = useAddress(plainFind)
  const ask = askOf(asked, { class: classId, next, made })
  const found = useFound(kind, ask)
  const send = useSend(ask.card)
  const takeBack = useTakeBack(ask.card)
  const refuse = (word: string) => {
    const words = { words: [word], list: 'rejected' as const }
    callThen(send, words, () => offerUndo(`“${word}” is refused for the whole team.`, () => takeBack.mutate(words)))
  }
  const change = (part: Partial<Ask>) => setAsked(askedOf(part))
  const edits = !made && ask.card !== '' && mayI(me.data?.rights, 'edit')
  const [more, setMore] = useState(limited(asked))
  const near = found.data?.near ?? []
  return (
    <div className="flex flex-col gap-4">
      <p className="flex flex-wrap items-center gap-x-2 text-xl">
        <span>{made ? 'Made-up words with' : 'Words with'}</span>
        <SoundPick value={ask.card} onChange={(card) => change({ card })} none="any taught sound" />
        {!made && (
          <Inline
            aria-label="Place"
            value={ask.position}
            onChange={(e) => change({ position: e.target.value as Ask['position'] })}
          >
            <option value="any">at any place,</option>
            <option value="initial">at the start,</option>
            <option value="medial">in the middle,</option>
            <option value="final">at the end,</option>
          </Inline>
        )}
        {made && (
          <>
            <span>shaped</span>
            <ShapePick made value={ask.frame} onChange={(frame) => change({ frame })} />
          </>
        )}
        <span>that</span>
        {pick}
        <span>can read{!made && more && ','}</span>
        {!made && more && <MoreLimits ask={ask} change={change} />}
        {made ? (
          <Button onClick={() => change({ seed: ask.seed + 1 })}>Others</Button>
        ) : (
          <Button
            look="quiet"
            aria-expanded={more}
            onClick={() => {
              setMore(!more)
              if (more) change(noLimits)
            }}
          >
            {more ? 'fewer limits' : 'more limits'}
          </Button>
        )}
      </p>
      {!made && <LookUp classId={classId} card={ask.card} />}
      {found.error && <Notice kind="wrong">{found.error.message}</Notice>}
      {send.error && <Notice kind="wrong">{send.error.message}</Notice>}
      {found.data?.note && <Notice>{found.data.note}</Notice>}
      {found.data && found.data.total > 0 && (
        <p className="text-sm text-soft">
          {found.data.total} found, the best first. A tap picks a word
          {edits && '; what else can be done is behind its ⋯'}.
        </p>
      )}
      <ul className="flex flex-wrap gap-2.5">
        {found.data?.words.map((w) => (
          <li key={w.word}>
            <WordChip
              word={w}
              made={made}
              onTake={edits ? () => send.mutate({ words: [w.word], list: 'words' }) : undefined}
              onRefuse={edits ? () => refuse(w.word) : undefined}
            />
          </li>
        ))}
      </ul>
      {near.length > 0 && (
        <section>
          <h2 className="font-bold">Not yet: one sound is missing</h2>
          {found.data?.most && (
            <p className="mt-1 text-lg">
              <b className="font-child text-2xl">{found.data.most.pair.grapheme}</b> (step {found.data.most.step}) alone
              would unlock {found.data.most.words} more words:{' '}
              <span className="font-child">{found.data.most.best.join(', ')}</span>.
            </p>
          )}
          <ul className="mt-2 flex flex-wrap gap-x-6 gap-y-1 text-lg">
            {near.map((n) => (
              <li key={n.word}>
                <span className="font-child">{n.word}</span>{' '}
                <span className="text-sm text-soft">
                  {n.missing.map((m) => `${m.pair.grapheme} comes in step ${m.step}`).join(', ')}
                </span>
              </li>
            ))}
          </ul>
        </section>
      )}
    </div>
  )
}

function ShapePick({
  value,
  made = false,
  onChange,
}: {
  value: string
  made?: boolean
  onChange: (v: string) => void
}) {
  return (
    <Inline aria-label="Shape" value={value} onChange={(e) => onChange(e.target.value)}>
      {shapes
        .filter((s) => !made || (s && s !== 'CVCVC'))
        .map((s) => (
          <option key={s} value={s}>
            {made ? s : s ? `shaped ${s},` : 'of any shape,'}
          </option>
        ))}
    </Inline>
  )
}

/** Limits that are seldom wanted. */
function MoreLimits({ ask, change }: { ask: Ask; change: (p: Partial<Ask>) => void }) {
  return (
    <>
      <ShapePick value={ask.frame} onChange={(frame) => change({ frame })} />
      <Inline
        aria-label="Number of sounds"
        value={ask.sounds}
        onChange={(e) => change({ sounds: Number(e.target.value) })}
      >
        <option value={0}>of any number of sounds,</option>
        {[2, 3, 4, 5, 6].map((n) => (
          <option key={n} value={n}>
            of {n} sounds,
          </option>
        ))}
      </Inline>
      <Inline
        aria-label="Syllables"
        value={ask.syllables}
        onChange={(e) => change({ syllables: Number(e.target.value) })}
      >
        <option value={0}>in any number of beats,</option>
        <option value={1}>in one beat,</option>
        <option value={2}>in two beats,</option>
        <option value={3}>in three beats,</option>
      </Inline>
      <Inline
        aria-label="How well known"
        value={ask.familiarity}
        onChange={(e) => change({ familiarity: Number(e.target.value) })}
      >
        <option value={0}>that children know,</option>
        <option value={1}>rare ones too,</option>
        <option value={5}>that every child knows,</option>
      </Inline>
      <Inline
        aria-label="Picture"
        value={ask.pictures ? 'yes' : ''}
        onChange={(e) => change({ pictures: e.target.value !== '' })}
      >
        <option value="">with or without a picture,</option>
        <option value="yes">with a picture,</option>
      </Inline>
      <Inline
        aria-label="Words that sound alike"
        value={ask.no_homophones ? 'no' : ''}
        onChange={(e) => change({ no_homophones: e.target.value !== '' })}
      >
        <option value="">sound-alikes too</option>
        <option value="no">none that sounds like another</option>
      </Inline>
    </>
  )
}

const plainLook = { word: '' }

/** Any word: may it be used, and why or why not. */
function LookUp({ classId, card }: { classId: string; card: string }) {
  const [{ word }, change] = useAddress(plainLook)
  const [text, setText] = useState(word)
  const look = useLook(classId, card, word)
  return (
    <form
      className="flex flex-wrap items-center gap-3"
      onSubmit={(e) => {
        e.preventDefault()
        change({ word: text.trim() })
      }}
    >
      <label className="flex items-center gap-2 text-xl">
        May I use
        <Input
          value={text}
          maxLength={30}
          onChange={(e) => setText(e.target.value)}
          placeholder="any word"
          aria-invalid={Boolean(look.error)}
          aria-describedby="look-answer"
          className="max-w-44 font-child text-xl!"
        />
        ?
      </label>
      <Button type="submit">Look</Button>
      <span id="look-answer" role="status" className="flex items-center gap-3 text-lg">
        {look.error && <b className="text-brick">! {look.error.message}</b>}
        {look.data && !look.error && (
          <>
            <span className="text-2xl">
              <Bridges word={look.data.word} bits={look.data.found.bits} />
            </span>
            <b className={look.data.may ? 'text-leaf' : 'text-brick'}>{look.data.may ? '✓ yes' : '× not now'}</b>{' '}
            {look.data.why}
          </>
        )}
      </span>
      {look.data && !look.error && <Spelled look={look.data} />}
    </form>
  )
}

/** Why the word is spelled so, and what else its sounds allow: right sounds, another spelling. */
function Spelled({ look }: { look: Looked }) {
  const why = look.why_here
  const tries = look.tries
  if (why.length + tries.length === 0) return null
  return (
    <div className="grid w-full gap-x-8 gap-y-2 md:grid-cols-2">
      {why.length > 0 && (
        <section aria-label="Why here">
          <h2 className="text-sm font-bold">Why here</h2>
          <ul className="text-lg">
            {why.map((h, i) => (
              <li key={i}>
                <b className="font-child">{h.grapheme}</b> {h.why}
              </li>
            ))}
          </ul>
        </section>
      )}
      {tries.length > 0 && (
        <section aria-label="Good tries">
          <h2 className="text-sm font-bold">Good tries: right sounds, another spelling</h2>
          <ul className="text-lg">
            {tries.map((t) => (
              <li key={t.shown}>
                <span className="font-child">{t.shown}</span>{' '}
                <span className="text-sm text-soft">
                  {t.grapheme} for {t.instead}; {Math.round(t.share * 100)} % of this sound;{' '}
                  {t.taught ? 'taught' : 'not taught yet'}
                  {t.is_word ? '; another word is spelled so' : ''}
                </span>
              </li>
            ))}
          </ul>
        </section>
      )}
    </div>
  )
}
