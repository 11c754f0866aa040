import { Slider } from 'radix-ui'
import { useEffect, useRef, useState } from 'react'
import type { Take } from '../../api/client'
import { useSamples } from './api'
import { peaks } from './model'

const width = 600
const height = 96

/** The waveform of a take with its trim: two handles for the mouse, the arrow keys for the keyboard. */
export function Waveform({
  take,
  onTrim,
  readOnly,
}: {
  take: Take
  onTrim: (start: number, end: number) => void
  readOnly: boolean
}) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const samples = useSamples(take.take_id)
  const total = Math.max(take.report.duration_ms, take.trim.end_ms)
  const [trim, setTrim] = useState<[number, number]>([take.trim.start_ms, take.trim.end_ms])
  useEffect(() => {
    const c = canvas.current?.getContext('2d')
    if (!c || !samples.data) return
    c.clearRect(0, 0, width, height)
    const list = peaks(samples.data, width)
    const top = Math.max(0.02, ...list.map(([l, h]) => Math.max(-l, h)))
    list.forEach(([low, high], x) => {
      const at = (x / width) * total
      c.fillStyle = at >= trim[0] && at <= trim[1] ? '#20343a' : '#b9ad92'
      const y0 = height / 2 - (high / top) * (height / 2 - 4)
      const y1 = height / 2 - (low / top) * (height / 2 - 4)
      c.fillRect(x, y0, 1, Math.max(1, y1 - y0))
    })
    for (const f of take.report.findings) {
      if (!f.to_ms) continue
      c.fillStyle = 'rgba(181, 71, 47, 0.28)'
      c.fillRect(((f.from_ms ?? 0) / total) * width, 0, ((f.to_ms - (f.from_ms ?? 0)) / total) * width, height)
    }
  }, [samples.data, take, trim, total])
  return (
    <div>
      <canvas
        ref={canvas}
        width={width}
        height={height}
        className="h-36 w-full rounded-md border border-line bg-sheet"
        role="img"
        aria-label={`Waveform, ${(total / 1000).toFixed(1)} seconds`}
      />
      <Slider.Root
        value={trim}
        min={0}
        max={total}
        step={5}
        minStepsBetweenThumbs={10}
        disabled={readOnly}
        onValueChange={([a = 0, b = total]) => setTrim([a, b])}
        onValueCommit={([a = 0, b = total]) => onTrim(a, b)}
        className="relative flex h-8 touch-none items-center"
      >
        <Slider.Track className="relative h-1.5 grow rounded bg-line">
          <Slider.Range className="absolute h-full rounded bg-ink" />
        </Slider.Track>
        {['Start of the sound', 'End of the sound'].map((label) => (
          <Slider.Thumb
            key={label}
            aria-label={`${label}, milliseconds`}
            className="block h-7 w-4 rounded border-2 border-ink bg-marigold"
          />
        ))}
      </Slider.Root>
    </div>
  )
}
