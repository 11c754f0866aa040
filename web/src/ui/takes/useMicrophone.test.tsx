// @vitest-environment happy-dom
import { act } from 'react'
import { createRoot, type Root } from 'react-dom/client'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { useMicrophone } from './useMicrophone'

type Mic = ReturnType<typeof useMicrophone>
let root: Root
let mic: Mic
const onTake = vi.fn()
const stopTrack = vi.fn()
let port: { onmessage?: (e: { data: Float32Array }) => void }

function Probe() {
  // The test steers the microphone from outside.
  // eslint-disable-next-line react-hooks/globals
  mic = useMicrophone(onTake)
  return null
}

const media = (fail?: DOMException) => ({
  getUserMedia: vi.fn(() =>
    fail
      ? Promise.reject(fail)
      : Promise.resolve({
          getTracks: () => [{ stop: stopTrack }],
          getAudioTracks: () => [{ getSettings: () => ({ deviceId: 'desk' }) }],
        }),
  ),
  enumerateDevices: () =>
    Promise.resolve([
      { kind: 'audioinput', deviceId: 'desk', label: 'Desk' },
      { kind: 'videoinput', deviceId: 'eye', label: 'Eye' },
    ]),
})

beforeEach(async () => {
  ;(globalThis as Record<string, unknown>).IS_REACT_ACT_ENVIRONMENT = true
  vi.useFakeTimers()
  onTake.mockReset()
  stopTrack.mockReset()
  port = {}
  vi.stubGlobal(
    'AudioContext',
    class {
      sampleRate = 44100
      audioWorklet = { addModule: () => Promise.resolve() }
      createMediaStreamSource = () => ({ connect: () => undefined })
      close = () => Promise.resolve()
    },
  )
  vi.stubGlobal(
    'AudioWorkletNode',
    class {
      port = port
      disconnect = () => undefined
    },
  )
  root = createRoot(document.createElement('div'))
  await act(async () => root.render(<Probe />))
})
afterEach(() => {
  act(() => root.unmount())
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

const hear = (n: number) =>
  act(async () => {
    for (let i = 0; i < n; i++) port.onmessage?.({ data: new Float32Array(128).fill(0.5) })
  })

describe('the microphone', () => {
  it('shows the level before anything is recorded, and lists the microphones', async () => {
    vi.stubGlobal('navigator', { mediaDevices: media() })
    await act(async () => void (await mic.open()))
    expect(mic.state.kind).toBe('open')
    expect(mic.devices.map((d) => d.label)).toEqual(['Desk'])
    await hear(1)
    expect(mic.level).toBeGreaterThan(0.8)
    expect(onTake).not.toHaveBeenCalled()
  })

  it('counts in, keeps only what is heard after it, and hands on a WAV file', async () => {
    vi.stubGlobal('navigator', { mediaDevices: media() })
    await act(async () => void (await mic.record(true)))
    expect(mic.state).toEqual({ kind: 'counting', left: 3 })
    await hear(5)
    await act(async () => void (await vi.advanceTimersByTimeAsync(1900)))
    expect(mic.state.kind).toBe('recording')
    await hear(10)
    await act(async () => mic.stop())
    expect(onTake).toHaveBeenCalledTimes(1)
    expect((onTake.mock.calls[0]![0] as ArrayBuffer).byteLength).toBe(44 + 2 * 10 * 128)
    expect(mic.state.kind).toBe('open')
  })

  it('stops by itself after twenty seconds and lets go of the microphone at the end', async () => {
    vi.stubGlobal('navigator', { mediaDevices: media() })
    await act(async () => void (await mic.record(false)))
    await hear(3)
    await act(async () => void (await vi.advanceTimersByTimeAsync(20_100)))
    expect(onTake).toHaveBeenCalledTimes(1)
    await act(async () => mic.close())
    expect(stopTrack).toHaveBeenCalled()
    expect(mic.state.kind).toBe('closed')
  })

  it('says what to do where the browser refuses it or none is there', async () => {
    vi.stubGlobal('navigator', { mediaDevices: media(new DOMException('no', 'NotAllowedError')) })
    await act(async () => void (await mic.record(false)))
    expect(mic.state).toMatchObject({ kind: 'refused', why: expect.stringContaining('Allow it') })
    vi.stubGlobal('navigator', { mediaDevices: media(new DOMException('none', 'NotFoundError')) })
    await act(async () => void (await mic.open()))
    expect(mic.state).toMatchObject({ kind: 'refused', why: expect.stringContaining('send a file') })
  })
})
