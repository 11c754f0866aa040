import { useNavigate } from '@tanstack/react-router'
import { useState } from 'react'
import { useKept } from '../../api/useKept'
import { callThen, mayI, useMe } from '../../api/shared'
import { fieldName } from '../../ui/fields'
import { Button, Failed, Heading, Notice, Select, Waiting } from '../../ui/parts'
import { PlayButton } from '../../ui/takes/PlayButton'
import { fileOf, useBundle, useTakeBundle, type BundleView, type CardLine, type Parcel } from './api'
import {
  choiceOf,
  count,
  firstPicks,
  forAll,
  howOf,
  many,
  sorted,
  standings,
  sumOf,
  type How,
  type Picks,
} from './model'
import { Sign, TakeBar, Tick } from './parts'

/** A bundle of another team against the library: what is new, the same, different, and what is taken. */
export function BundleLook({ parcel }: { parcel: Parcel }) {
  const [done, setDone] = useState<string>()
  const view = useBundle(parcel.parcel_id, done === undefined)
  if (done !== undefined) return <Taken what={done} />
  if (view.error && !view.data) return <Failed error={view.error} />
  if (!view.data) return <Waiting what="Holding it against the library …" />
  return <Look view={view.data} onDone={setDone} />
}

function Taken({ what }: { what: string }) {
  const go = useNavigate()
  return (
    <div className="mx-auto flex max-w-3xl flex-col gap-4 p-6">
      <Notice kind="good">
        <span className="text-lg whitespace-pre-line">{what}</span>
      </Notice>
      <div className="flex gap-3">
        <Button look="main" onClick={() => void go({ to: '/' })}>
          To the library
        </Button>
        <Button onClick={() => void go({ to: '/audit' })}>Does it agree with itself?</Button>
      </div>
    </div>
  )
}

function Look({ view, onDone }: { view: BundleView; onDone: (what: string) => void }) {
  const me = useMe()
  const lead = mayI(me.data?.rights, 'agree')
  const take = useTakeBundle(view.parcel_id)
  const form = useKept<Picks>(`bundle ${view.parcel_id}`, firstPicks)
  const picks = form.value
  const set = (part: Partial<Picks>) => form.set({ ...picks, ...part })
  const choice = choiceOf(view, picks, lead)
  const sum = sumOf(view, choice)
  const send = () =>
    callThen(take, choice, (b) => {
      form.settle()
      const said = [
        b.added > 0 && many(b.added, 'card') + ' came',
        b.changed > 0 && many(b.changed, 'card') + ' changed, as drafts beside what is agreed',
        b.takes > 0 && many(b.takes, 'recording'),
        b.texts > 0 && many(b.texts, 'text'),
        b.letters > 0 && many(b.letters, 'letter'),
        b.pictures > 0 && many(b.pictures, 'picture'),
      ].filter(Boolean)
      onDone([said.join(', ') + '.', ...b.left.map((l) => `Left out: ${l}`)].join('\n'))
    })
  return (
    <div className="mx-auto flex max-w-5xl flex-col gap-6 p-4 pb-32 sm:p-6 sm:pb-32">
      <div>
        <Heading>From the library of {view.team || 'another team'}</Heading>
        <p className="pt-2 text-lg">
          {(['new', 'different', 'same', 'unfit'] as const)
            .filter((s) => count(view.cards, s) > 0)
            .map((s) => `${many(count(view.cards, s), 'card')} ${standings[s].word}`)
            .join(', ')}
          . What is agreed here stays in force; what you take of theirs is a draft until your team agrees.
        </p>
      </div>
      {view.findings.length > 0 && <Findings list={view.findings} />}
      <section className="flex flex-col gap-2">
        <div className="flex flex-wrap items-center gap-3">
          <Heading level={2}>Cards</Heading>
          <Button onClick={() => set({ how: forAll(view.cards, 'new') })}>Only new ones</Button>
          <Button onClick={() => set({ how: forAll(view.cards, 'gaps') })}>New ones, and fill our gaps</Button>
          <Button onClick={() => set({ how: forAll(view.cards, 'theirs') })}>All of theirs</Button>
          <Button look="quiet" onClick={() => set({ how: forAll(view.cards, 'none') })}>
            None
          </Button>
        </div>
        <ul className="divide-y divide-line">
          {sorted(view.cards).map((c) => (
            <Card
              key={c.id}
              parcel={view.parcel_id}
              line={c}
              how={howOf(c, picks)}
              onHow={(h) => set({ how: { ...picks.how, [c.id]: h } })}
            />
          ))}
        </ul>
      </section>
      <Rest view={view} picks={picks} set={set} lead={lead} />
      <TakeBar
        sum={sum && `Takes ${sum}.`}
        none="Nothing is chosen."
        busy={take.isPending}
        error={take.error?.message}
        label="Take it into our library"
        onTake={send}
      />
    </div>
  )
}

function Findings({ list }: { list: BundleView['findings'] }) {
  return (
    <Notice kind="care">
      <details>
        <summary className="min-h-11 cursor-pointer content-center text-base font-bold">
          {many(list.length, 'thing')} about this file stood out
        </summary>
        <ul className="list-disc pl-5 text-base">
          {list.slice(0, 100).map((f, i) => (
            <li key={i}>
              {f.text} <span className="text-soft">({f.where})</span>
            </li>
          ))}
        </ul>
      </details>
    </Notice>
  )
}

