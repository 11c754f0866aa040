import { useEffect, useRef, useState } from 'react'

/**
 * One tab of a browser writes on a thing at a time. here says whether this one does, undefined for the moment until it
 * is known; take moves the writing here. Where the browser has no locks every tab writes, and the server tells clashes.
 */
export function useOnlyHere(name: string) {
  const locks = typeof navigator === 'undefined' ? undefined : (navigator.locks as LockManager | undefined)
  const [here, setHere] = useState<boolean | undefined>(locks ? undefined : true)
  const take = useRef<() => void>(() => {})
  useEffect(() => {
    if (!locks) return
    const left = new AbortController()
    let letGo = () => {}
    const hold = () =>
      new Promise<void>((done) => {
        letGo = done
        setHere(true)
      })
    const lost = () => {
      if (!left.signal.aborted) setHere(false)
    }
    const wait = () => locks.request(name, { signal: left.signal }, hold).catch(lost)
    take.current = () => void locks.request(name, { steal: true }, hold).catch(lost)
    const first = (lock: Lock | null) => {
      if (left.signal.aborted) return
      if (lock) return hold()
      setHere(false)
      void wait()
    }
    void locks.request(name, { ifAvailable: true }, first).catch(lost)
    return () => {
      left.abort()
      letGo()
    }
  }, [name, locks])
  return { here, take: () => take.current() }
}
