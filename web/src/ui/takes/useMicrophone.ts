import { useCallback, useEffect, useRef, useState } from 'react'
import { encodeWav, meter } from './model'

export type MicState =
  | { kind: 'closed' | 'asking' | 'open' | 'recording' | 'listening' }
  | { kind: 'counting'; left: number }
  | { kind: 'refused'; why: string }
type Line = { context: AudioContext; stream: MediaStream; node: AudioWorkletNode }

const longest = 20 // seconds
const beat = 600 // milliseconds of the count-in

export type HeardWav = { wav: ArrayBuffer; deviceId: string; label: string }

/**
 * Owns the microphone: open it to see the level, record a take from it, hand the take on as a WAV file. usual is the
 * device that is opened where it is plugged in.
 */
export function useMicrophone(onTake: (wav: ArrayBuffer) => void, usual = '') {
  const [state, setState] = useState<MicState>({ kind: 'closed' })
  const [level, setLevel] = useState(0)
  const [devices, setDevices] = useState<MediaDeviceInfo[]>([])
  const [deviceId, setDeviceId] = useState('')
  const line = useRef<Line>(undefined)
  const blocks = useRef<Float32Array[]>(undefined)
  const count = useRef(0)

  const close = useCallback(() => {
    const l = line.current
    line.current = undefined
    blocks.current = undefined
    clearTimeout(count.current)
    l?.node.disconnect()
    l?.stream.getTracks().forEach((t) => t.stop())
    void l?.context.close()
    setLevel(0)
    setState({ kind: 'closed' })
  }, [])

  const open = useCallback(
    async (wanted?: string): Promise<boolean> => {
      close()
      setState({ kind: 'asking' })
      try {
        const plain = { channelCount: 1, echoCancellation: false, noiseSuppression: false, autoGainControl: false }
        const stream = await navigator.mediaDevices.getUserMedia({
          audio: wanted ? { ...plain, deviceId: { exact: wanted } } : { ...plain, ...(usual && { deviceId: usual }) },
        })
        const context = new AudioContext()
        await context.audioWorklet.addModule('/recorder-worklet.js')
        const node = new AudioWorkletNode(context, 'recorder', { channelCount: 1, channelCountMode: 'explicit' })
        let n = 0
        node.port.onmessage = (e: MessageEvent<Float32Array>) => {
          blocks.current?.push(e.data)
          if (n++ % 12 === 0) setLevel(meter(e.data))
        }
        context.createMediaStreamSource(stream).connect(node)
        line.current = { context, stream, node }
        setDevices((await navigator.mediaDevices.enumerateDevices()).filter((d) => d.kind === 'audioinput'))
        setDeviceId(stream.getAudioTracks()[0]?.getSettings().deviceId ?? '')
        setState({ kind: 'open' })
        return true
      } catch (e) {
        close()
        const denied = e instanceof DOMException && e.name === 'NotAllowedError'
        setState({
          kind: 'refused',
          why: denied
            ? 'The browser may not use the microphone. Allow it beside the address, then try again.'
            : 'No microphone was found. Plug one in, or send a file.',
        })
        return false
      }
    },
    [close, usual],
  )

  const stop = useCallback(() => {
    clearTimeout(count.current)
    const taken = blocks.current
    blocks.current = undefined
    const l = line.current
    if (!l) return
    setState({ kind: 'open' })
    const wav = taken ? encodeWav(taken, l.context.sampleRate) : undefined
    if (wav && wav.byteLength > 44) onTake(wav)
  }, [onTake])

  const record = useCallback(
    async (countIn: boolean) => {
      if (!line.current && !(await open())) return
      const begin = () => {
        blocks.current = []
        setState({ kind: 'recording' })
      }
      const tick = (left: number) => {
        if (left === 0) return begin()
        setState({ kind: 'counting', left })
        count.current = window.setTimeout(() => tick(left - 1), beat)
      }
      tick(countIn ? 3 : 0)
    },
    [open],
  )

  /** Hears for a while and hands back what it heard, as a WAV file; nothing where the microphone is refused or closed. */
  const listen = useCallback(
    async (milliseconds: number): Promise<HeardWav | undefined> => {
      if (!line.current && !(await open())) return undefined
      const l = line.current
      const heard: Float32Array[] = []
      blocks.current = heard
      setState({ kind: 'listening' })
      await new Promise((done) => setTimeout(done, milliseconds))
      if (!l || line.current !== l || blocks.current !== heard) return undefined
      blocks.current = undefined
      setState({ kind: 'open' })
      const track = l.stream.getAudioTracks()[0]
      const wav = encodeWav(heard, l.context.sampleRate)
      return { wav, deviceId: track?.getSettings().deviceId ?? '', label: track?.label ?? '' }
    },
    [open],
  )

  useEffect(() => {
    if (state.kind !== 'recording') return
    const limit = setTimeout(stop, longest * 1000)
    return () => clearTimeout(limit)
  }, [state, stop])
  useEffect(() => close, [close])

  return { state, level, devices, deviceId, open, close, record, stop, listen }
}
