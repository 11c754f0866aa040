import { Check } from '../../ui/parts'
import type { Conventions, Vocabulary } from '../../api/client'
import { materialsWith } from './model'

/** What the class writes with in the Hand step, each with what to watch for. */
export function Materials({
  c,
  all,
  lead,
  onChange,
}: {
  c: Conventions
  all: Vocabulary['materials']
  lead: boolean
  onChange: (part: Pick<Conventions, 'materials' | 'one_material'>) => void
}) {
  const names = all.map((m) => m.name)
  const chosen = c.materials?.length ? c.materials : names
  return (
    <fieldset disabled={!lead} className="flex flex-col">
      <legend className="text-sm font-bold">Trays and materials for writing</legend>
      {all.map((m) => (
        <Check
          key={m.name}
          checked={chosen.includes(m.name)}
          onChange={(e) => onChange({ materials: materialsWith(names, c.materials, m.name, e.target.checked) })}
        >
          <b>{m.name}</b> <span className="text-sm text-soft">{m.caution}</span>
        </Check>
      ))}
      <Check checked={!c.one_material} onChange={(e) => onChange({ one_material: !e.target.checked })}>
        <b>Another material each day</b> <span className="text-sm text-soft">(otherwise the first of these)</span>
      </Check>
    </fieldset>
  )
}
