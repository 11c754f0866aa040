import { Link, useParams } from '@tanstack/react-router'
import { useState, type ReactNode } from 'react'
import type { CardView, Content, Me } from '../../api/client'
import { mayI, useMe } from '../../api/shared'
import { Letter, isGroup } from '../../ui/Letter'
import { Button, Failed, Field, Heading, Input, LinkButton, Notice, Waiting, inputLook } from '../../ui/parts'
import { Booth } from '../../ui/takes/Booth'
import { PlayButton } from '../../ui/takes/PlayButton'
import { LetterOverPicture } from '../../ui/LetterOverPicture'
import { Writing } from '../../ui/Writing'
import { sendPicture, useCard, useMove, useSetState, useSpelling, useWritten } from './api'
import { fieldName } from './model'
import { useDraft, type Saving } from './useDraft'
import { Versions } from './Versions'
import { WordStock } from './WordStock'

export function CardPage() {
  const { cardId } = useParams({ from: '/cards/$cardId' })
  const card = useCard(cardId)
  const me = useMe()
  if (card.error && !card.data) return <Failed error={card.error} />
  if (!card.data || !me.data) return <Waiting what="Taking the card off its ledge …" />
  return <CardDesk key={cardId} card={card.data} me={me.data} />
}

const therapy =
  'Cues are for teaching, not for therapy. A child who does not hear or say a sound as others do after teaching goes your school’s usual way: hearing check, speech and language therapist.'

