import { useEffect, useRef, useState } from 'react'

const longest = 3000 // milliseconds to wait for what the other tab wrote

/**
 * One tab of a browser writes on a thing at a time. here says whether this one does, undefined for the moment until it
 * is known; take moves the writing here. It is taken over after fresh has asked for what the other tab wrote. Where the browser has no locks every tab writes, and the server tells clashes.
 */
export function useOnlyHere(name: string, fresh: () => Promise<unknown>) {
  const locks = typeof navigator === 'undefined' ? undefined : (navigator.locks as LockManager | undefined)
  const [here, setHere] = useState<boolean | undefined>(locks ? undefined : true)
  const take = useRef<() => void>(() => {})
  const asked = useRef(fresh)
  useEffect(() => {
    asked.current = fresh
  })
  useEffect(() => {
    if (!locks) return
    const left = new AbortController()
    let letGo = () => {}
    const hold = () =>
      new Promise<void>((done) => {
        letGo = done
        setHere(true)
      })
    // What the other tab saved last may not be here yet; without a line what is here has to do.
    const after = () =>
      Promise.race([asked.current().catch(() => undefined), new Promise((done) => setTimeout(done, longest))]).then(
        () => (left.signal.aborted ? undefined : hold()),
      )
    const lost = () => {
      if (!left.signal.aborted) setHere(false)
    }
    const wait = () => locks.request(name, { signal: left.signal }, hold).catch(lost)
    take.current = () => void locks.request(name, { steal: true }, after).catch(lost)
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
