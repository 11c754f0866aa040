import { useRef, useState, type PointerEvent } from 'react'
import type { Schemas } from '../../api/client'
import { useKept } from '../../api/useKept'
import { Button, Heading, Notice } from '../../ui/parts'
import { keysOn, type KeyMap } from '../../ui/useKeys'
import { useLetterCalls, useShown } from './api'
import { grips, lineHeights, moved, pathOf, snapped, type DrawnLetter, type Grip } from './model'

const view = { left: -0.7, top: -2.4, width: 3.4, height: 3.7 }

/** Draws a letter differently: its points are dragged, or moved with the arrow keys, and snap to the lines. */
export function Editor({
  letter,
  lines,
  onClose,
}: {
  letter: DrawnLetter
  lines: Schemas['StrokesWrittenLine'][]
  onClose: () => void
}) {
  // A half-drawn letter outlives leaving the page.
  const kept = useKept(`letter ${letter.sign}`, letter)
  const drawn = kept.value
  const [past, setPast] = useState<DrawnLetter[]>([])
  const close = () => {
    kept.settle()
    onClose()
  }
  const shown = useShown(drawn)
  const calls = useLetterCalls()
  const svg = useRef<SVGSVGElement>(null)
  const held = useRef<Grip>(undefined)
  const where = (e: PointerEvent) => {
    const b = svg.current!.getBoundingClientRect()
    const scale = Math.max(view.width / b.width, view.height / b.height)
    return {
      x: view.left + view.width / 2 + (e.clientX - b.left - b.width / 2) * scale,
      y: -(view.top + view.height / 2 + (e.clientY - b.top - b.height / 2) * scale),
    }
  }
  const put = (grip: Grip, to: { x: number; y: number }) => kept.set(moved(drawn, grip, snapped(drawn, grip, to)))
  const remember = () => setPast((p) => [...p.slice(-40), drawn])
  const nudges = (grip: Grip, at: { x: number; y: number }): KeyMap => {
    const by = (x: number, y: number) => () => {
      remember()
      kept.set(moved(drawn, grip, { x: Math.round((at.x + x) * 1000) / 1000, y: Math.round((at.y + y) * 1000) / 1000 }))
    }
    return { ArrowLeft: by(-0.02, 0), ArrowRight: by(0.02, 0), ArrowUp: by(0, 0.02), ArrowDown: by(0, -0.02) }
  }
  const findings = shown.data?.findings ?? []
  return (
    <section className="flex flex-col gap-3">
      <Heading level={2}>Draw {letter.sign} differently</Heading>
      <div className="grid gap-4 lg:grid-cols-[minmax(0,1fr)_20rem]">
        <svg
          ref={svg}
          viewBox={`${view.left} ${view.top} ${view.width} ${view.height}`}
          className="h-[52vh] w-full touch-none rounded-lg border-2 border-ink bg-sheet"
          onPointerMove={(e) => held.current && put(held.current, where(e))}
          onPointerUp={() => (held.current = undefined)}
        >
          {lineHeights.map((y, i) => (
            <g key={y}>
              <path
                d={`M${view.left} ${-y}h${view.width}`}
                stroke={y === 0 ? '#1e2b30' : '#8d8672'}
                strokeWidth={y === 0 ? 0.03 : 0.015}
              />
              <text x={view.left + 0.05} y={-y - 0.05} fontSize="0.12" fill="#4c5a5f">
                {lines[i]?.name}
              </text>
            </g>
          ))}
          {drawn.strokes.map((s, i) => (
            <path
              key={i}
              d={pathOf(s)}
              fill="none"
              stroke={findings.some((f) => f.stroke === i) ? '#b5472f' : '#1e2b30'}
              strokeWidth="0.12"
              strokeLinecap="round"
              strokeLinejoin="round"
            />
          ))}
          {drawn.strokes.map((s, i) => {
            let at = s.start
            return s.segments.map((g, k) => {
              const from = at
              at = g.to
              return g.move === 'line' ? null : (
                <path
                  key={`${i}-${k}`}
                  d={`M${from.x} ${-from.y}L${g.c1.x} ${-g.c1.y}M${g.to.x} ${-g.to.y}L${g.c2.x} ${-g.c2.y}`}
                  stroke="#3a86b8"
                  strokeWidth="0.012"
                />
              )
            })
          })}
          {grips(drawn).map(({ grip, at, end }) => (
            <circle
              key={`${grip.stroke}-${grip.segment}-${grip.which}`}
              cx={at.x}
              cy={-at.y}
              r={end ? 0.07 : 0.05}
              tabIndex={0}
              role="slider"
              aria-label={`${end ? 'End' : 'Bend'} ${grip.segment + 1} of stroke ${grip.stroke + 1}`}
              aria-valuenow={at.y}
              aria-valuetext={`${at.x} across, ${at.y} up`}
              fill={end ? '#f6c453' : '#9fd3ee'}
              stroke="#1e2b30"
              strokeWidth="0.015"
              className="cursor-grab"
              onKeyDown={keysOn(nudges(grip, at))}
              onPointerDown={(e) => {
                remember()
                held.current = grip
                svg.current?.setPointerCapture(e.pointerId)
              }}
            />
          ))}
        </svg>
        <div className="flex flex-col gap-3">
          <p className="text-sm">
            Yellow points are ends, blue ones bend the curve. They snap to the lines and over one another. Tab and the
            arrow keys move them too.
          </p>
          {findings.length === 0 ? (
            <Notice kind="good">It stays in its lines and reaches them.</Notice>
          ) : (
            findings.map((f) => (
              <Notice key={`${f.stroke}${f.text}`} kind="care">
                {f.stroke >= 0 && `Stroke ${f.stroke + 1}: `}
                {f.text}
              </Notice>
            ))
          )}
          <p className="font-child text-lg">{shown.data?.by_rule.join(' ')}</p>
          <div className="flex flex-wrap gap-2">
            <Button
              look="main"
              disabled={findings.length > 0 || calls.save.isPending}
              onClick={() => calls.save.mutate(drawn, { onSuccess: close })}
            >
              Keep it for the team
            </Button>
            <Button disabled={past.length === 0} onClick={() => (kept.set(past.at(-1)!), setPast(past.slice(0, -1)))}>
              Undo
            </Button>
            <Button look="quiet" onClick={close}>
              Leave it as it was
            </Button>
          </div>
          {calls.save.error && <Notice kind="wrong">{calls.save.error.message}</Notice>}
        </div>
      </div>
    </section>
  )
}
