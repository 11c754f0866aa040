import { useEffect, useState } from 'react'
import { Shape } from '../../ui/Shape'

const bars = 120

/** The sound itself: its wave, loud and soft, long or short, with a line that goes along as it plays. */
export function Wave({ take, played }: { take: Blob | undefined; played: number }) {
  const [sound, setSound] = useState<{ loud: number[]; seconds: number }>()
  useEffect(() => {
    let left = false
    const read = async () => {
      if (!take) return
      const clip = await new OfflineAudioContext(1, 1, 44_100).decodeAudioData(await take.arrayBuffer())
      const samples = clip.getChannelData(0)
      const size = Math.max(1, Math.floor(samples.length / bars))
      const loud = Array.from({ length: bars }, (_, i) => {
        let sum = 0
        for (const v of samples.subarray(i * size, (i + 1) * size)) sum += v * v
        return Math.sqrt(sum / size)
      })
      const most = Math.max(...loud, 0.0001)
      if (!left) setSound({ loud: loud.map((v) => v / most), seconds: clip.duration })
    }
    void read().catch(() => undefined) // it is heard all the same
    return () => {
      left = true
    }
  }, [take])
  if (!sound) return <Shape family="ear" className="size-[40vh]" /> // it is on its way
  return (
    <svg
      viewBox={`0 0 ${bars} 40`}
      preserveAspectRatio="none"
      role="img"
      aria-label="the wave of the sound"
      className="h-[42vh] w-[86vw]"
    >
      {sound.loud.map((v, i) => (
        <rect
          key={i}
          x={i + 0.15}
          width={0.7}
          y={20 - 18 * v - 0.3}
          height={36 * v + 0.6}
          rx={0.35}
          fill="var(--color-sky)"
        />
      ))}
      {played > 0 && (
        <rect
          key={played}
          y={0}
          width={0.6}
          height={40}
          fill="var(--color-marigold)"
          className="along-wave"
          style={{ animationDuration: `${sound.seconds}s` }}
        />
      )}
    </svg>
  )
}

/** What is known of a sound that nobody has recorded: long or short. The adult says it. */
export function Unrecorded({ long }: { long: boolean }) {
  return (
    <svg
      viewBox="0 0 120 40"
      role="img"
      aria-label={long ? 'a long sound' : 'a short sound'}
      className="h-[42vh] max-w-[86vw]"
      fill="none"
      stroke="var(--color-sky)"
      strokeWidth="3"
      strokeLinecap="round"
    >
      <path d={long ? 'M8 20C20 4 30 4 40 20S60 36 70 20S90 4 112 20' : 'M56 20C58 6 62 6 64 20'} />
      <circle cx={long ? 8 : 56} cy="20" r="2" fill="var(--color-sky)" stroke="none" />
    </svg>
  )
}
