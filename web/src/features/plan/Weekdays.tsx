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
          <label key={d} className="flex min-h-11 items-center gap-2">
            <input
              type="checkbox"
              disabled={!may}
              checked={value.includes(d)}
              onChange={(e) => onChange(e.target.checked ? [...value, d].sort() : value.filter((x) => x !== d))}
              className="size-6 accent-slate"
            />
            {weekdays[d]?.slice(0, 3)}
          </label>
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
