import { Link } from '@tanstack/react-router'

const pages = [
  { to: '/plan', name: 'The year' },
  { to: '/order', name: 'The order' },
  { to: '/meeting', name: 'For the meeting' },
] as const

/** The three pages of planning: what comes when, in which order, and what the team should talk about. */
export function PlanLinks() {
  return (
    <nav aria-label="Planning" className="flex flex-wrap gap-1">
      {pages.map((p) => (
        <Link
          key={p.to}
          to={p.to}
          activeOptions={{ includeSearch: false }}
          className="flex min-h-11 items-center rounded-lg border-2 border-transparent px-3 font-bold underline decoration-line decoration-2 underline-offset-4 hover:decoration-ink aria-[current=page]:border-ink aria-[current=page]:bg-sheet aria-[current=page]:no-underline"
        >
          {p.name}
        </Link>
      ))}
    </nav>
  )
}
