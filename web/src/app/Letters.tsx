import { Link } from '@tanstack/react-router'
import { useState } from 'react'
import { drop, taken, useLetters, type Letter } from '../api/outbox'

/** How much of what was typed is still on its way to the server, and what keeps it. */
export function Letters({ who }: { who: string }) {
  const letters = useLetters().filter((l) => l.who === who && !l.id.startsWith(taken))
  if (letters.length === 0) return null
  const stuck = letters.some((l) => l.problem)
  return (
    <details className="relative">
      <summary
        className={`flex min-h-11 cursor-pointer items-center rounded-md px-3 font-bold ${stuck ? 'bg-coral text-ink' : 'bg-marigold text-ink'}`}
      >
        {stuck ? '! ' : '↑ '}
        {letters.length} not sent yet
      </summary>
      <ul className="absolute right-0 z-40 mt-1 w-80 rounded-lg border-2 border-ink bg-paper p-3 text-ink shadow-xl">
        <li className="text-sm text-soft">Kept in this browser, and sent by itself as soon as the server takes it.</li>
        {letters.map((l) => (
          <Row key={l.id} letter={l} />
        ))}
      </ul>
    </details>
  )
}

function Row({ letter }: { letter: Letter }) {
  const [sure, setSure] = useState(false)
  return (
    <li className="flex flex-wrap items-center gap-x-3 border-t border-line py-1">
      <Link to={letter.page} className="flex min-h-11 flex-1 items-center font-bold underline underline-offset-4">
        {letter.label}
      </Link>
      <button
        type="button"
        className="min-h-11 px-2 underline underline-offset-4"
        onClick={() => (sure ? void drop(letter.id) : setSure(true))}
      >
        {sure ? 'Yes, throw it away' : 'Throw away'}
      </button>
      {letter.problem && <p className="w-full text-sm font-bold text-brick">! {letter.problem}</p>}
    </li>
  )
}
