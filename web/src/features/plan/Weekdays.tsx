import { Check } from '../../ui/parts'
import { weekdays } from './model'

type Props = {
  label: string
  hint?: string
  value: readonly number[]
  may: boolean
  onChange: (days: number[]) => void
  error?: string | undefined
}

/** Ticks for the days of a week, Monday first. */
export function Weekdays({ label, hint, value, may, onChange, error }: Props) {
  return (
    <fieldset className="flex flex-col gap-1">
      <legend className="text-sm font-bold">{label}</legend>
      <div className="flex flex-wrap gap-x-4">
        {[1, 2, 3, 4, 5, 6, 0].map((d) => (
          <Check
            key={d}
            disabled={!may}
            checked={value.includes(d)}
            onChange={(e) => onChange(e.target.checked ? [...value, d].sort() : value.filter((x) => x !== d))}
          >
            {weekdays[d]?.slice(0, 3)}
          </Check>
        ))}
      </div>
      {(error ?? hint) && (
        <p role={error ? 'alert' : undefined} className={`text-sm ${error ? 'font-bold text-brick' : 'text-soft'}`}>
          {error ? `! ${error}` : hint}
        </p>
      )}
    </fieldset>
  )
}
