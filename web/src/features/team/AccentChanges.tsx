import { Link } from '@tanstack/react-router'
import { Notice } from '../../ui/parts'
import { useAccentChanges } from './api'

/** What another accent would make of the cards, before it is agreed. */
export function AccentChanges({ now, next }: { now: string; next: string }) {
  const changes = useAccentChanges(next, now !== next)
  if (now === next || !changes.data) return null
  const open = changes.data.filter((c) => !c.sure)
  return (
    <Notice kind="care">
      <p>
        {changes.data.length === 0
          ? 'No card changes its sound in this accent.'
          : `${changes.data.length} ${changes.data.length === 1 ? 'card says' : 'cards say'} another sound in this accent; what classes know goes with them.`}
        {open.length > 0 && ` Look at ${open.length} of them: the accent has no such pair.`}
      </p>
      <ul className="flex flex-wrap gap-x-4">
        {changes.data.map((c) => (
          <li key={c.card_id} className={c.sure ? '' : 'font-bold'}>
            <Link to="/cards/$cardId" params={{ cardId: c.card_id }} className="underline underline-offset-4">
              {c.before.grapheme}
            </Link>{' '}
            /{c.before.sound}/ → /{c.after.sound}/{!c.sure && ' ?'}
          </li>
        ))}
      </ul>
    </Notice>
  )
}
