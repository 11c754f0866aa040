import type { Conventions } from '../../api/client'
import { Field, Input, Select } from '../../ui/parts'
import { says, signs, yesses } from './model'

type Props = { c: Conventions; lead: boolean; onChange: (part: Partial<Conventions>) => void }

/** What the team says and does in its own way; what is empty is as we say it. */
export function SaysForm({ c, lead, onChange }: Props) {
  const now = c.says ?? {}
  const set = (part: Partial<NonNullable<Conventions['says']>>) => onChange({ says: { ...now, ...part } })
  return (
    <fieldset disabled={!lead} className="flex flex-col gap-2">
      <legend className="text-sm font-bold">How we say it</legend>
      <Field label="What the class answers to a card">
        {(ids) => (
          <Select
            {...ids}
            value={now.answer ?? ''}
            onChange={(e) => set({ answer: e.target.value as NonNullable<typeof now.answer> })}
            wide
          >
            <option value="">the sound</option>
            <option value="keyword">keyword and sound</option>
            <option value="name">letter name, keyword, sound</option>
            <option value="action">the sound with its action</option>
          </Select>
        )}
      </Field>
      <Field label="What is said while a letter is written">
        {(ids) => (
          <Select
            {...ids}
            value={now.writing ?? ''}
            onChange={(e) => set({ writing: e.target.value as NonNullable<typeof now.writing> })}
            wide
          >
            <option value="">the strokes</option>
            <option value="sound">the sound</option>
            <option value="both">the strokes, then the sound</option>
          </Select>
        )}
      </Field>
      <Field
        label="Voices in which a sound is echoed"
        hint="Parted by commas. Long ones are left out for short sounds."
      >
        {(ids) => (
          <Input
            {...ids}
            maxLength={200}
            placeholder="in a whisper, low, high, on one long breath"
            defaultValue={now.voices?.join(', ') ?? ''}
            onBlur={(e) =>
              set({
                voices: e.target.value
                  .split(',')
                  .map((v) => v.trim())
                  .filter(Boolean)
                  .slice(0, 8),
              })
            }
          />
        )}
      </Field>
      {says.map(([key, label, placeholder]) => (
        <Field key={key} label={label}>
          {(ids) => (
            <Input
              {...ids}
              maxLength={200}
              placeholder={placeholder}
              value={String(now[key] ?? '')}
              onChange={(e) => set({ [key]: e.target.value })}
            />
          )}
        </Field>
      ))}
      {signs.map(([key, label, placeholder]) => (
        <Field key={key} label={label}>
          {(ids) => (
            <Input
              {...ids}
              maxLength={100}
              placeholder={placeholder}
              value={now.signs?.[key] ?? ''}
              onChange={(e) => set({ signs: { ...now.signs, [key]: e.target.value } })}
            />
          )}
        </Field>
      ))}
      {yesses.map(([key, label]) => (
        <label key={key} className="flex min-h-11 items-center gap-3">
          <input
            type="checkbox"
            checked={Boolean(now[key])}
            onChange={(e) => set({ [key]: e.target.checked })}
            className="size-6 shrink-0 accent-slate"
          />
          <b>{label}</b>
        </label>
      ))}
      <label className="flex min-h-11 items-center gap-3">
        <input
          type="checkbox"
          checked={Boolean(c.glides_short)}
          onChange={(e) => onChange({ glides_short: e.target.checked })}
          className="size-6 shrink-0 accent-slate"
        />
        <span>
          <b>w and y are said short</b> <span className="text-sm text-soft">(otherwise stretched gently)</span>
        </span>
      </label>
      {c.glides_short && (
        <Field label="Why they are said short">
          {(ids) => (
            <Input
              {...ids}
              maxLength={200}
              value={c.glide_reason ?? ''}
              onChange={(e) => onChange({ glide_reason: e.target.value })}
            />
          )}
        </Field>
      )}
    </fieldset>
  )
}
