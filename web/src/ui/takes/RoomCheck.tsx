import { useState } from 'react'
import { Button, Notice } from '../parts'
import { checkRoom, type RoomReport } from './api'
import { Lamp } from './Lamp'
import { holdsToday, keepRoom, keptRoom, nothingHeard, roomCourse, roomLines } from './room'
import type { useMicrophone } from './useMicrophone'

type Step = 'idle' | 'silence' | 'word' | 'rest' | 'judging'

const told: Record<Exclude<Step, 'idle'>, { lamp: string; text: string }> = {
  silence: { lamp: 'Quiet', text: 'Keep still. When the lamp lights, say “tap!” once, as loud as you will teach.' },
  word: { lamp: '“tap!”', text: 'Now: “tap!”' },
  rest: { lamp: 'Quiet', text: 'Keep still …' },
  judging: { lamp: '…', text: 'Listening to it …' },
}

/** Checks the room and the microphone in five seconds, before the first take; what went well is kept for this voice. */
export function RoomCheck({ mic, speaker }: { mic: ReturnType<typeof useMicrophone>; speaker: string }) {
  const [step, setStep] = useState<Step>('idle')
  const [report, setReport] = useState<RoomReport>()
  const [trouble, setTrouble] = useState('')
  const kept = keptRoom(speaker)
  const today = holdsToday(kept, new Date())
  const check = async () => {
    setTrouble('')
    setReport(undefined)
    if ((mic.state.kind === 'closed' || mic.state.kind === 'refused') && !(await mic.open())) return
    setStep('silence')
    const { silence, word, rest } = roomCourse
    const lamps = [setTimeout(() => setStep('word'), silence), setTimeout(() => setStep('rest'), silence + word)]
    const heard = await mic.listen(silence + word + rest)
    lamps.forEach(clearTimeout)
    if (!heard) return setStep('idle')
    setStep('judging')
    try {
      const r = await checkRoom(heard.wav)
      setReport(r)
      if (r.ready) keepRoom(speaker, { deviceId: heard.deviceId, label: heard.label, at: Date.now(), report: r })
    } catch (e) {
      setTrouble((e as Error).message)
    }
    setStep('idle')
  }
  const running = step !== 'idle'
  if (today && !running && !report)
    return (
      <p className="flex flex-wrap items-center gap-x-3">
        <span>
          <span aria-hidden>✓</span> Room and microphone were checked today
          {kept.label && <> with {kept.label}</>}: the voice stands {kept.report.snr_db.toFixed(0)} dB over the noise.
        </span>
        <Button look="quiet" onClick={() => void check()}>
          Check again
        </Button>
      </p>
    )
  return (
    <section aria-label="Room and microphone" className="rounded-lg border-2 border-line bg-sheet p-4">
      <div className="flex flex-wrap items-center gap-5">
        {running && <Lamp lit={step === 'word'} word={told[step].lamp} />}
        <div className="flex min-w-60 flex-1 flex-col gap-2">
          <h2 className="text-lg font-bold">
            {report ? (report.ready ? 'This room will do' : 'Not yet') : 'Is this room quiet enough?'}
          </h2>
          <p role="status" className={running ? 'text-2xl' : ''}>
            {running
              ? told[step].text
              : report
                ? nothingHeard(report)
                : 'Five seconds tell: two of silence, then one word. Nothing of it is kept.'}
          </p>
          {!running && (
            <p>
              <Button
                disabled={mic.state.kind === 'recording' || mic.state.kind === 'counting'}
                onClick={() => void check()}
              >
                {report ? 'Check again' : 'Check the room and the microphone'}
              </Button>
            </p>
          )}
        </div>
        {report && !running && !nothingHeard(report) && <Result report={report} />}
      </div>
      {trouble && <Notice kind="wrong">{trouble}</Notice>}
    </section>
  )
}

function Result({ report }: { report: RoomReport }) {
  return (
    <ul className="flex min-w-72 flex-2 flex-col gap-1">
      {roomLines(report).map((l) => (
        <li key={l.name} className="grid grid-cols-[1.5rem_9rem_1fr] items-baseline gap-x-2">
          <span aria-hidden className="text-center text-xl font-bold">
            {l.mark}
          </span>
          <b>{l.name}</b>
          <span>
            {l.text}
            {l.advice && <span className="block border-l-4 border-marigold pl-2">{l.advice}</span>}
          </span>
        </li>
      ))}
    </ul>
  )
}
