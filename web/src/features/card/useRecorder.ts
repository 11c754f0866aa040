import { useCallback, useEffect, useRef, useState } from 'react'
import { encodeWav, meter } from './model'

type State = { kind: 'idle' } | { kind: 'asking' } | { kind: 'recording'; since: number } | { kind: 'refused'; why: string }

const longest = 20 // seconds
type Line = { context: AudioContext; stream: MediaStream; node: AudioWorkletNode }

/** Owns the microphone: opens it for a take, hands back a WAV file, and lets go of it. */
export function useRecorder(onTake: (wav: ArrayBuffer) => void) {
  const [state, setState] = useState<State>({ kind: 'idle' })
  const [level, setLevel] = useState(0)
  const line = useRef<Line>(undefined)
  const blocks = useRef<Float32Array[]>([])

  const release = useCallback(() => {
    const l = line.current
    line.current = undefined
    l?.node.disconnect()
    l?.stream.getTracks().forEach((t) => t.stop())
    void l?.context.close()
    setLevel(0)
  }, [])

  const stop = useCallback(() => {
    const l = line.current
    if (!l) return
    const wav = encodeWav(blocks.current, l.context.sampleRate)
    release()
    setState({ kind: 'idle' })
    if (wav.byteLength > 44) onTake(wav)
  }, [onTake, release])

  const start = useCallback(async () => {
    setState({ kind: 'asking' })
    try {
      const stream = await navigator.mediaDevices.getUserMedia({ audio: { channelCount: 1, echoCancellation: false, noiseSuppression: false, autoGainControl: false } })
      const context = new AudioContext()
      await context.audioWorklet.addModule('/recorder-worklet.js')
      const node = new AudioWorkletNode(context, 'recorder', { channelCount: 1, channelCountMode: 'explicit' })
      blocks.current = []
      node.port.onmessage = (e: MessageEvent<Float32Array>) => {
        blocks.current.push(e.data)
        if (blocks.current.length % 12 === 0) setLevel(meter(e.data))
      }
      context.createMediaStreamSource(stream).connect(node)
      line.current = { context, stream, node }
      setState({ kind: 'recording', since: Date.now() })
    } catch (e) {
      release()
      const denied = e instanceof DOMException && e.name === 'NotAllowedError'
      setState({ kind: 'refused', why: denied ? 'The browser may not use the microphone. Allow it beside the address, then try again.' : 'No microphone was found. Plug one in, or send a WAV file.' })
    }
  }, [release])

  useEffect(() => {
    if (state.kind !== 'recording') return
    const limit = setTimeout(stop, longest * 1000)
    return () => clearTimeout(limit)
  }, [state, stop])
  useEffect(() => release, [release])

  return { state, level, start, stop }
}
