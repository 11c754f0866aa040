import { Link } from '@tanstack/react-router'
import { useState } from 'react'
import { faultOf } from '../../api/client'
import { callThen } from '../../api/shared'
import { useKept } from '../../api/useKept'
import { Bridges } from '../../ui/Bridges'
import { Button, Failed, Field, Heading, Input, Notice, Select, Waiting } from '../../ui/parts'
import { offerUndo } from '../../ui/undo'
import { useDropWord, useOwnWords, usePutWord, useTry, type OwnWord } from './api'
import { saidOtherwise } from './model'

/** Words and names of the team's own, with how they are said. */
export function OwnWords({ may }: { may: boolean }) {
  const list = useOwnWords()
  if (list.error && !list.data) return <Failed error={list.error} />
  if (!list.data) return <Waiting what="Asking around the school …" />
  return (
    <div className="flex flex-col gap-6">
      <p className="max-w-prose text-lg">
        The name of the school, the street, the people in your stories: say once how each is said, and texts, words and
        lessons know whether the class can read it.
      </p>
      {may && <NewWord />}
      {list.data.length === 0 && <p className="text-lg">There are none yet.</p>}
      <ul className="divide-y divide-line">
        {list.data.map((w) => (
          <Row key={w.word} word={w} may={may} />
        ))}
      </ul>
    </div>
  )
}

/** A pair as teachers say it: ar as /ɔː/. */
const asSaid = (pair: string) => pair.replace(/^(.*)=(.*)$/, '$1 as /$2/')

const when = (w: OwnWord) => {
  if (w.broken) return w.broken
  if (w.lacks.length > 0) return `no card teaches ${w.lacks.map(asSaid).join(', ')}`
  return `can be read from step ${w.from} on`
}

function Row({ word: w, may }: { word: OwnWord; may: boolean }) {
  const drop = useDropWord()
  const put = usePutWord()
  return (
    <li className="flex flex-wrap items-center gap-x-5 gap-y-2 py-3">
      <span className="min-w-40 text-3xl font-bold">
        <Bridges word={w.word} bits={w.bits} />
      </span>
      <span className="min-w-56 flex-1 text-lg">
        /{w.sounds}/ {w.name && <span className="rounded border-2 border-slate/40 px-2 text-base">a name</span>}
        {w.part && <span className="text-base"> {parts[w.part]}</span>}
        <span className="block text-base">{[w.note, when(w)].filter(Boolean).join('; ')}</span>
      </span>
      {w.uses > 0 && (
        <Link
          to="/stock"
          search={{ tab: 'replace', what: w.word } as never}
          className="min-h-11 content-center text-base underline underline-offset-4"
        >
          stands in {w.uses} {w.uses === 1 ? 'place' : 'places'}
        </Link>
      )}
      {may && (
        <Button
          look="quiet"
          disabled={drop.isPending}
          onClick={() =>
            callThen(drop, w.word, () =>
              offerUndo(`${w.word} is let go.`, () =>
                put.mutate({
                  word: w.word,
                  sounds: w.sounds,
                  name: w.name ?? false,
                  note: w.note ?? '',
                  part: w.part ?? '',
                }),
              ),
            )
          }
        >
          Let go
        </Button>
      )}
      {drop.error && <Notice kind="wrong">{drop.error.message}</Notice>}
    </li>
  )
}

const prose = (text: string) => text.charAt(0).toUpperCase() + text.slice(1)

const none = { word: '', sounds: '', note: '', part: '' as Part }

const parts = {
  '': 'none',
  slips: 'says the usual slip, and the class helps',
  sounds: 'talks in sounds only, and the class says the word',
} as const
type Part = keyof typeof parts

