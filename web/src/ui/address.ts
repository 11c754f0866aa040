/** The values in an address, the plain ones where it says nothing. */
export function readAddress<K extends string>(
  plain: Readonly<Record<K, string>>,
  search: Readonly<Record<string, unknown>>,
): Record<K, string> {
  const out = { ...plain } as Record<K, string>
  for (const k of Object.keys(plain) as K[]) if (search[k] !== undefined) out[k] = String(search[k])
  return out
}

/** What the address holds after a change; other pages' values stay. */
export function inAddress<K extends string>(
  plain: Readonly<Record<K, string>>,
  before: Readonly<Record<string, unknown>>,
  part: Partial<Record<K, string>>,
): Record<string, unknown> {
  const out: Record<string, unknown> = { ...before, ...part }
  for (const k of Object.keys(plain) as K[]) if (String(out[k]) === plain[k]) delete out[k]
  return out
}

/**
 * Changed values that an address has not taken up when it changes: those that it holds now, and those that it held
 * before, are there.
 */
export function stillOnTheWay<K extends string>(
  changed: Readonly<Partial<Record<K, string>>>,
  before: Readonly<Record<K, string>>,
  now: Readonly<Record<K, string>>,
): Partial<Record<K, string>> {
  const out = { ...changed }
  for (const k of Object.keys(changed) as K[]) if (changed[k] === now[k] || changed[k] === before[k]) delete out[k]
  return out
}
