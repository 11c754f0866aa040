import { recallAs, remember } from '../ui/remembered'
import { useState } from 'react'
import { useMe } from './shared'

type Stored<T> = { base: string; value: T }

const place = (who: string, form: string) => `bright-chalk.form ${who} ${form}`

const write = (key: string, value: unknown) => remember(key, value === undefined ? undefined : JSON.stringify(value))

/**
 * What somebody changes in a form, against what stands on the server. It outlives the page, reloads and sign-ins, until
 * it was sent (settled) or is given up. others says that what stands has changed since somebody began.
 */
export function useKept<T>(form: string, standing: T) {
  const who = useMe().data?.member_id ?? ''
  const key = place(who, form)
  const base = JSON.stringify(standing)
  const [mine, setMine] = useState<Stored<T> | undefined>(() => recallAs<Stored<T>>(key))
  const dirty = mine !== undefined && JSON.stringify(mine.value) !== base
  const set = (value: T) => {
    const next = { base: mine?.base ?? base, value }
    setMine(next)
    write(key, JSON.stringify(value) === base ? undefined : next)
  }
  const settle = () => {
    setMine(undefined)
    write(key, undefined)
  }
  return {
    value: dirty ? mine.value : standing,
    set,
    dirty,
    others: dirty && mine.base !== base,
    settle,
  }
}
