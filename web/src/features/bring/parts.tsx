import { Button, Notice, Check } from '../../ui/parts'
import { standings, type Standing } from './model'

/** How a thing stands to the library, by sign and word. */
export function Sign({ standing }: { standing: Standing }) {
  const tone = {
    new: 'border-leaf bg-mint/30',
    different: 'border-marigold bg-marigold/25',
    same: 'border-slate/40',
    unfit: 'border-brick bg-coral/15',
  }[standing]
  const s = standings[standing]
  return (
    <span className={`mr-2 inline-block rounded border-2 px-2 text-base whitespace-nowrap ${tone}`}>
      <span aria-hidden className="font-bold">
        {s.sign}
      </span>{' '}
      {s.word}
    </span>
  )
}

export function Tick({
  label,
  hint,
  checked,
  onChange,
}: {
  label: string
  hint?: string
  checked: boolean
  onChange: (on: boolean) => void
}) {
  return (
    <Check className="items-start py-2 text-lg" checked={checked} onChange={(e) => onChange(e.target.checked)}>
      {label}
      {hint && <span className="block text-base text-soft">{hint}</span>}
    </Check>
  )
}

/** What is about to be taken, always in sight. */
export function TakeBar(p: {
  sum: string
  none: string
  busy: boolean
  error?: string | undefined
  label: string
  onTake: () => void
}) {
  return (
    <div className="fixed inset-x-0 bottom-0 z-10 border-t-2 border-slate bg-paper px-4 py-3 sm:px-6">
      <div className="mx-auto flex max-w-5xl flex-wrap items-center gap-x-4 gap-y-2">
        <p className="min-w-48 flex-1 text-lg" role="status">
          {p.sum || p.none}
        </p>
        {p.error && <Notice kind="wrong">{p.error}</Notice>}
        <Button look="main" disabled={p.busy || !p.sum} onClick={p.onTake}>
          {p.busy ? 'Taking it in …' : p.label}
        </Button>
      </div>
    </div>
  )
}
