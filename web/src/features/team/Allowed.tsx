import { useState } from 'react'
import { Button, Input } from '../../ui/parts'
import { keysOn } from '../../ui/useKeys'
import { allowing } from './model'

/** Single words of refused themes that the team allows; a theme cannot be allowed. */
export function Allowed({
  list,
  lead,
  onChange,
}: {
  list: string[]
  lead: boolean
  onChange: (list: string[]) => void
}) {
  const [word, setWord] = useState('')
  const add = () => {
    onChange(allowing(list, word))
    setWord('')
  }
  return (
    <fieldset className="flex flex-col gap-2">
      <legend className="text-sm font-bold">Single words that we allow all the same</legend>
      <p className="text-sm text-soft">
        Words about violence, illness, drink and the like are kept from children, with all their forms. One word can be
        allowed, a theme never.
      </p>
      <div className="flex flex-wrap gap-2">
        {list.map((w) => (
          <span
            key={w}
            className="flex items-center gap-2 rounded-full border-2 border-ink bg-sheet pl-4 font-child text-xl"
          >
            {w}
            <button
              type="button"
              disabled={!lead}
              aria-label={`Allow ${w} no longer`}
              className="size-11 rounded-full text-lg hover:bg-coral/40"
              onClick={() => onChange(list.filter((x) => x !== w))}
            >
              ×
            </button>
          </span>
        ))}
      </div>
      {lead && (
        <div className="flex max-w-md gap-2">
          <Input
            aria-label="A word to allow"
            placeholder="one word"
            maxLength={24}
            value={word}
            onChange={(e) => setWord(e.target.value)}
            onKeyDown={keysOn({ Enter: add })}
          />
          <Button onClick={add}>Allow it</Button>
        </div>
      )}
    </fieldset>
  )
}
