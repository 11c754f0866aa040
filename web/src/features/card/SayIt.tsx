import type { CardView, Content } from '../../api/client'
import { useVocabulary } from '../../api/shared'
import { AccentOptions } from '../../ui/AccentOptions'
import { Mouth } from '../../ui/Mouth'
import { Button, Field, Notice, Select } from '../../ui/parts'
import { useMouth, useSpelling } from './api'
import type { Desk } from './model'
import { Section, Tag, TextField } from './parts'

/** The sound: how the mouth makes it, and what not to add. */
export function SayIt({ card, desk }: { card: CardView; desk: Desk }) {
  const vocabulary = useVocabulary()
  const mouth = useMouth(card.card_id, card.version)
  return (
    <Section id="say">
      <div className="flex flex-wrap gap-2 text-base">
        <Tag>{card.voiced ? 'voice on: the throat hums' : 'voice off: only breath'}</Tag>
        <Tag>{card.hold === 'stretch' ? 'can be stretched' : 'said short'}</Tag>
        <Tag>
          {card.place}, {card.manner}
        </Tag>
      </div>
      <Use pair={card.pair} />
      {mouth.data && <Mouth drawing={mouth.data} />}
      <div className="grid gap-4 md:grid-cols-2">
        <Field label="Accent of this card" error={desk.error('accent')}>
          {(ids) => (
            <Select
              {...ids}
              disabled={desk.readOnly}
              value={desk.draft.accent ?? ''}
              onChange={(e) => desk.change({ accent: e.target.value as NonNullable<Content['accent']> })}
              wide
            >
              <option value="">the team’s</option>
              <AccentOptions vocabulary={vocabulary.data} />
            </Select>
          )}
        </Field>
        {desk.draft.accent && (
          <TextField desk={desk} field="accent_note" label="Why it departs from the team’s accent" max={200} />
        )}
      </div>
      <div className="grid gap-4 md:grid-cols-2">
        <TextField desk={desk} field="mouth_cue" label="Mouth cue: lips, teeth, tongue, breath" rows={3} max={400} />
        <TextField desk={desk} field="slip" label="The usual slip, and what to say" rows={3} max={300} />
      </div>
      {!desk.readOnly && desk.draft.mouth_cue === '' && card.suggested_cue !== '' && (
        <div className="flex flex-wrap items-center gap-3 text-sm">
          <span className="min-w-0 flex-1">Suggested: {card.suggested_cue}</span>
          <Button
            onClick={() =>
              desk.change({
                mouth_cue: card.suggested_cue,
                slip: desk.draft.slip || card.suggested_slip,
                contrast: desk.draft.contrast || card.contrast,
              })
            }
          >
            Use it
          </Button>
        </div>
      )}
      <Notice kind="care">{card.therapy_caution}</Notice>
    </Section>
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
      the end; as in <span className="font-child text-lg">{row.examples.join(', ')}</span>.{' '}
      {row.weighted < 0.995 && (
        <span>
          <span className="font-child">{pair.grapheme}</span> says this in {share(row.weighted)} of its words.
        </span>
      )}
    </p>
  )
}
