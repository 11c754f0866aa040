import type { Vocabulary } from '../../api/client'
import { AccentOptions } from '../../ui/AccentOptions'
import { Button, Input, Select } from '../../ui/parts'
import { changed, type Departure } from './model'

/** Words that the team says in another accent than its own. */
export function Departures({
  vocabulary,
  list,
  lead,
  onChange,
}: {
  vocabulary: Vocabulary | undefined
  list: Departure[]
  lead: boolean
  onChange: (list: Departure[]) => void
}) {
  const set = (i: number, part: Partial<Departure>) => onChange(changed(list, i, part))
  return (
    <fieldset className="flex flex-col gap-2">
      <legend className="text-sm font-bold">Words that we say in another accent</legend>
      {list.map((d, i) => (
        <div key={i} className="grid grid-cols-[7rem_10rem_1fr_auto] gap-2">
          <Input
            aria-label={`Word ${i + 1}`}
            placeholder="word"
            disabled={!lead}
            maxLength={24}
            value={d.word}
            onChange={(e) => set(i, { word: e.target.value })}
          />
          <Select
            aria-label={`Accent of word ${i + 1}`}
            disabled={!lead}
            value={d.accent}
            onChange={(e) => set(i, { accent: e.target.value as Departure['accent'] })}
            wide
          >
            <AccentOptions vocabulary={vocabulary} />
          </Select>
          <Input
            aria-label={`Why, for word ${i + 1}`}
            placeholder="why"
            disabled={!lead}
            maxLength={200}
            value={d.note}
            onChange={(e) => set(i, { note: e.target.value })}
          />
          {lead && (
            <Button
              aria-label={`Leave out ${d.word || 'this word'}`}
              onClick={() => onChange(list.filter((_, k) => k !== i))}
            >
              ×
            </Button>
          )}
        </div>
      ))}
      {lead && (
        <div>
          <Button onClick={() => onChange([...list, { word: '', accent: 'northern-english', note: '' }])}>
            + a word
          </Button>
        </div>
      )}
    </fieldset>
  )
}
