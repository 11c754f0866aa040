import { recall, remember } from './remembered'
import { useSyncExternalStore } from 'react'

/** Keys with what they do. */
export type Says = Readonly<Record<string, string>>

const place = 'bright-chalk.single-keys'
const listeners = new Set<() => void>()
let told: readonly Says[] = []
let on = recall(place) !== 'off'

const changed = () => listeners.forEach((f) => f())
const subscribe = (f: () => void) => {
  listeners.add(f)
  return () => listeners.delete(f)
}

/** Puts keys on the list for as long as something is shown that knows them. */
export function tell(says: Says): () => void {
  told = [...told, says]
  changed()
  return () => {
    told = told.filter((s) => s !== says)
    changed()
  }
}

/** Whether keys without a second key do something; speech input and shaky hands may want them off. */
export const singleKeysOn = () => on

export function switchSingleKeys(to: boolean) {
  on = to
  remember(place, to ? 'on' : 'off')
  changed()
}

export const useTold = () => useSyncExternalStore(subscribe, () => told)
export const useSingleKeys = () => useSyncExternalStore(subscribe, () => on)
