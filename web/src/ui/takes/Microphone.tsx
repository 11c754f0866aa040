import { useState } from 'react'
import { Button, FileButton, Inline, Key, Notice, Check } from '../parts'
import { meterGood, meterWord } from './model'
import type { useMicrophone } from './useMicrophone'

type Props = {
  mic: ReturnType<typeof useMicrophone>
  onRecord: () => void
  busy: boolean
  onFile: (file: File) => void
  countIn: boolean
  onCountIn: (on: boolean) => void
}

/** The microphone: which one, how loud, record and stop, or a file in its place. */
export function Microphone({ mic, onRecord, busy, onFile, countIn, onCountIn }: Props) {
  const [drop, setDrop] = useState(false)
  const { state } = mic
  const running = state.kind === 'recording' || state.kind === 'counting'
  return (
    <div
      className={`flex flex-col gap-2 rounded-lg border-2 p-3 ${drop ? 'border-dashed border-ink bg-marigold/20' : 'border-line bg-sheet'}`}
      onDragOver={(e) => (e.preventDefault(), setDrop(true))}
      onDragLeave={() => setDrop(false)}
      onDrop={(e) => {
        e.preventDefault()
        setDrop(false)
        const f = e.dataTransfer.files[0]
        if (f) onFile(f)
      }}
    >
      <div className="flex flex-wrap items-center gap-3">
        <Button
          look="main"
          data-state={state.kind}
          disabled={state.kind === 'asking' || state.kind === 'listening' || busy}
          onClick={() => (running ? mic.stop() : onRecord())}
        >
          <span aria-hidden className={running ? 'size-4 bg-coral' : 'size-4 rounded-full bg-coral'} />
          {running ? 'Stop and keep' : 'Record'} <Key>r</Key>
        </Button>
        <div
          role="meter"
          aria-label="Microphone level"
          aria-valuenow={Math.round(mic.level * 100)}
          aria-valuemin={0}
          aria-valuemax={100}
          aria-valuetext={meterWord(mic.level)}
          className="relative h-7 w-56 overflow-hidden rounded border-2 border-ink bg-paper"
        >
          <div
            className="absolute inset-y-0 bg-mint/50"
            style={{ left: `${meterGood[0] * 100}%`, right: `${100 - meterGood[1] * 100}%` }}
          />
          <div
            className={`absolute inset-y-1 left-0 ${mic.level > meterGood[1] ? 'bg-coral' : 'bg-leaf'}`}
            style={{ width: `${mic.level * 100}%` }}
          />
        </div>
        <span role="status" className="min-w-48 flex-1">
          {state.kind === 'counting' && <b className="text-3xl">{state.left}</b>}
          {state.kind === 'recording' &&
            'Wait a moment, say the sound, wait a moment. Again, if you like: each becomes a take.'}
          {state.kind === 'listening' && 'Listening to the room …'}
          {state.kind === 'asking' && 'Opening the microphone …'}
          {state.kind === 'open' && (busy ? 'Listening to it …' : `Level: ${meterWord(mic.level)}`)}
          {state.kind === 'closed' &&
            (busy ? (
              'Listening to it …'
            ) : (
              <span className="text-soft">
                The meter moves when the microphone is open. A voice belongs in the green part.
              </span>
            ))}
        </span>
      </div>
      <div className="flex flex-wrap items-center gap-x-5 gap-y-1">
        {mic.devices.length > 0 ? (
          <label>
            with{' '}
            <Inline
              aria-label="Microphone"
              value={mic.deviceId}
              disabled={running}
              onChange={(e) => void mic.open(e.target.value)}
            >
              {mic.devices.map((d, i) => (
                <option key={d.deviceId} value={d.deviceId}>
                  {d.label || `Microphone ${i + 1}`}
                </option>
              ))}
            </Inline>
          </label>
        ) : (
          <Button look="quiet" disabled={state.kind === 'asking'} onClick={() => void mic.open()}>
            Open the microphone
          </Button>
        )}
        <Check checked={countIn} onChange={(e) => onCountIn(e.target.checked)}>
          count me in: 3, 2, 1
        </Check>
        <FileButton
          look="quiet"
          accept=".wav,.flac,.mp3,.ogg,.oga,audio/wav,audio/flac,audio/mpeg,audio/ogg"
          aria-label="Send a file: WAV, FLAC, MP3 or Ogg"
          onFile={onFile}
        >
          Send a file
        </FileButton>
        <span className="text-sm text-soft">WAV, FLAC, MP3 or Ogg, up to a minute; or drop it here</span>
      </div>
      {state.kind === 'refused' && <Notice kind="wrong">{state.why}</Notice>}
    </div>
  )
}
