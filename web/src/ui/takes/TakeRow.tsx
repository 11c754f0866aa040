import { lazy, Suspense, useState } from 'react'
import type { Take } from '../../api/client'
import { Button } from '../parts'
import { soundOf, useSamples, type Fixes } from './api'
import { bitsOf, decodedHertz, leastLeft, verdictWords, type Bit, type Verdict } from './model'
import { playInTurn, playPart } from './play'
import { Waveform } from './Waveform'

const Closer = lazy(() => import('./Closer'))

export type Other = { url: string; label: string }
type Props = {
  take: Take
  others: Other[]
  mayChoose: boolean
  mayFix: boolean
  onChoose: () => void
  onWithdraw: () => void
  onFix: (fixes: Fixes) => void
}

/** One take: what was heard in it, and what can be done with it. */
export function TakeRow({ take, others, mayChoose, mayFix, onChoose, onWithdraw, onFix }: Props) {
  const v = verdictWords[take.report.verdict as Verdict]
  const [closer, setCloser] = useState(false)
  const samples = useSamples(take.take_id)
  const bits = bitsOf(take)
  const hear = (f: Bit) => playPart(samples.data ?? new Float32Array(), decodedHertz, f.from_ms, f.to_ms)
  const findings = take.report.findings.filter((f) => f.message !== take.report.advice)
  const tone = take.report.verdict === 'pure' ? 'bg-mint' : take.report.verdict === 'fix' ? 'bg-marigold' : 'bg-coral'
  return (
    <li
      data-verdict={take.report.verdict}
      className={`rounded-lg border-2 bg-sheet p-4 ${take.chosen ? 'border-leaf' : 'border-line'}`}
    >
      <div className="flex flex-wrap items-center gap-3">
        <span
          className={`flex size-9 items-center justify-center rounded-full border-2 border-ink text-xl font-bold ${tone}`}
          aria-hidden
        >
          {v.mark}
        </span>
        <div className="min-w-0 flex-1">
          <p className="flex flex-wrap items-center gap-x-2 font-child text-2xl leading-tight font-bold">
            {v.text}
            {take.chosen && <span className="rounded bg-mint px-2 font-adult text-sm">the card’s sound</span>}
          </p>
          <p className="text-lg leading-snug">{take.report.advice}</p>
        </div>
        <Button onClick={() => void playInTurn(soundOf(take))}>
          <span aria-hidden>▶</span> Play
        </Button>
        {mayChoose && !take.chosen && <Button onClick={onChoose}>Choose</Button>}
        {mayChoose && (
          <Button look="quiet" onClick={onWithdraw}>
            Withdraw
          </Button>
        )}
      </div>
      <div className="mt-3">
        <Waveform
          take={take}
          onTrim={(start, end) => onFix({ start_ms: start, end_ms: end, plain: take.plain })}
          readOnly={!mayFix}
        />
      </div>
      <div className="flex flex-wrap items-center gap-x-2 gap-y-1">
        {others.map((o) => (
          <Button key={o.label} look="quiet" onClick={() => void playInTurn(soundOf(take), o.url)}>
            <span aria-hidden>▶▶</span> then {o.label}
          </Button>
        ))}
        {mayFix &&
          (take.plain ? (
            <Button look="quiet" onClick={() => onFix({ start_ms: 0, end_ms: 0, propose: true })}>
              Trim and level it again
            </Button>
          ) : (
            <Button look="quiet" onClick={() => onFix({ start_ms: 0, end_ms: take.report.duration_ms, plain: true })}>
              Undo the fixes: as recorded
            </Button>
          ))}
        <Button look="quiet" aria-expanded={closer} onClick={() => setCloser(!closer)}>
          {closer ? 'Less' : 'Measurements'}
        </Button>
        <span className="text-sm text-soft">
          {take.plain ? 'Played as recorded.' : 'Played trimmed, without rumble, as loud as the others.'}
        </span>
      </div>
      {bits.map((f) => (
        <p key={f.code} className="mt-1 flex flex-wrap items-center gap-2">
          <span className="text-sm">
            The marked bit:
            {f.sure ? ` ${f.sure >= 0.9 ? 'sure' : f.sure >= 0.7 ? 'likely' : 'listen yourself'}.` : ''}
          </span>
          <Button disabled={!samples.data} onClick={() => void hear(f)}>
            <span aria-hidden>▶</span> Hear this bit alone
          </Button>
          {mayFix && f.from_ms - take.trim.start_ms >= leastLeft && take.trim.end_ms > f.from_ms && (
            <Button onClick={() => onFix({ start_ms: take.trim.start_ms, end_ms: f.from_ms, plain: take.plain })}>
              Cut here
            </Button>
          )}
        </p>
      ))}
      {findings.length > 0 && (
        <ul className="mt-1 list-disc pl-6 text-sm">
          {findings.map((f) => (
            <li key={f.code}>{f.message}</li>
          ))}
        </ul>
      )}
      {closer && (
        <div className="mt-2 flex flex-col gap-2">
          <Suspense fallback={<p className="text-sm text-soft">Drawing …</p>}>
            <Closer url={`/api/takes/${take.take_id}/original`} />
          </Suspense>
          <Figures take={take} />
        </div>
      )}
      <p className="mt-1 text-sm text-soft">
        {take.speaker}, agreed on {new Date(take.consent_on).toLocaleDateString('en-GB')}
      </p>
    </li>
  )
}

/** All that was measured, for those who want to know. */
function Figures({ take }: { take: Take }) {
  const r = take.report
  const m = r.measures
  const rows: [string, string][] = [
    ['length', `${r.duration_ms} ms`],
    ['level', `${r.level_lufs.toFixed(0)} LUFS`],
    ['signal to noise', `${r.snr_db.toFixed(0)} dB`],
    ['voiced', `${Math.round(r.voiced_fraction * 100)} %`],
    ['voice at', r.f0_hz > 0 ? `${r.f0_hz.toFixed(0)} Hz` : 'no voice'],
    ['loudest sample', `${r.peak_dbfs.toFixed(1)} dBFS`],
    ['noise floor', `${m.noise_floor_dbfs.toFixed(0)} dBFS`],
    ['mains hum', m.mains_hum_db > 0 ? `${m.mains_hum_db.toFixed(0)} dB at ${m.mains_hz} Hz` : 'none'],
    ['rises in', `${m.attack_ms} ms`],
    ['falls in', `${m.release_ms} ms`],
    ['steadiness', `${m.steadiness_db.toFixed(1)} dB`],
    ['centre of the hiss', m.centroid_hz > 0 ? `${Math.round(m.centroid_hz)} Hz` : 'no hiss'],
    ['formants', m.f1_hz > 0 ? `F1 ${Math.round(m.f1_hz)}, F2 ${Math.round(m.f2_hz)} Hz` : 'no vowel'],
    ['flattened samples', String(r.clipped)],
  ]
  return (
    <dl className="grid grid-cols-2 gap-x-6 text-sm sm:grid-cols-3">
      {[...rows, ...r.findings.map((f) => [f.code.replaceAll('-', ' '), `${f.value} ${f.unit}`] as const)].map(
        ([name, value]) => (
          <div key={name} className="flex justify-between gap-2 border-b border-line">
            <dt className="text-soft">{name}</dt>
            <dd className="font-bold">{value}</dd>
          </div>
        ),
      )}
    </dl>
  )
}
