import { useCallback, useEffect, useRef, useState } from 'react'
import { CallError, type CardView, type Take } from '../../api/client'
import { Button, Field, Input, Key, Notice } from '../../ui/parts'
import { useTakeCalls, useTakes } from './api'
import { verdictWords, type Verdict } from './model'
import { useRecorder } from './useRecorder'
import { Waveform } from './Waveform'

type Props = { card: CardView; speakerName: string; mayRecord: boolean; mayChoose: boolean }

/** Record it: takes by adults of the team; the pure one is chosen. */
export function Booth({ card, speakerName, mayRecord, mayChoose }: Props) {
  const takes = useTakes(card.card_id)
  const calls = useTakeCalls(card.card_id)
  const [speaker, setSpeaker] = useState(speakerName)
  const [consent, setConsent] = useState(false)
  const file = useRef<HTMLInputElement>(null)
  const add = calls.add.mutate
  const onTake = useCallback((wav: ArrayBuffer) => add({ wav, speaker, consent }), [add, speaker, consent])
  const recorder = useRecorder(onTake)
  const recording = recorder.state.kind === 'recording'
  const error = calls.add.error
  const where = error instanceof CallError ? error.problem.field : undefined
  const other = [calls.choose.error, calls.withdraw.error, calls.trim.error].find(Boolean)
  return (
    <div className="flex flex-col gap-4">
      {mayRecord && (
        <div className="grid gap-3 md:grid-cols-2">
          <Field label="Whose voice?" hint="An adult of the team, never a child." error={where === 'speaker' ? error?.message : undefined}>
            {(ids) => <Input {...ids} value={speaker} maxLength={80} onChange={(e) => setSpeaker(e.target.value)} />}
          </Field>
          <div className="flex flex-col justify-end">
            <label className="flex min-h-11 items-center gap-3">
              <input type="checkbox" checked={consent} onChange={(e) => setConsent(e.target.checked)} className="size-6 accent-slate" />
              The speaker agrees that the recording is kept. It can be withdrawn at any time.
            </label>
            {where === 'consent' && (
              <p role="alert" className="text-sm font-bold text-brick">
                ! {error?.message}
              </p>
            )}
          </div>
          <div className="flex flex-wrap items-center gap-3 md:col-span-2">
            <Button look="main" data-state={recorder.state.kind} disabled={recorder.state.kind === 'asking' || calls.add.isPending} onClick={() => (recording ? recorder.stop() : void recorder.start())}>
              <span aria-hidden className={recording ? 'size-4 bg-coral' : 'size-4 rounded-full bg-coral'} />
              {recording ? 'Stop and keep' : 'Record'}
            </Button>
            <Button disabled={recording} onClick={() => file.current?.click()}>
              Send a WAV file
            </Button>
            <input
              ref={file}
              type="file"
              accept=".wav,audio/wav"
              aria-label="WAV file of the sound"
              className="sr-only"
              onChange={(e) => {
                const f = e.target.files?.[0]
                if (f) add({ wav: f, speaker, consent })
                e.target.value = ''
              }}
            />
            <div role="meter" aria-label="Microphone level" aria-valuenow={Math.round(recorder.level * 100)} aria-valuemin={0} aria-valuemax={100} className="h-6 w-48 overflow-hidden rounded border-2 border-ink">
              <div className="h-full bg-leaf" style={{ width: `${recorder.level * 100}%` }} />
            </div>
            <span role="status" className="text-sm text-soft">
              {recording ? 'Wait a moment, say the sound once, wait a moment.' : calls.add.isPending ? 'Listening to it …' : ''}
            </span>
          </div>
          {recorder.state.kind === 'refused' && <Notice kind="wrong">{recorder.state.why}</Notice>}
          {error && where !== 'speaker' && where !== 'consent' && <Notice kind="wrong">{error.message}</Notice>}
          {other && <Notice kind="wrong">{other.message}</Notice>}
        </div>
      )}
      {takes.data?.length === 0 && <Notice>No take yet. A class copies what it hears: record one clean sound in a quiet room.</Notice>}
      <ul className="flex flex-col gap-4">
        {takes.data?.map((t) => (
          <TakeRow
            key={`${t.take_id}-${t.trim.start_ms}-${t.trim.end_ms}`}
            take={t}
            mayChoose={mayChoose}
            mayTrim={mayRecord}
            onChoose={() => calls.choose.mutate(t.take_id)}
            onWithdraw={() => calls.withdraw.mutate(t.take_id)}
            onTrim={(start, end) => calls.trim.mutate({ takeId: t.take_id, start, end })}
          />
        ))}
      </ul>
    </div>
  )
}