function CardDesk({ card, me }: { card: CardView; me: Me }) {
  const { draft, change, saving, conflict, resolve } = useDraft(card)
  const readOnly = !mayI(me.rights, 'edit')
  const written = useWritten(card.pair.grapheme)
  const error = (field: keyof Content) =>
    saving.kind === 'failed' && saving.error.problem.field?.endsWith(field)
      ? saving.error.message
      : card.findings?.find((f) => f.field === field)?.text
  const text = (
    field: keyof Content,
    label: string,
    options: { rows?: number; hint?: string; max: number; child?: boolean },
  ) => (
    <Field label={label} error={error(field)} {...(options.hint ? { hint: options.hint } : {})}>
      {(ids) => (
        <textarea
          {...ids}
          rows={options.rows ?? 1}
          maxLength={options.max}
          readOnly={readOnly}
          value={String(draft[field] ?? '')}
          onChange={(e) => change({ [field]: e.target.value })}
          className={`${inputLook} ${options.child ? 'font-child text-lg' : ''}`}
        />
      )}
    </Field>
  )
  return (
    <div className="mx-auto grid max-w-[1400px] gap-6 p-5 lg:grid-cols-[17rem_minmax(0,1fr)]">
      <aside className="flex flex-col gap-4 lg:sticky lg:top-4 lg:self-start">
        <div className="rounded-lg border-2 border-ink bg-sheet p-3 shadow-md">
          <Letter
            drawn={card.pair.grapheme.includes('-') ? undefined : written.data}
            grapheme={card.pair.grapheme}
            group={isGroup(card.kind)}
            className="mx-auto h-36"
          />
          <p className="text-center">
            {card.kind}, sound <b>/{card.pair.sound}/</b>
          </p>
          <p className="text-center text-sm text-soft">as in {draft.keyword || card.key_word}</p>
        </div>
        {card.take_id && (
          <PlayButton src={`/api/cards/${card.card_id}/sound?take=${card.take_id}`} label="Hear it" shortcut="h" />
        )}
        <SaveState saving={saving} readOnly={readOnly} />
        <StateButtons card={card} rights={me.rights ?? []} />
        {(card.gaps ?? []).length > 0 && (
          <div className="text-sm">
            <p className="font-bold">Still missing</p>
            <ul className="list-disc pl-5">
              {card.gaps?.map((g) => (
                <li key={g.part}>{g.text}</li>
              ))}
            </ul>
          </div>
        )}
        {mayI(me.rights, 'agree') ? (
          <Place key={card.step} card={card} />
        ) : (
          <p className="text-sm">Step {card.step} of the order</p>
        )}
        <nav aria-label="In the order" className="flex justify-between gap-2">
          {card.before ? (
            <Link
              to="/cards/$cardId"
              params={{ cardId: card.before }}
              className="flex min-h-11 items-center font-bold underline underline-offset-4"
            >
              ← before
            </Link>
          ) : (
            <span />
          )}
          {card.after && (
            <Link
              to="/cards/$cardId"
              params={{ cardId: card.after }}
              className="flex min-h-11 items-center font-bold underline underline-offset-4"
            >
              after →
            </Link>
          )}
        </nav>
        <Link
          to="/introductions"
          search={{ card: card.card_id }}
          className="inline-flex min-h-11 items-center justify-center rounded-lg bg-slate px-4 font-bold text-chalk"
        >
          Make an introduction
        </Link>
        <LinkButton href={`/api/cards.pdf?cards=${card.card_id}&layout=fold`} target="_blank">
          Print this card
        </LinkButton>
        <Versions cardId={card.card_id} readOnly={readOnly} onRestore={change} />
      </aside>
      <div className="flex min-w-0 flex-col gap-8">
        <h1 className="sr-only">Card {card.pair.grapheme}</h1>
        {conflict && (
          <div className="rounded-lg border-4 border-brick bg-coral/20 p-4">
            <p className="font-bold">
              {conflict.by} changed the {(conflict.fields ?? []).map(fieldName).join(', ')} while you were writing.
              Nothing of yours is lost: choose what stands.
            </p>
            {(conflict.fields ?? []).map((f) => (
              <div key={f} className="mt-2 grid gap-2 text-sm md:grid-cols-2">
                <p className="rounded bg-sheet p-2">
                  <b>Yours:</b> {String(draft[f as keyof Content] ?? '')}
                </p>
                <p className="rounded bg-sheet p-2">
                  <b>{conflict.by}:</b> {String(conflict.theirs.content[f as keyof Content] ?? '')}
                </p>
              </div>
            ))}
            <div className="mt-3 flex gap-3">
              <Button look="main" onClick={() => resolve('mine')}>
                Keep mine
              </Button>
              <Button onClick={() => resolve('theirs')}>Take theirs</Button>
            </div>
          </div>
        )}
        <Section title="Say it">
          <div className="flex flex-wrap gap-2 text-base">
            <Tag>{card.voiced ? 'voice on: the throat hums' : 'voice off: only breath'}</Tag>
            <Tag>{card.hold === 'stretch' ? 'can be stretched' : 'said short'}</Tag>
            <Tag>
              {card.place}, {card.manner}
            </Tag>
          </div>
          <Use pair={card.pair} />
          <div className="grid gap-4 md:grid-cols-2">
            <Field label="Accent of this card" error={error('accent')}>
              {(ids) => (
                <select
                  {...ids}
                  disabled={readOnly}
                  value={draft.accent ?? ''}
                  onChange={(e) => change({ accent: e.target.value as NonNullable<Content['accent']> })}
                  className={inputLook}
                >
                  <option value="">the team’s</option>
                  <option value="southern-british">Southern British</option>
                  <option value="northern-english">Northern English</option>
                  <option value="northern-english-strut">Northern English, cup and put apart</option>
                  <option value="general-american">General American</option>
                </select>
              )}
            </Field>
            {draft.accent && text('accent_note', 'Why it departs from the team’s accent', { max: 200 })}
          </div>
          <div className="grid gap-4 md:grid-cols-2">
            {text('mouth_cue', 'Mouth cue: lips, teeth, tongue, breath', { rows: 3, max: 400 })}
            {text('slip', 'The usual slip, and what to say', { rows: 3, max: 300 })}
          </div>
          {!readOnly && draft.mouth_cue === '' && card.suggested_cue !== '' && (
            <div className="flex flex-wrap items-center gap-3 text-sm">
              <span className="min-w-0 flex-1">Suggested: {card.suggested_cue}</span>
              <Button
                onClick={() =>
                  change({
                    mouth_cue: card.suggested_cue,
                    slip: draft.slip || card.suggested_slip,
                    contrast: draft.contrast || card.contrast,
                  })
                }
              >
                Use it
              </Button>
            </div>
          )}
          <Notice kind="care">{therapy}</Notice>
        </Section>
        <Section title="Record it">
          <Booth
            cardId={card.card_id}
            takeId={card.take_id}
            speakerName={me.name}
            mayRecord={mayI(me.rights, 'record')}
            mayChoose={mayI(me.rights, 'choose')}
          />
        </Section>
        <Section title="See it, do it">
          <div className="grid gap-5 md:grid-cols-[15rem_1fr]">
            <PictureField draft={draft} change={change} readOnly={readOnly} />
            <div className="flex flex-col gap-3">
              <Field label="Keyword" error={error('keyword')}>
                {(ids) => (
                  <Input
                    {...ids}
                    maxLength={40}
                    readOnly={readOnly}
                    value={draft.keyword}
                    className="max-w-60 font-child text-xl"
                    onChange={(e) => change({ keyword: e.target.value })}
                  />
                )}
              </Field>
              {text('rhyme', 'Rhyme', { rows: 2, max: 400, child: true })}
              {text('rhyme_short', 'Short form, for saying at once', { max: 120, child: true })}
              {text('action', 'Action', { rows: 2, max: 300 })}
            </div>
          </div>
        </Section>
        <Section title="Write it">
          <Written card={card} place={draft.place} />
          <div className="grid gap-4 md:grid-cols-2">
            {text('stroke_words', 'Words said while writing the small letter', { rows: 3, max: 400 })}
            {text('capital_words', 'Words for the capital', { rows: 3, max: 400 })}
          </div>
          {text('materials', 'Tray or material, if this sound wants a special one', { max: 200 })}
          <Notice kind="care">
            Trays: check allergies first, nothing in mouths, noses or ears, wash hands. Your school’s own rules come
            first.
          </Notice>
        </Section>
        <Section title="Words">
          <WordStock cardId={card.card_id} draft={draft} change={change} readOnly={readOnly} />
        </Section>
        <Section title="Sentence">
          <Lines
            label="Sentences, one a line"
            value={draft.sentences ?? []}
            readOnly={readOnly}
            onChange={(sentences) => change({ sentences })}
          />
          <Lines
            label="Exception words taught with this sound, one a line"
            value={draft.exceptions ?? []}
            readOnly={readOnly}
            onChange={(exceptions) => change({ exceptions })}
          />
        </Section>
        <Section title="Notes">{text('notes', 'For the team', { rows: 4, max: 4000 })}</Section>
      </div>
    </div>
  )
}

