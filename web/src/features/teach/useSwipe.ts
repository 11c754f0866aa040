import { useRef } from 'react'

/** A finger that goes to the left takes the lesson on, one to the right takes it back. */
export function useSwipe(go: (way: 1 | -1) => void) {
  const from = useRef<{ x: number; y: number }>(undefined)
  return {
    onTouchStart: (e: React.TouchEvent) => {
      const t = e.touches[0]
      from.current = t && e.touches.length === 1 ? { x: t.clientX, y: t.clientY } : undefined
    },
    onTouchEnd: (e: React.TouchEvent) => {
      const t = e.changedTouches[0]
      const began = from.current
      from.current = undefined
      if (!t || !began) return
      const dx = t.clientX - began.x
      if (Math.abs(dx) < 60 || Math.abs(dx) < 2 * Math.abs(t.clientY - began.y)) return
      e.preventDefault() // no press of what lies under the finger
      go(dx < 0 ? 1 : -1)
    },
  }
}