function NewWord() {
  const form = useKept('own word', none)
  const attempt = useTry()
  const put = usePutWord()
  const [cut, setCut] = useState(false)
  const w = form.value
  const name = w.word !== w.word.toLowerCase()
  const ask = { ...w, name, part: name ? w.part : ('' as Part) }
  const look = (sounds: string) =>
    callThen(attempt, { ...ask, sounds }, (t) => {
      form.set({ ...w, sounds: t.sounds })
      setCut(true)
    })
  const tried = cut ? attempt.data : undefined
  return (
    <section className="flex flex-col gap-4 rounded-xl border-2 border-slate/30 p-4">
      <Heading level={2}>A new one</Heading>
      <form
        className="flex flex-wrap in-row gap-3"
        onSubmit={(e) => {
          e.preventDefault()
          look('')
        }}
      >
        <div className="w-64">
          <Field
            label="The word, a name with its capital"
            error={faultOf(attempt.error, 'word') ?? faultOf(put.error, 'word')}
          >
            {(ids) => (
              <Input
                {...ids}
                maxLength={24}
                value={w.word}
                onChange={(e) => {
                  form.set({ ...w, word: e.target.value })
                  setCut(false)
                }}
              />
            )}
          </Field>
        </div>
        <Button type="submit" look={tried ? 'plain' : 'main'} disabled={attempt.isPending || w.word.trim() === ''}>
          Cut it
        </Button>
      </form>
      {tried && (
        <div className="flex flex-col gap-4">
          <span className="text-5xl font-bold">
            <Bridges word={tried.word} bits={tried.bits} />
          </span>
          <div className="flex flex-wrap gap-3 text-lg">
            {tried.parts.map((p, i) => (
              <label key={i} className="flex items-center gap-2">
                <span className="font-child text-2xl font-bold">{p.grapheme}</span>
                <Select
                  aria-label={`Sound of ${p.grapheme}`}
                  value={p.sound}
                  onChange={(e) => look(saidOtherwise(tried.parts, i, e.target.value))}
                >
                  {[p.sound, ...p.others].map((s) => (
                    <option key={s} value={s}>
                      /{s}/
                    </option>
                  ))}
                </Select>
              </label>
            ))}
          </div>
          <div className="flex flex-wrap in-row gap-3">
            <div className="w-64">
              <Field
                label="Or write its sounds"
                hint="one after the other, silent letters left out"
                error={faultOf(attempt.error, 'sounds')}
              >
                {(ids) => (
                  <Input
                    {...ids}
                    maxLength={60}
                    value={w.sounds}
                    onChange={(e) => form.set({ ...w, sounds: e.target.value })}
                    onBlur={() => w.sounds !== tried.sounds && look(w.sounds)}
                  />
                )}
              </Field>
            </div>
            <div className="min-w-64 flex-1">
              <Field label="Who or what it is (if you like)">
                {(ids) => (
                  <Input
                    {...ids}
                    maxLength={200}
                    value={w.note}
                    onChange={(e) => form.set({ ...w, note: e.target.value })}
                  />
                )}
              </Field>
            </div>
            {name && (
              <div className="min-w-64 flex-1">
                <Field label="Its part in lessons" error={faultOf(put.error, 'part')}>
                  {(ids) => (
                    <Select
                      {...ids}
                      value={w.part}
                      onChange={(e) => form.set({ ...w, part: e.target.value as Part })}
                      wide
                    >
                      {Object.entries(parts).map(([id, text]) => (
                        <option key={id} value={id}>
                          {text}
                        </option>
                      ))}
                    </Select>
                  )}
                </Field>
              </div>
            )}
            <Button
              look="main"
              disabled={put.isPending}
              onClick={() =>
                callThen(put, { ...ask, sounds: w.sounds }, () => {
                  form.settle()
                  setCut(false)
                })
              }
            >
              Keep it
            </Button>
          </div>
          <p className="text-lg">
            {tried.known && 'The word list has it; what you say here goes before that. '}
            {ask.name ? 'A name: the adult reads it until its sounds are taught. ' : ''}
            {prose(when(tried))}.
          </p>
        </div>
      )}
      {put.error && !faultOf(put.error, 'word') && <Notice kind="wrong">{put.error.message}</Notice>}
    </section>
  )
}
