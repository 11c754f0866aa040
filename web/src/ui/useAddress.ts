import { useNavigate, useSearch } from '@tanstack/react-router'
import { useCallback, useMemo, useState } from 'react'
import { inAddress, readAddress, stillOnTheWay } from './address'

/**
 * Values that somebody would want to share or go back to: they live in the address. What stands at its plain value is
 * left out. Changing one puts the new address in the place of the old; it is shown at once, before the address has
 * followed, so that no quickly typed letter is lost.
 */
export function useAddress<K extends string>(plain: Readonly<Record<K, string>>) {
  const search = useSearch({ strict: false }) as Record<string, unknown>
  const navigate = useNavigate()
  const there = useMemo(() => readAddress(plain, search), [plain, search])
  const [seen, setSeen] = useState(there)
  const [onTheWay, setOnTheWay] = useState<Partial<Record<K, string>>>({})
  if (seen !== there) {
    setSeen(there)
    setOnTheWay(stillOnTheWay(onTheWay, seen, there))
  }
  const now = useMemo(() => ({ ...there, ...onTheWay }) as Record<K, string>, [there, onTheWay])
  const change = useCallback(
    (part: Partial<Record<K, string>>) => {
      setOnTheWay((before) => ({ ...before, ...part }))
      void navigate({
        to: '.',
        search: ((before: Record<string, unknown>) => inAddress(plain, before, part)) as never,
        replace: true,
      })
    },
    [navigate, plain],
  )
  return [now, change] as const
}
