import { useRouterState } from '@tanstack/react-router'
import { useEffect, useRef } from 'react'

const product = 'Bright Chalk'

/**
 * Tells where one has come to: the title of the window is the heading of the page, and after each change of the page the
 * focus is on that heading, so that a screen reader reads it and the next Tab goes on from there.
 */
export function useArrival() {
  const path = useRouterState({ select: (s) => s.resolvedLocation?.pathname ?? s.location.pathname })
  const came = useRef(path)
  useEffect(() => {
    const moved = came.current !== path
    came.current = path
    let arrived = !moved
    const look = () => {
      const heading = document.querySelector('h1')
      const text = heading?.textContent.trim()
      document.title = text ? `${text} · ${product}` : product
      if (!heading || arrived) return
      arrived = true
      const at = document.activeElement
      if (at && at !== document.body && document.querySelector('main')?.contains(at)) return // a field that asked for it
      heading.tabIndex = -1
      heading.focus({ preventScroll: true })
      window.scrollTo(0, 0)
    }
    look()
    const page = new MutationObserver(look)
    page.observe(document.body, { childList: true, subtree: true, characterData: true })
    return () => page.disconnect()
  }, [path])
}
