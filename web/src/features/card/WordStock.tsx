import { offerUndo } from '../../ui/undo'
import { useRef, useState } from 'react'
import type { Content } from '../../api/client'
import { Bridges } from '../../ui/Bridges'
import { Button, Input, Key, Notice } from '../../ui/parts'
import { keysOn } from '../../ui/useKeys'
import { useFlags, useOffer, useSegments } from './api'

type Props = { cardId: string; draft: Content; change: (part: Partial<Content>) => void; readOnly: boolean }

/** Words of the card and what the core proposes: one key takes a word, one refuses it for good. */
export function WordStock({ cardId, draft, change, readOnly }: Props) {
  const offer = useOffer(cardId)
  const accepted = draft.words
  const rejected = draft.rejected
  const segments = useSegments(accepted.join(' '))
  const flags = useFlags(cardId, accepted)
  const [own, setOwn] = useState('')
  const list = useRef<HTMLUListElement>(null)
  const open = (offer.data?.read ?? []).filter((w) => !accepted.includes(w.word) && !rejected.includes(w.word))
  const focusNext = (i: number) =>
    requestAnimationFrame(() =>
      list.current?.querySelectorAll<HTMLElement>('[data-word]')[Math.min(i, open.length - 2)]?.focus(),
    )
  const take = (w: string) => change({ words: [...accepted, w] })
  const refuse = (w: string) => {
    change({ rejected: [...rejected, w] })
    offerUndo(`“${w}” is refused for the whole team.`, () => change({ rejected }))
  }
  const onward = (i: number) => list.current?.querySelectorAll<HTMLElement>('[data-word]')[i]?.focus()
  const keysOf = (w: string, i: number) => {
    const act = (f: (w: string) => void) => () => {
      f(w)
      focusNext(i)
    }
    return keysOn({
      a: act(take),
      Enter: act(take),
      x: act(refuse),
      Delete: act(refuse),
      ArrowRight: () => onward(i + 1),
      ArrowLeft: () => onward(i - 1),
    })
  }
  return (
    <div className="flex flex-col gap-4">
      <div className="flex flex-wrap gap-3">
        {accepted.map((w) => {
          const s = segments.data?.find((x) => x.word === w)
          const flag = flags.data?.find((f) => f.word === w)
          return (
            <span
              key={w}
              data-state={flag?.code}
              title={flag?.text}
              className={`flex items-center gap-2 rounded-full border-2 py-1 pr-1 pl-4 text-2xl ${flag ? 'border-dashed border-brick bg-coral/15' : 'border-ink bg-sheet'}`}
            >
              {flag && <b className="text-lg text-brick">!</b>}
              <Bridges word={w} bits={s?.bits} />
              {s && (
                <span className="text-sm text-soft" title="sounds to count on fingers">
                  {s.sounds}
                </span>
              )}
              {!readOnly && (
                <button
                  type="button"
                  aria-label={`Take ${w} off the card`}
                  className="size-9 rounded-full text-lg hover:bg-coral/40"
                  onClick={() => change({ words: accepted.filter((x) => x !== w) })}
                >
                  ×
                </button>
              )}
            </span>
          )
        })}
        {flags.data && flags.data.length > 0 && (
          <ul role="status" className="w-full text-lg text-brick">
            {flags.data
              .filter((f) => accepted.includes(f.word))
              .map((f) => (
                <li key={f.word}>
                  <b>! {f.text}</b> It does not count towards a complete card.
                </li>
              ))}
          </ul>
        )}
        {accepted.length === 0 && <Notice>No words yet. Take four or more of those below.</Notice>}
      </div>
      {!readOnly && (
        <form
          className="flex max-w-md gap-2"
          onSubmit={(e) => {
            e.preventDefault()
            if (own.trim()) take(own.trim().toLowerCase())
            setOwn('')
          }}
        >
          <Input
            aria-label="A word of your own"
            placeholder="A word of your own"
            value={own}
            maxLength={30}
            onChange={(e) => setOwn(e.target.value)}
            className="font-child"
          />
          <Button type="submit">Add</Button>
        </form>
      )}
      {offer.data && (
        <>
          <p className="text-sm">
            {offer.data.unlocked} words with this sound can be read once it is taught. Best first; <Key>a</Key> takes
            the word, <Key>x</Key> refuses it for good, arrows move.
          </p>
          {offer.data.note && <Notice>{offer.data.note}</Notice>}
          <ul ref={list} className="flex flex-wrap gap-2">
            {open.map((w, i) => (
              <li key={w.word}>
                <span
                  data-word={w.word}
                  role="group"
                  tabIndex={0}
                  aria-label={`${w.word}: ${w.because}`}
                  title={w.because}
                  onKeyDown={(e) => !readOnly && keysOf(w.word, i)(e)}
                  className="flex items-center rounded-full border-2 border-dashed border-ink/50 bg-sheet pl-4 text-xl"
                >
                  <Bridges
                    word={w.word}
                    bits={w.segments.map((s) => ({
                      letters: s.letters,
                      ...(s.odd ? { odd: true } : {}),
                    }))}
                  />
                  {w.picture && <img src={`/api/word-pictures/${w.word}`} alt="" className="ml-2 size-7" />}
                  <button
                    type="button"
                    disabled={readOnly}
                    tabIndex={-1}
                    aria-label={`Take ${w.word}`}
                    className="ml-1 size-11 rounded-full text-lg font-bold text-leaf hover:bg-mint/50"
                    onClick={() => take(w.word)}
                  >
                    ✓
                  </button>
                  <button
                    type="button"
                    disabled={readOnly}
                    tabIndex={-1}
                    aria-label={`Refuse ${w.word}`}
                    className="size-11 rounded-full text-lg font-bold text-brick hover:bg-coral/40"
                    onClick={() => refuse(w.word)}
                  >
                    ×
                  </button>
                </span>
              </li>
            ))}
          </ul>
          <EarPictures title="Starts with the sound" words={offer.data.starts} />
          <EarPictures title="Ends with it" words={offer.data.ends} />
          <EarPictures title="Has it inside" words={offer.data.holds} />
        </>
      )}
      {rejected.length > 0 && (
        <details>
          <summary className="min-h-11 content-center font-bold">{rejected.length} refused words</summary>
          <div className="flex flex-wrap gap-2">
            {rejected.map((w) => (
              <Button
                key={w}
                look="quiet"
                disabled={readOnly}
                onClick={() => change({ rejected: rejected.filter((x) => x !== w) })}
              >
                {w}: bring back
              </Button>
            ))}
          </div>
        </details>
      )}
    </div>
  )
}

function EarPictures({ title, words }: { title: string; words: string[] | null }) {
  if (!words?.length) return null
  return (
    <div>
      <p className="text-sm font-bold">{title}</p>
      <div className="flex flex-wrap gap-2">
        {words.map((w) => (
          <figure key={w} className="flex w-20 flex-col items-center rounded-md border border-line bg-sheet p-1">
            <img src={`/api/word-pictures/${w}`} alt="" className="size-10" />
            <figcaption className="truncate text-sm">{w}</figcaption>
          </figure>
        ))}
      </div>
    </div>
  )
}