type RowProps = { take: Take; mayChoose: boolean; mayTrim: boolean; onChoose: () => void; onWithdraw: () => void; onTrim: (start: number, end: number) => void }

function TakeRow({ take, mayChoose, mayTrim, onChoose, onWithdraw, onTrim }: RowProps) {
  const v = verdictWords[take.report.verdict as Verdict]
  const [sure, setSure] = useState(false)
  const findings = (take.report.findings ?? []).filter((f) => f.message !== take.report.advice)
  return (
    <li data-verdict={take.report.verdict} className={`rounded-lg border-2 bg-sheet p-4 ${take.chosen ? 'border-leaf' : 'border-line'}`}>
      <div className="flex flex-wrap items-center gap-3">
        <span className={`flex size-9 items-center justify-center rounded-full border-2 border-ink text-xl font-bold ${take.report.verdict === 'pure' ? 'bg-mint' : take.report.verdict === 'fix' ? 'bg-marigold' : 'bg-coral'}`} aria-hidden>
          {v.mark}
        </span>
        <div className="min-w-0 flex-1">
          <p className="font-bold">
            {v.text}
            {take.chosen && <span className="ml-2 rounded bg-mint px-2 text-sm">the card’s sound</span>}
          </p>
          <p className="text-sm">{take.report.advice}</p>
        </div>
        <PlayButton src={`/api/takes/${take.take_id}/sound?trim=${take.trim.start_ms}-${take.trim.end_ms}`} label="Play" />
        {mayChoose && !take.chosen && <Button onClick={onChoose}>Choose</Button>}
        {mayChoose && (sure ? <Button look="danger" onClick={onWithdraw}>Yes, remove this voice</Button> : <Button look="quiet" onClick={() => setSure(true)}>Withdraw</Button>)}
      </div>
      <div className="mt-3">
        <Waveform take={take} onTrim={onTrim} readOnly={!mayTrim} />
      </div>
      {findings.length > 0 && (
        <ul className="mt-1 list-disc pl-6 text-sm">
          {findings.map((f) => (
            <li key={f.code}>
              {f.message} ({f.value} {f.unit})
            </li>
          ))}
        </ul>
      )}
      <p className="mt-1 text-sm text-soft">
        {take.speaker}, agreed on {new Date(take.consent_on).toLocaleDateString('en-GB')} · {take.report.duration_ms} ms · level {take.report.level_lufs.toFixed(0)} LUFS · signal to noise {take.report.snr_db.toFixed(0)} dB · voiced{' '}
        {Math.round(take.report.voiced_fraction * 100)} %{take.report.f0_hz > 0 && ` · voice at ${take.report.f0_hz.toFixed(0)} Hz`}
      </p>
    </li>
  )
}

export function PlayButton({ src, label, shortcut }: { src: string; label: string; shortcut?: string }) {
  const audio = useRef<HTMLAudioElement>(null)
  useEffect(() => {
    if (!shortcut) return
    const onKey = (e: KeyboardEvent) => {
      if (e.key === shortcut && e.altKey) {
        e.preventDefault()
        void audio.current?.play()
      }
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [shortcut])
  return (
    <>
      <audio ref={audio} src={src} preload="none" />
      <Button onClick={() => void audio.current?.play()}>
        <span aria-hidden>▶</span> {label} {shortcut && <Key>alt {shortcut}</Key>}
      </Button>
    </>
  )
}
