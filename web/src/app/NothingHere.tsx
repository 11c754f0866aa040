import { Link, useRouterState } from '@tanstack/react-router'
import { Heading } from '../ui/parts'
import { places } from './places'

/** What stands at an address that is no page, with ways back. */
export function NothingHere() {
  const path = useRouterState({ select: (s) => s.location.pathname })
  return (
    <div className="mx-auto flex max-w-2xl flex-col gap-4 p-6 text-lg">
      <Heading>Nothing at this address</Heading>
      <p>
        There is no page <b className="break-all">{path}</b>. The address may be cut off, or what stood there was taken
        away.
      </p>
      <ul className="flex flex-wrap gap-3">
        {places.map((p) => (
          <li key={p.to}>
            <Link
              to={p.to}
              className="flex min-h-11 items-center rounded-lg border-2 border-ink/70 bg-sheet px-4 font-bold hover:bg-marigold/25"
            >
              {p.name}
            </Link>
          </li>
        ))}
      </ul>
    </div>
  )
}
