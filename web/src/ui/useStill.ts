import { useEffect, useState } from 'react'

const pause = 1500
let lastKey = -pause

window.addEventListener('keydown', () => (lastKey = performance.now()), { capture: true, passive: true })

/**
 * Whether something that is wanted over the page may come: not while somebody types, so that no letter goes astray into
 * it. Once it came it stays.
 */
export function useStill(wanted: boolean) {
  const [still, setStill] = useState(false)
  useEffect(() => {
    if (!wanted) return
    let timer: ReturnType<typeof setTimeout>
    const look = () => {
      const left = lastKey + pause - performance.now()
      if (left <= 0) setStill(true)
      else timer = setTimeout(look, left)
    }
    timer = setTimeout(look)
    return () => {
      clearTimeout(timer)
      setStill(false)
    }
  }, [wanted])
  return wanted && still
}
