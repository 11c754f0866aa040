import { useNavigate, useSearch } from '@tanstack/react-router'
import { useCallback, useMemo } from 'react'
import { inAddress, readAddress } from './address'

/**
 * Values that somebody would want to share or go back to: they live in the address. What stands at its plain value is
 * left out. Changing one puts the new address in the place of the old.
 */
export function useAddress<K extends string>(plain: Readonly<Record<K, string>>) {
  const search = useSearch({ strict: false }) as Record<string, unknown>
  const navigate = useNavigate()
  const now = useMemo(() => readAddress(plain, search), [plain, search])
  const change = useCallback(
    (part: Partial<Record<K, string>>) =>
      void navigate({
        to: '.',
        search: ((before: Record<string, unknown>) => inAddress(plain, before, part)) as never,
        replace: true,
      }),
    [navigate, plain],
  )
  return [now, change] as const
}
