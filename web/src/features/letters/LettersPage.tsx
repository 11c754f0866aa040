import { useNavigate, useSearch } from '@tanstack/react-router'
import { useState } from 'react'
import { callThen, mayI, useMe, useWall } from '../../api/shared'
import { Button, Failed, Heading, Inline, Input, Key, Notice, Waiting } from '../../ui/parts'
import { offerUndo } from '../../ui/undo'
import { RowMenu } from '../../ui/RowMenu'
import { useWriter } from '../../ui/useWriter'
import { Writing, type Hand } from '../../ui/Writing'
import { useKeys } from '../../ui/useKeys'
import { useCardOf, useLetterCalls, useLetters } from './api'
import { Editor } from './Editor'
import { signs } from './model'
import { PracticeSheet } from './PracticeSheet'
import { Overlay } from './Overlay'
import { StrokeWords } from './StrokeWords'

const hands: [Hand, string][] = [
  ['right', 'with a right hand'],
  ['left', 'with a left hand'],
  ['finger', 'with a finger'],
  ['none', 'with no hand'],
]

const letterKeys = {
  p: 'write it',
  w: 'write it slowly',
  n: 'the next stroke',
  a: 'the whole letter',
  m: 'mirrored, to face the class',
  h: 'what follows the pen',
}

/** The letter desk: every letter on the team's lines, stroke by stroke, with what is said. */
export function LettersPage() {
  const { text = 'a' } = useSearch({ from: '/letters' })
  const navigate = useNavigate()
  const wall = useWall()
  const me = useMe()
  const go = (t: string) => void navigate({ to: '/letters', search: { text: t }, replace: true })
  if (!wall.data || !me.data) return <Waiting what="Sharpening the chalk …" />
  const groups = wall.data.filter((c) => c.pair.grapheme.length > 1).map((c) => c.pair.grapheme)
  return (
    <div className="mx-auto grid max-w-[1400px] gap-6 p-5 lg:grid-cols-[17rem_minmax(0,1fr)]">
      <h1 className="sr-only">Letters</h1>
      <nav aria-label="Letters" className="flex flex-col gap-3">
        {[...signs, [...new Set(groups)]].map((row, i) => (
          <div key={i} className="flex flex-wrap gap-1">
            {row.map((s) => (
              <button
                key={s}
                type="button"
                aria-current={s === text}
                onClick={() => go(s)}
                className="h-11 min-w-9 rounded-md border-2 border-transparent px-1 font-child text-xl font-bold hover:border-line aria-[current=true]:border-ink aria-[current=true]:bg-marigold"
              >
                {s}
              </button>
            ))}
          </div>
        ))}
        <form
          onSubmit={(e) => {
            e.preventDefault()
            const t = new FormData(e.currentTarget).get('text')
            if (typeof t === 'string' && t.trim()) go(t.trim())
          }}
          className="flex gap-2"
        >
          <Input
            name="text"
            aria-label="Any letters or a word"
            placeholder="any word"
            maxLength={24}
            className="font-child"
          />
          <Button type="submit">Write</Button>
        </form>
      </nav>
      <Desk
        key={text}
        text={text}
        cardId={wall.data.find((c) => c.pair.grapheme === text.toLowerCase())?.card_id ?? ''}
        mayEdit={mayI(me.data.rights, 'edit')}
      />
    </div>
  )
}

