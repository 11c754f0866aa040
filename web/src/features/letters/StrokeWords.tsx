import { useState } from 'react'
import type { CardView } from '../../api/client'
import { Button, Heading, Input, Notice } from '../../ui/parts'
import { useSaveCard } from './api'

/** What is said with each stroke: by rule from the shape and the lines, or in the team's own words. */
export function StrokeWords({
  card,
  field,
  byRule,
  count,
  mayEdit,
}: {
  card: CardView
  field: 'stroke_words' | 'capital_words'
  byRule: string[]
  count: number
  mayEdit: boolean
}) {
  const stored = card.content[field].split('\n').filter(Boolean)
  const [words, setWords] = useState(() =>
    Array.from({ length: count }, (_, i) => (stored.length === count ? stored[i]! : '')),
  )
  const save = useSaveCard(card.card_id)
  const changed = words.some((w, i) => w !== (stored.length === count ? stored[i] : ''))
  const keep = (list: string[]) =>
    save.mutate({
      base: card.version,
      content: {
        ...card.content,
        [field]: list.every((w) => w === '') ? '' : list.map((w, i) => w.trim() || byRule[i] || '').join('\n'),
      },
    })
  return (
    <section className="flex flex-col gap-2">
      <Heading level={2}>What is said</Heading>
      <p className="text-sm">
        One text for each stroke. It may name the part of the picture that the stroke follows: “down the mast, over the
        wave”. Empty means: as the shape and your lines give it.
      </p>
      {stored.length > 0 && stored.length !== count && (
        <Notice>
          The card says for the whole letter: “{stored.join(' ')}” Give each of the {count} strokes its own part, and
          the words follow the pen.
        </Notice>
      )}
      <ol className="flex flex-col gap-2">
        {words.map((w, i) => (
          <li key={i} className="flex items-center gap-3">
            <span className="flex size-9 shrink-0 items-center justify-center rounded-full bg-leaf font-bold text-chalk">
              {i + 1}
            </span>
            <Input
              aria-label={`Words of stroke ${i + 1}`}
              readOnly={!mayEdit}
              value={w}
              placeholder={byRule[i] ?? ''}
              maxLength={180}
              className="font-child text-lg placeholder:text-soft"
              onChange={(e) => setWords(words.map((x, k) => (k === i ? e.target.value : x)))}
            />
          </li>
        ))}
      </ol>
      {mayEdit && (
        <div className="flex flex-wrap gap-3">
          <Button look={changed ? 'main' : 'plain'} disabled={!changed || save.isPending} onClick={() => keep(words)}>
            Keep these words on the card
          </Button>
          {stored.length > 0 && (
            <Button look="quiet" onClick={() => keep(words.map(() => ''))}>
              Back to the words by rule
            </Button>
          )}
        </div>
      )}
      {save.error && <Notice kind="wrong">{save.error.message}</Notice>}
    </section>
  )
}