const ways: Record<How, string> = {
  leave: 'Keep ours',
  add: 'Add it',
  fill: 'Fill our gaps',
  take: 'Take theirs',
}

function Card({ parcel, line: c, how, onHow }: { parcel: string; line: CardLine; how: How; onHow: (h: How) => void }) {
  const offered: How[] =
    c.standing === 'new' ? ['add', 'leave'] : c.fills > 0 ? ['leave', 'fill', 'take'] : ['leave', 'take']
  const open = c.standing === 'new' || c.standing === 'different'
  return (
    <li className="flex flex-wrap items-center gap-x-4 gap-y-2 py-2 [contain-intrinsic-size:auto_80px] [content-visibility:auto]">
      <span className="w-20 font-child text-4xl font-bold">{c.pair.grapheme}</span>
      {c.picture !== '' && (
        <img
          src={fileOf(parcel, c.picture)}
          alt=""
          loading="lazy"
          className="size-16 rounded bg-white object-contain"
        />
      )}
      <div className="min-w-56 flex-1 text-lg">
        <Sign standing={c.standing} />
        <span className="font-bold">{c.keyword}</span>
        {c.why && <p className="text-base">{c.why}</p>}
        {c.speaker && <p className="text-base text-soft">spoken by {c.speaker}</p>}
        {c.fields.length > 0 && (
          <details>
            <summary className="min-h-11 cursor-pointer content-center text-base underline underline-offset-4">
              {many(c.fields.length, 'part')} unlike ours
            </summary>
            <dl className="grid gap-2 text-base sm:grid-cols-[9rem_1fr_1fr]">
              {c.fields.map((f) => (
                <div key={f.field} className="contents">
                  <dt className="font-bold first-letter:uppercase">{fieldName(f.field)}</dt>
                  <dd className="whitespace-pre-line">
                    <span className="text-soft">ours: </span>
                    {f.mine || 'nothing'}
                  </dd>
                  <dd className="whitespace-pre-line">
                    <span className="text-soft">theirs: </span>
                    {f.theirs || (f.field === 'picture' ? 'as you see' : 'nothing')}
                  </dd>
                </div>
              ))}
            </dl>
          </details>
        )}
      </div>
      {c.take !== '' && <PlayButton src={fileOf(parcel, c.take)} label="Listen" />}
      {open && (
        <Select
          aria-label={`What becomes of ${c.pair.grapheme}, ${c.keyword}`}
          value={how}
          onChange={(e) => onHow(e.target.value as How)}
        >
          {offered.map((w) => (
            <option key={w} value={w}>
              {c.standing === 'new' && w === 'leave' ? 'Leave it' : ways[w]}
              {w === 'fill' ? ` (${c.fills})` : ''}
            </option>
          ))}
        </Select>
      )}
    </li>
  )
}

function Rest({
  view,
  picks,
  set,
  lead,
}: {
  view: BundleView
  picks: Picks
  set: (part: Partial<Picks>) => void
  lead: boolean
}) {
  const texts = count(view.texts, 'new')
  const letters = count(view.letters, 'new') + count(view.letters, 'different')
  const pictures = count(view.pictures, 'new')
  const routines = count(view.routines, 'different')
  return (
    <section className="flex flex-col gap-1">
      <Heading level={2}>Beside the cards</Heading>
      {view.voices.length > 0 && (
        <Tick
          label={`Their recordings too: ${view.voices.join(', ')}`}
          hint="Only if that school told you that the speakers agree to be heard here. Where we have a sound, ours stays chosen."
          checked={picks.voices}
          onChange={(voices) => set({ voices })}
        />
      )}
      {texts > 0 && <Tick label={many(texts, 'new text')} checked={picks.texts} onChange={(t) => set({ texts: t })} />}
      {pictures > 0 && (
        <Tick
          label={many(pictures, 'new picture of a word', 'new pictures of words')}
          checked={picks.pictures}
          onChange={(p) => set({ pictures: p })}
        />
      )}
      {letters > 0 && (
        <Tick
          label={`How they write: ${view.letters
            .filter((l) => l.standing !== 'same')
            .map((l) => l.name)
            .join(', ')}`}
          checked={picks.letters}
          onChange={(l) => set({ letters: l })}
        />
      )}
      {lead && routines > 0 && (
        <Tick
          label={many(routines, 'routine') + ' of a lesson, in the place of ours'}
          checked={picks.routines}
          onChange={(r) => set({ routines: r })}
        />
      )}
      {lead && view.conventions.length > 0 && (
        <Tick
          label="What they agreed once, in the place of ours"
          hint={`It differs in: ${view.conventions.map((c) => c.name).join(', ')}.`}
          checked={picks.conventions}
          onChange={(c) => set({ conventions: c })}
        />
      )}
      {lead && view.cards.some((c) => c.standing === 'new' && c.agreed) && (
        <Tick
          label="New cards that they agreed are agreed here too"
          hint="Else they are drafts until your team agrees."
          checked={picks.asAgreed}
          onChange={(a) => set({ asAgreed: a })}
        />
      )}
      {view.class !== '' && <p>The log of the class {view.class} stands in the file; it stays there.</p>}
    </section>
  )
}
