import type { Conventions } from '../../api/client'
import { Field, Input, Select, Check } from '../../ui/parts'

type Lines = NonNullable<Conventions['lines']>
type Name = 'top' | 'middle' | 'base' | 'drop'
const rows: Name[] = ['top', 'middle', 'base', 'drop']
const colours: Lines['top']['colour'][] = ['slate', 'grey', 'sky', 'coral', 'marigold', 'mint', 'violet']

/** The team's writing lines: their names are said with every stroke. */
export function LinesForm({ lines, lead, onChange }: { lines: Lines; lead: boolean; onChange: (l: Lines) => void }) {
  const set = (name: Name, part: Partial<Lines['top']>) => onChange({ ...lines, [name]: { ...lines[name], ...part } })
  return (
    <fieldset disabled={!lead} className="flex flex-col gap-2">
      <legend className="text-sm font-bold">Writing lines: their names are said with every stroke</legend>
      {rows.map((r) => (
        <div key={r} className="grid grid-cols-[1fr_8rem_6rem] items-center gap-2">
          <Input
            aria-label={`Name of the ${r} line`}
            value={lines[r].name}
            maxLength={24}
            onChange={(e) => set(r, { name: e.target.value })}
          />
          <Select
            aria-label={`Colour of the ${r} line`}
            value={lines[r].colour}
            onChange={(e) => set(r, { colour: e.target.value as Lines['top']['colour'] })}
            wide
          >
            {colours.map((c) => (
              <option key={c}>{c}</option>
            ))}
          </Select>
          <Check checked={lines[r].shown} disabled={r === 'base'} onChange={(e) => set(r, { shown: e.target.checked })}>
            shown
          </Check>
        </div>
      ))}
      <div className="grid grid-cols-3 gap-2">
        <Field label="Height on paper, mm" hint="base to middle line">
          {(ids) => (
            <Input
              {...ids}
              type="number"
              min={3}
              max={40}
              step={0.5}
              value={lines.height_mm}
              onChange={(e) => onChange({ ...lines, height_mm: e.target.valueAsNumber || 8 })}
            />
          )}
        </Field>
        <Field label="Capitals" hint="times a small letter">
          {(ids) => (
            <Input
              {...ids}
              type="number"
              min={1.3}
              max={2.5}
              step={0.1}
              value={lines.capital}
              onChange={(e) => onChange({ ...lines, capital: e.target.valueAsNumber || 2 })}
            />
          )}
        </Field>
        <Field label="Hang" hint="of a small letter">
          {(ids) => (
            <Input
              {...ids}
              type="number"
              min={0.4}
              max={1.5}
              step={0.1}
              value={lines.hang}
              onChange={(e) => onChange({ ...lines, hang: e.target.valueAsNumber || 1 })}
            />
          )}
        </Field>
      </div>
      <Field label="Letter style">
        {(ids) => (
          <Select
            {...ids}
            value={lines.style}
            onChange={(e) => onChange({ ...lines, style: e.target.value as Lines['style'] })}
            wide
          >
            <option value="print">print, starting at the top</option>
            <option value="lead-in">with a lead-in from the base line</option>
          </Select>
        )}
      </Field>
      <Check
        checked={lines.joined}
        disabled={lines.style !== 'lead-in'}
        onChange={(e) => onChange({ ...lines, joined: e.target.checked })}
      >
        <b>Letter groups are joined</b>{' '}
        <span className="text-sm text-soft">(otherwise side by side; only with lead-ins)</span>
      </Check>
    </fieldset>
  )
}