function Desk({ text, cardId, mayEdit }: { text: string; cardId: string; mayEdit: boolean }) {
  const card = useCardOf(cardId)
  const upper = text !== text.toLowerCase()
  const field = upper ? 'capital_words' : 'stroke_words'
  const own = (card.data?.content[field] ?? '').split('\n').filter(Boolean)
  const letters = useLetters(text, own)
  const calls = useLetterCalls()
  const [mirrored, setMirrored] = useState(false)
  const [editing, setEditing] = useState(false)
  const [hand, setHand] = useState<Hand>('right')
  const writer = useWriter(letters.data)
  const root = useKeys(
    {
      p: () => writer.play(),
      w: () => writer.play(3),
      n: writer.step,
      a: writer.all,
      m: () => setMirrored((v) => !v),
      h: () => setHand((v) => hands[(hands.findIndex(([id]) => id === v) + 1) % hands.length]![0]),
    },
    { says: letterKeys },
  )
  if (letters.error) return <Failed error={letters.error} />
  if (!letters.data) return <Waiting what="Writing it …" />
  const v = letters.data
  const reset = () =>
    callThen(calls.reset, text, () => {
      const own = v.letter
      if (own) offerUndo(`The team’s own ${text} is put aside.`, () => calls.save.mutate(own))
    })
  const more = [
    { name: 'Show the whole letter', hint: 'a', run: writer.all },
    ...(mayEdit && v.letter ? [{ name: 'Draw it differently', run: () => setEditing(true) }] : []),
    ...(mayEdit && v.own ? [{ name: 'Back to the form that ships', run: reset }] : []),
  ]
  const now = v.strokes[Math.max(0, writer.at)]
  return (
    <div ref={root} className="flex min-w-0 flex-col gap-5">
      {editing && v.letter ? (
        <Editor letter={v.letter} lines={v.lines} onClose={() => setEditing(false)} />
      ) : (
        <>
          <div className="flex flex-col items-center gap-2 rounded-lg border-2 border-ink bg-sheet p-3 shadow-md">
            <Writing
              written={v}
              writer={writer}
              hand={hand}
              mirrored={mirrored}
              names={text.length < 5}
              className="h-[46vh] max-w-full"
            />
            <p role="status" className="min-h-16 max-w-3xl text-center font-child text-2xl leading-snug">
              {writer.at >= 0 ? `${writer.at + 1}. ${now?.brief}` : 'Press p and say the words with the pen.'}
            </p>
          </div>
          <div className="flex flex-wrap items-center justify-center gap-3">
            <Button look="main" className="px-6 text-lg" onClick={() => writer.play()}>
              ▶ Write it <Key>p</Key>
            </Button>
            <Button onClick={() => writer.play(3)}>
              Slowly <Key>w</Key>
            </Button>
            <Button onClick={writer.step}>
              Next stroke <Key>n</Key>
            </Button>
            <Button
              aria-pressed={mirrored}
              onClick={() => setMirrored(!mirrored)}
              className={mirrored ? 'bg-marigold' : ''}
            >
              Mirrored <Key>m</Key>
            </Button>
            <label>
              <Inline aria-label="What follows the pen" value={hand} onChange={(e) => setHand(e.target.value as Hand)}>
                {hands.map(([id, label]) => (
                  <option key={id} value={id}>
                    {label}
                  </option>
                ))}
              </Inline>{' '}
              <Key>h</Key>
            </label>
            <PracticeSheet text={text} />
            <RowMenu label="More for this letter" actions={more} />
          </div>
          {v.findings.map((f) => (
            <Notice key={f.text} kind="wrong">
              {f.stroke >= 0 && `Stroke ${f.stroke + 1}: `}
              {f.text}
            </Notice>
          ))}
          {v.group && <Notice>Letters of a group are written side by side and underlined: one line, one sound.</Notice>}
        </>
      )}
      {card.data && (text.length === 1 || !upper) && (
        <StrokeWords
          key={`${card.data.version}-${v.strokes.length}`}
          card={card.data}
          field={field}
          byRule={v.by_rule}
          count={v.strokes.length}
          mayEdit={mayEdit}
        />
      )}
      {!card.data && (
        <section className="flex flex-col gap-2">
          <Heading level={2}>What is said</Heading>
          <ol className="list-decimal pl-8 font-child text-xl">
            {v.strokes.map((s, i) => (
              <li key={i}>{s.words}</li>
            ))}
          </ol>
        </section>
      )}
      {card.data && !upper && card.data.content.picture && (
        <Overlay key={`o${card.data.version}`} card={card.data} written={v} mayEdit={mayEdit} />
      )}
    </div>
  )
}
