import type { Conventions } from '../../api/client'
import { Check, Field, Input, Select } from '../../ui/parts'
import { isAsked, settings, valueAt, withValue, wordsFor, type Setting } from './model'

type Props = { c: Conventions; onChange: (next: Conventions) => void }

/** The settings of a group, as the core lists them. */
export function Settings({ group, c, onChange }: Props & { group: string }) {
  return (
    <fieldset className="flex flex-col gap-2">
      <legend className="pt-3 text-xl font-bold">{group}</legend>
      {settings
        .filter((s) => s.group === group && isAsked(c, s))
        .map((s) => (
          <SettingField key={s.key} setting={s} c={c} onChange={onChange} />
        ))}
    </fieldset>
  )
}

function SettingField({ setting: s, c, onChange }: Props & { setting: Setting }) {
  const value = valueAt(c, s.key)
  const set = (v: string | boolean | string[]) => onChange(withValue(c, s.key, v))
  if (s.kind === 'switch')
    return (
      <Check checked={Boolean(value)} onChange={(e) => set(e.target.checked)}>
        <b>{s.label}</b> <span className="text-sm text-soft">(otherwise {s.otherwise})</span>
      </Check>
    )
  if (s.kind === 'choice')
    return (
      <Field label={s.label}>
        {(ids) => (
          <Select {...ids} value={String(value || s.default)} onChange={(e) => set(e.target.value)} wide>
            {s.choices?.map((o) => (
              <option key={o.value} value={o.value}>
                {o.label}
              </option>
            ))}
          </Select>
        )}
      </Field>
    )
  const list = s.kind === 'list'
  return (
    <Field
      label={s.label}
      {...(list ? { hint: 'With a comma between them. Long ones are left out for short sounds.' } : {})}
    >
      {(ids) => (
        <Input
          {...ids}
          key={list ? wordsFor(c, s) : s.key}
          maxLength={s.max_length}
          placeholder={s.otherwise}
          {...(list
            ? {
                defaultValue: Array.isArray(value) ? value.join(', ') : '',
                onBlur: (e) => set(wordsOf(e.target.value)),
              }
            : { value: String(value ?? ''), onChange: (e) => set(e.target.value) })}
        />
      )}
    </Field>
  )
}

const wordsOf = (text: string) =>
  text
    .split(',')
    .map((v) => v.trim())
    .filter(Boolean)
    .slice(0, 8)