function Section({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="flex flex-col gap-4">
      <Heading level={2}>{title}</Heading>
      {children}
    </section>
  )
}

/** The letter as the hand writes it, beside the picture that it is laid over. */
function Written({ card, place }: { card: CardView; place: Content['place'] }) {
  const text = card.pair.grapheme
  const written = useWritten(text).data
  if (!written) return null
  return (
    <div className="flex flex-wrap items-center gap-6">
      <Writing written={written} className="h-44 rounded-lg border-2 border-line bg-sheet" />
      {place && card.content.picture && (
        <LetterOverPicture
          src={`/api/pictures/${card.content.picture}`}
          alt={card.content.picture_alt}
          written={written}
          place={place}
          className="w-44 border-2 border-line"
        />
      )}
      <Link
        to="/letters"
        search={{ text }}
        className="inline-flex min-h-11 items-center rounded-lg border-2 border-ink/70 bg-sheet px-4 font-bold hover:bg-marigold/25"
      >
        To the letter desk
      </Link>
    </div>
  )
}

/** How common the pair is, where it stands in words, and with which. */
function Use({ pair }: { pair: CardView['pair'] }) {
  const row = useSpelling(pair).data
  if (!row) return null
  const share = (n: number) => `${Math.round(n * 100)} %`
  return (
    <p>
      <b>{row.types} words</b> have it: {share(row.start)} at the start, {share(row.middle)} inside, {share(row.end)} at
      the end; as in <span className="font-child text-lg">{row.examples?.join(', ')}</span>.{' '}
      {row.weighted < 0.995 && (
        <span>
          <span className="font-child">{pair.grapheme}</span> says this in {share(row.weighted)} of its words.
        </span>
      )}
    </p>
  )
}

function Place({ card }: { card: CardView }) {
  const move = useMove(card.card_id)
  const [step, setStep] = useState(card.step)
  return (
    <form
      className="flex items-end gap-2"
      onSubmit={(e) => {
        e.preventDefault()
        move.mutate(step)
      }}
    >
      <div className="min-w-0 flex-1">
        <Field label="Step in the order" error={move.error?.message}>
          {(ids) => (
            <Input {...ids} type="number" min={1} value={step} onChange={(e) => setStep(e.target.valueAsNumber || 1)} />
          )}
        </Field>
      </div>
      {step !== card.step && (
        <Button type="submit" disabled={move.isPending}>
          Move
        </Button>
      )}
    </form>
  )
}

const Tag = ({ children }: { children: ReactNode }) => (
  <span className="rounded-full border-2 border-ink/60 bg-sheet px-3 py-0.5">{children}</span>
)

