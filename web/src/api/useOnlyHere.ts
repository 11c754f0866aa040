import { useEffect, useRef, useState } from 'react'

const longest = 3000 // milliseconds to wait for what the other tab wrote
const moment = 1500 // milliseconds that another tab may take to send something, before it is said to write

/**
 * One tab of a browser writes on a thing at a time. here says whether this one does, undefined for the moment until it
 * is known; take moves the writing here. Before it writes, look asks for what is kept, and for what another tab wrote
 * where that had it before. Where the browser has no locks every tab writes, and the server tells clashes.
 */
export function useOnlyHere(name: string, look: (hadAnother: boolean) => Promise<unknown>) {
  const locks = typeof navigator === 'undefined' ? undefined : (navigator.locks as LockManager | undefined)
  const [here, setHere] = useState<boolean | undefined>()
  const take = useRef<() => void>(() => {})
  const asked = useRef(look)
  useEffect(() => {
    asked.current = look
  })
  useEffect(() => {
    const left = new AbortController()
    let letGo = () => {}
    let another = false
    // Without a line what is here has to do.
    const looked = () =>
      Promise.race([asked.current(another).catch(() => undefined), new Promise((done) => setTimeout(done, longest))])
    if (!locks) {
      void looked().then(() => left.signal.aborted || setHere(true))
      return () => left.abort()
    }
    const hold = async () => {
      await looked()
      if (left.signal.aborted) return
      await new Promise<void>((done) => {
        letGo = done
        setHere(true)
      })
    }
    const elsewhere = () => {
      another = true
      if (!left.signal.aborted) setHere(false)
    }
    take.current = () => void locks.request(name, { steal: true }, hold).catch(elsewhere)
    const busy = setTimeout(elsewhere, moment)
    void locks
      .request(name, { signal: left.signal }, () => {
        clearTimeout(busy)
        return hold()
      })
      .catch(elsewhere)
    return () => {
      clearTimeout(busy)
      left.abort()
      letGo()
    }
  }, [name, locks])
  return { here, take: () => take.current() }
}
