import { useEffect, useId, useRef, useState } from 'react'
import { frameAt, pathOf, phaseName, stillFrame, stretched, type Drawing, type Frame } from './mouth'

const tones = {
  paper: { ink: '#1e2b30', paper: '#fffefb', dark: '#1e2b30', grain: '#f3d9d0', dot: '#b5472f', air: '#1c6a96' },
  slate: { ink: '#f7f5ee', paper: '#20343a', dark: '#0c171b', grain: '#5c4a48', dot: '#f2a08e', air: '#9fd3ee' },
}

const runs = 3 // at the most after a press

type Props = {
  drawing: Drawing
  tone?: keyof typeof tones
  className?: string
  /** Counts up with each press of the key that plays the sound: the mouth moves along. */
  played?: number
}

const calm = () => window.matchMedia('(prefers-reduced-motion: reduce)').matches

/** How the mouth makes a sound, from the side and the front; it moves at a press, and its phases can be held. */
export function Mouth({ drawing, tone = 'paper', className = 'h-44', played = 0 }: Props) {
  const last = drawing.stills.length - 2 // the last one that sounds; rest stands before and after
  const [shown, setShown] = useState<{ side: Frame; front: Frame }>(() => both(drawing, 1))
  const [moving, setMoving] = useState(0) // how many times slower; 0: it stands
  const frame = useRef(0)
  const stop = () => {
    cancelAnimationFrame(frame.current)
    setMoving(0)
  }
  const hold = (still: number) => {
    stop()
    setShown(both(drawing, still))
  }
  const move = (times: number) => {
    cancelAnimationFrame(frame.current)
    if (calm()) return
    setMoving(times)
    let run = 1
    let began = performance.now()
    const tick = (now: number) => {
      const ms = stretched(drawing, now - began, times)
      if (ms === undefined) {
        if (run++ >= runs) {
          setMoving(0)
          setShown(both(drawing, 1))
          return
        }
        began = now + 350
      }
      const at = Math.max(0, ms ?? 0)
      setShown({ side: frameAt(drawing, at, 'side'), front: frameAt(drawing, at, 'front') })
      frame.current = requestAnimationFrame(tick)
    }
    frame.current = requestAnimationFrame(tick)
  }
  useEffect(() => () => cancelAnimationFrame(frame.current), [])
  const moveNow = useRef(move)
  useEffect(() => {
    moveNow.current = move
  })
  useEffect(() => {
    if (played > 0) moveNow.current(1)
  }, [played])
  const still = drawing.stills[Math.min(Math.max(1, shown.side.still), last)]
  const phases = drawing.stills.slice(1, last + 1)
  const press =
    'min-h-11 rounded-lg border-2 border-current px-3 font-bold hover:bg-marigold/30 aria-pressed:bg-marigold aria-pressed:text-ink'
  return (
    <figure className="flex flex-col items-center gap-2">
      <div className="flex flex-wrap items-center justify-center gap-4" role="img" aria-label={nameOf(drawing)}>
        <Picture frame={shown.side} window={drawing.windows.side ?? []} tone={tone} className={className} />
        <Picture frame={shown.front} window={drawing.windows.front ?? []} tone={tone} className={className} />
      </div>
      <figcaption className="min-h-14 max-w-2xl text-center">
        {still?.seen}; {still?.felt}.
      </figcaption>
      <div className="flex flex-wrap justify-center gap-2 text-base">
        {[1, 2, 3].map((times) => (
          <button
            key={times}
            type="button"
            aria-pressed={moving === times}
            onClick={() => (moving === times ? hold(1) : move(times))}
            className={`${press} motion-reduce:hidden`}
          >
            {moving === times ? '■ stop' : times === 1 ? '▶ watch it' : `${times} times slower`}
          </button>
        ))}
        {phases.length > 1 &&
          phases.map((p, i) => (
            <button
              key={i}
              type="button"
              aria-pressed={moving === 0 && shown.side.still === i + 1}
              onClick={() => hold(i + 1)}
              className={press}
            >
              {i + 1}. {phaseName[p.phase]}
            </button>
          ))}
      </div>
    </figure>
  )
}

const both = (d: Drawing, still: number) => ({
  side: stillFrame(d, still, 'side'),
  front: stillFrame(d, still, 'front'),
})

const nameOf = (d: Drawing) =>
  'The mouth: ' +
  d.stills
    .slice(1, -1)
    .map((s) => `${s.seen}; ${s.felt}`)
    .join('. Then: ')

type PictureProps = { frame: Frame; window: readonly number[]; tone: keyof typeof tones; className: string }

function Picture({ frame, window: view, tone, className }: PictureProps) {
  const t = tones[tone]
  const id = useId()
  const grain = `url(#${id})`
  const fills = { none: 'none', paper: t.paper, dark: t.dark, grain }
  const inks = { air: t.air, ink: t.ink, paper: t.paper }
  return (
    <svg aria-hidden viewBox={view.join(' ')} className={`w-auto max-w-full ${className}`}>
      <defs>
        <pattern id={id} width=".05" height=".05" patternUnits="userSpaceOnUse">
          <rect width=".05" height=".05" fill={t.grain} />
          <circle cx=".012" cy=".02" r=".007" fill={t.dot} />
        </pattern>
      </defs>
      {frame.shapes.map((s) => (
        <path
          key={s.part}
          d={pathOf(s)}
          fill={fills[s.fill]}
          stroke={t.ink}
          strokeWidth={s.width}
          strokeLinecap="round"
          strokeLinejoin="round"
        />
      ))}
      {frame.marks.map((m, i) => (
        <path
          key={i}
          d={m.d}
          fill="none"
          stroke={inks[m.ink]}
          strokeWidth={m.width}
          strokeDasharray={m.dash}
          strokeLinecap="round"
          strokeLinejoin="round"
        />
      ))}
    </svg>
  )
}
