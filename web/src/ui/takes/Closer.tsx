import { getNonce } from 'get-nonce'
import { useEffect, useRef } from 'react'
import WaveSurfer from 'wavesurfer.js'
import Spectrogram from 'wavesurfer.js/plugins/spectrogram'

/** A take as waveform and spectrogram; a click plays from there. */
export default function Closer({ url }: { url: string }) {
  const box = useRef<HTMLDivElement>(null)
  useEffect(() => {
    if (!box.current) return
    const surfer = WaveSurfer.create({
      container: box.current,
      url,
      height: 64,
      waveColor: '#20343a',
      progressColor: '#b5472f',
      cursorColor: '#b5472f',
      normalize: true,
      sampleRate: 16_000,
      cspNonce: getNonce() ?? '',
      plugins: [
        Spectrogram.create({
          height: 200,
          labels: true,
          labelsColor: '#20343a',
          labelsBackground: 'rgba(251,248,241,0.85)',
          labelsHzColor: '#20343a',
          frequencyMax: 8000,
          fftSamples: 512,
          colorMap: 'gray',
          scale: 'mel',
        }),
      ],
    })
    surfer.on('interaction', () => void surfer.play())
    return () => surfer.destroy()
  }, [url])
  return (
    <div
      ref={box}
      role="img"
      aria-label="Spectrogram, low sounds at the bottom"
      className="rounded-md border border-line bg-sheet p-1"
    />
  )
}
