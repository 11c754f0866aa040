import { getStroke } from 'perfect-freehand'
import { useEffect, useRef, useState } from 'react'
import { useWriter } from '../../ui/useWriter'
import { Writing, type Written } from '../../ui/Writing'

type Dot = [x: number, y: number, pressure: number]

/**
 * The letter writes itself, with the words of each stroke; beside it a finger or a pen writes on the same lines, and
 * nobody scores it. Turned, the model is mirrored for an adult who faces the class.
 */
export function HandBoard({ written, mirrored }: { written: Written; mirrored: boolean }) {
  const writer = useWriter(written)
  const { play } = writer
  useEffect(() => {
    const t = setTimeout(() => play(1.6), 400)
    return () => clearTimeout(t)
    // It plays when the screen or the view changes, not with every frame.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [written, mirrored])
  return (
    <span className="flex w-full flex-col items-center gap-[1.5vh]" data-mirrored={mirrored}>
      <span className="flex w-full items-stretch justify-center gap-[3vw] max-sm:flex-col max-sm:items-center">
        <Writing
          written={written}
          writer={writer}
          hand="finger"
          tone="slate"
          mirrored={mirrored}
          className="h-[46vh] max-w-[46vw]"
        />
        <OwnHand lines={written} />
      </span>
      <span className="min-h-[9vh] max-w-[85vw] text-center font-child text-[4.4vh] leading-tight">
        {written.strokes[Math.max(0, writer.at)]?.words}
      </span>
      {mirrored && (
        <span className="rounded border-2 border-marigold px-3 text-[2.6vh]">
          mirrored: face the class and follow it
        </span>
      )}
    </span>
  )
}

/** Empty lines to write on. What is written stays on this board and goes with the screen. */
function OwnHand({ lines }: { lines: Written }) {
  const [strokes, setStrokes] = useState<Dot[][]>([])
  const [drawing, setDrawing] = useState<Dot[]>()
  const box = useRef<SVGSVGElement>(null)
  const top = (lines.lines[0]?.y ?? 2) + 0.3
  const drop = -(lines.lines[3]?.y ?? -1) + 0.3
  const width = 3.4
  const dot = (e: React.PointerEvent): Dot | undefined => {
    const m = box.current?.getScreenCTM()?.inverse()
    if (!m) return undefined
    const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(m)
    return [p.x, p.y, e.pressure || 0.5]
  }
  const end = () => {
    if (drawing && drawing.length > 0) setStrokes([...strokes, drawing])
    setDrawing(undefined)
  }
  const all = drawing ? [...strokes, drawing] : strokes
  return (
    <span className="relative flex" onClick={(e) => e.stopPropagation()}>
      <svg
        ref={box}
        viewBox={`0 ${-top} ${width} ${top + drop}`}
        role="img"
        aria-label={
          strokes.length ? `${strokes.length} strokes written by hand` : 'lines to write on with a finger or a pen'
        }
        data-own-hand={strokes.length}
        className="h-[46vh] max-w-[44vw] touch-none rounded-xl bg-slate-deep max-sm:h-[24vh] max-sm:max-w-[92vw]"
        onPointerDown={(e) => {
          e.currentTarget.setPointerCapture(e.pointerId)
          const d = dot(e)
          if (d) setDrawing([d])
        }}
        onPointerMove={(e) => {
          const d = dot(e)
          if (drawing && d) setDrawing([...drawing, d])
        }}
        onPointerUp={end}
        onPointerCancel={end}
        onTouchStart={(e) => e.stopPropagation()} // a stroke is no swipe
        onTouchEnd={(e) => e.stopPropagation()}
      >
        {lines.lines.map(
          (l, i) =>
            l.shown && (
              <path
                key={l.name}
                d={`M0 ${-l.y}h${width}`}
                stroke="#8fa3a9"
                strokeWidth={i === 2 ? 0.035 : 0.02}
                strokeDasharray={i === 1 ? '0.09 0.07' : undefined}
              />
            ),
        )}
        {all.map((s, i) => (
          <path key={i} d={outline(s)} fill="var(--color-marigold)" />
        ))}
      </svg>
      <button
        type="button"
        disabled={strokes.length === 0}
        onClick={() => setStrokes([])}
        className="absolute right-1 bottom-1 min-h-11 rounded-lg border-2 border-chalk/60 bg-slate px-4 text-lg font-bold disabled:hidden"
      >
        wipe
      </button>
    </span>
  )
}

/** The outline of a stroke as wide as chalk. Points are scaled up because the package thinks in pixels. */
function outline(dots: Dot[]): string {
  const scale = 100
  const points = getStroke(
    dots.map(([x, y, p]) => [x * scale, y * scale, p]),
    { size: 16, thinning: 0.3, streamline: 0.4, smoothing: 0.6 },
  )
  if (points.length === 0) return ''
  return `${points.map(([x = 0, y = 0], i) => `${i ? 'L' : 'M'}${(x / scale).toFixed(3)} ${(y / scale).toFixed(3)}`).join('')}Z`
}