function SaveState({ saving, readOnly }: { saving: Saving; readOnly: boolean }) {
  if (readOnly) return <Notice>You may read this card and record takes; teachers change it.</Notice>
  const words = { saved: '✓ Saved', typing: '… Typing', saving: '↑ Saving', failed: '! Not saved' }[saving.kind]
  return (
    <div
      role="status"
      data-saving={saving.kind}
      className={`rounded-md px-3 py-2 font-bold ${saving.kind === 'failed' ? 'bg-coral/40 text-brick' : saving.kind === 'saved' ? 'bg-mint/40' : 'bg-marigold/30'}`}
    >
      {words}
      {saving.kind === 'failed' && <p className="text-sm font-normal">{saving.error.message}</p>}
    </div>
  )
}

function StateButtons({ card, rights }: { card: CardView; rights: readonly string[] }) {
  const set = useSetState(card.card_id)
  if (!mayI(rights, 'edit')) return <p className="font-bold">This card is {card.state}.</p>
  return (
    <div className="flex flex-col gap-2">
      <p>
        This card is <b>{card.state}</b>
        {card.agreed_version > 0 && card.state !== 'agreed' && (
          <span className="text-sm"> · introductions use agreed version {card.agreed_version}</span>
        )}
      </p>
      {card.state === 'draft' && <Button onClick={() => set.mutate('in review')}>Ask for review</Button>}
      {card.state !== 'agreed' && mayI(rights, 'agree') && (
        <Button onClick={() => set.mutate('agreed')}>Agree this card ✓</Button>
      )}
      {card.state === 'in review' && <Button onClick={() => set.mutate('draft')}>Back to draft</Button>}
      {set.error && <Notice kind="wrong">{set.error.message}</Notice>}
    </div>
  )
}

function PictureField({
  draft,
  change,
  readOnly,
}: {
  draft: Content
  change: (p: Partial<Content>) => void
  readOnly: boolean
}) {
  const [said, setSaid] = useState<{ text: string; wrong: boolean }>()
  const send = async (file: File | undefined) => {
    if (!file) return
    try {
      const { picture, remarks } = await sendPicture(file)
      change({ picture })
      setSaid(remarks.length ? { text: remarks.join(' '), wrong: false } : undefined)
    } catch (e) {
      setSaid({ text: e instanceof Error ? e.message : 'The picture could not be sent.', wrong: true })
    }
  }
  return (
    <div className="flex flex-col gap-2">
      {draft.picture ? (
        <img
          src={`/api/pictures/${draft.picture}`}
          alt={draft.picture_alt}
          className="w-full rounded-lg border-2 border-line"
        />
      ) : (
        <div className="flex aspect-square items-center justify-center rounded-lg border-2 border-dashed border-ink/50 text-soft">
          needs a picture
        </div>
      )}
      {!readOnly && (
        <label className="inline-flex min-h-11 items-center justify-center rounded-lg border-2 border-ink/70 bg-sheet px-4 font-bold focus-within:outline-3">
          {draft.picture ? 'Another picture' : 'Add a picture'}
          <input
            type="file"
            accept="image/png,image/jpeg,image/svg+xml"
            className="sr-only"
            onChange={(e) => void send(e.target.files?.[0])}
          />
        </label>
      )}
      {said && <Notice kind={said.wrong ? 'wrong' : 'plain'}>{said.text}</Notice>}
      <Field label="The picture in words">
        {(ids) => (
          <textarea
            {...ids}
            rows={2}
            maxLength={300}
            readOnly={readOnly}
            value={draft.picture_alt}
            onChange={(e) => change({ picture_alt: e.target.value })}
            className={`${inputLook} text-sm`}
          />
        )}
      </Field>
    </div>
  )
}

function Lines({
  label,
  value,
  onChange,
  readOnly,
}: {
  label: string
  value: string[]
  onChange: (lines: string[]) => void
  readOnly: boolean
}) {
  const [text, setText] = useState(value.join('\n'))
  const [seen, setSeen] = useState(value.join('\n'))
  if (value.join('\n') !== seen) {
    setSeen(value.join('\n'))
    const typed = text
      .split('\n')
      .map((l) => l.trim())
      .filter(Boolean)
      .join('\n')
    if (typed !== value.join('\n')) setText(value.join('\n'))
  }
  return (
    <Field label={label}>
      {(ids) => (
        <textarea
          {...ids}
          rows={Math.max(2, value.length + 1)}
          readOnly={readOnly}
          value={text}
          onChange={(e) => {
            setText(e.target.value)
            onChange(
              e.target.value
                .split('\n')
                .map((l) => l.trim())
                .filter(Boolean),
            )
          }}
          className={`${inputLook} font-child text-lg`}
        />
      )}
    </Field>
  )
}
