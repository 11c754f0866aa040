import { useState } from 'react'
import type { StepKind } from '../../api/client'
import { Input, Select } from '../../ui/parts'
import { optionsWith, turns, type RoutineStep } from './model'

type Props = {
  step: RoutineStep
  kind: StepKind
  name: string
  may: boolean
  onChange: (part: Partial<RoutineStep>) => void
}

type Voices = NonNullable<NonNullable<RoutineStep['options']>['voices']>

/** What a kind of step leaves to the team, as its record says. */
export function StepOptions({ step: s, kind, name, may, onChange }: Props) {
  const option = (part: Partial<NonNullable<RoutineStep['options']>>) =>
    onChange({ options: optionsWith(s.options, part) })
  const offers = (what: string) => kind.offers.includes(what)
  const list = (label: string, value: string, choices: [string, string][], set: (v: string) => void) => (
    <Select aria-label={`${label} ${name}`} disabled={!may} value={value} onChange={(e) => set(e.target.value)}>
      {choices.map(([id, text]) => (
        <option key={id} value={id}>
          {text}
        </option>
      ))}
    </Select>
  )
  const texts = (label: string, hint: string, value: string[] | null | undefined, set: (v: string[]) => void) => (
    <Input
      aria-label={`${label} ${name}`}
      maxLength={400}
      disabled={!may}
      placeholder={hint}
      defaultValue={value?.join(' / ') ?? ''}
      onBlur={(e) =>
        set(
          e.target.value
            .split('/')
            .map((t) => t.trim())
            .filter(Boolean),
        )
      }
    />
  )
  const [unusual] = useState(() => Object.keys(s.options ?? {}).length + (s.least ? 1 : 0))
  if (kind.offers.length === 0 && kind.item_s === 0) return null
  return (
    <details open={unusual > 0} className="w-full pl-8 text-sm">
      <summary className="min-h-11 cursor-pointer content-center">
        how {name} is held{unusual > 0 ? ': in your way' : ''}
      </summary>
      <span className="flex flex-wrap items-center gap-2 pb-2">
        {offers('way') &&
          list(
            'How to hold',
            s.options?.way ?? kind.ways[0]?.id ?? '',
            kind.ways.map((w) => [w.id, w.name]),
            (way) => option({ way }),
          )}
        {offers('older') &&
          list(
            'Older words in',
            String(s.options?.older ?? 1 / 3),
            [
              ['0', 'new words only'],
              [String(1 / 3), 'a third older words'],
              ['0.5', 'half older words'],
              ['1', 'older words only'],
            ],
            (v) => option({ older: Number(v) }),
          )}
        {offers('voices') &&
          list('Who speaks in', s.options?.voices?.join(',') ?? '', turns, (v) =>
            option({ voices: (v ? v.split(',') : []) as Voices }),
          )}
        {offers('times') &&
          list(
            'How often in',
            String(s.options?.times ?? 0),
            [
              ['0', 'as often as usual'],
              ['1', 'once'],
              ['2', 'twice'],
              ['3', 'three times'],
              ['4', 'four times'],
            ],
            (v) => option({ times: Number(v) || undefined }),
          )}
        {offers('seconds') &&
          list(
            'Minutes of',
            String(s.options?.seconds ?? 0),
            [
              ['0', 'one minute'],
              ['120', '2 minutes'],
              ['180', '3 minutes'],
              ['300', '5 minutes'],
              ['600', '10 minutes'],
            ],
            (v) => option({ seconds: Number(v) || undefined }),
          )}
        {kind.item_s > 0 &&
          list(
            'Fewest in',
            String(s.least ?? 0),
            [['0', 'as many as fit'], ...[2, 3, 4, 5, 6, 8].map((n): [string, string] => [String(n), `${n} at least`])],
            (v) => onChange({ least: Number(v) }),
          )}
        {offers('tools') &&
          texts('Tools in', 'tools in their order, parted by /', s.options?.tools, (tools) => option({ tools }))}
        {offers('words') &&
          texts('Our own words in', 'our own words, parted by /', s.options?.words, (words) => option({ words }))}
      </span>
    </details>
  )
}
