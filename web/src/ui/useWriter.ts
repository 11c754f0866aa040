import { useCallback, useEffect, useRef, useState } from 'react'
import type { Written } from './written'

const reduced = () => matchMedia('(prefers-reduced-motion: reduce)').matches
const pace = 1.6 // x-heights a second

/** Writes a letter stroke by stroke: which strokes stand, which is being written. */
export function useWriter(written: Written | undefined) {
  const paths = useRef<(SVGPathElement | null)[]>([])
  const pen = useRef<SVGGElement>(null)
  const [at, setAt] = useState(-1) // the last stroke that stands or is being written
  const [moving, setMoving] = useState(false)
  const run = useRef(0)
  const strokes = written?.strokes ?? []

  const write = useCallback(
    async (from: number, to: number, slow: number) => {
      const mine = ++run.current
      setMoving(true)
      for (let i = from; i <= to; i++) {
        setAt(i)
        await new Promise(requestAnimationFrame)
        const p = paths.current[i]
        const s = written?.strokes[i]
        if (!p || !s || mine !== run.current) return
        if (s.length > 0 && !reduced()) {
          const duration = (s.length / pace) * 1000 * slow
          const motion = p.animate([{ strokeDashoffset: 1.06 }, { strokeDashoffset: 0 }], { duration })
          const whole = p.getTotalLength()
          const follow = () => {
            if (motion.playState !== 'running' || mine !== run.current) return
            const at = p.getPointAtLength(whole * Math.min(1, Number(motion.currentTime ?? 0) / duration))
            pen.current?.setAttribute('transform', `translate(${at.x} ${at.y})`)
            requestAnimationFrame(follow)
          }
          follow()
          await motion.finished.catch(() => undefined)
        }
        if (mine !== run.current) return
        await new Promise((d) => setTimeout(d, 350 * slow)) // the pen lifts
        if (mine !== run.current) return
      }
      setMoving(false)
    },
    [written],
  )
  useEffect(() => () => void run.current++, [])
  const last = strokes.length - 1
  const holdPath = useCallback((i: number, e: SVGPathElement | null) => void (paths.current[i] = e), [])
  const holdPen = useCallback((e: SVGGElement | null) => void (pen.current = e), [])
  return {
    holdPath,
    holdPen,
    at,
    play: (slow = 1) => void write(0, last, slow),
    step: () => void write(at >= last ? 0 : at + 1, at >= last ? 0 : at + 1, 1.5),
    moving,
    all: () => (run.current++, setMoving(false), setAt(last)),
    clear: () => (run.current++, setMoving(false), setAt(-1)),
  }
}

export type Writer = ReturnType<typeof useWriter>
