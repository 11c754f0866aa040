import { useState } from 'react'
import { useBankTexts } from '../../api/shared'
import { Failed, Input, Inline, Notice, Waiting } from '../../ui/parts'
import { useForecast, type ClassYear, type Forecast } from './api'
import { addDays, by, curves, short } from './model'

const width = 640
const height = 240
const styles = ['stroke-slate', 'stroke-brick [stroke-dasharray:8_6]', 'stroke-leaf [stroke-dasharray:2_6]']

/** By which week which words and texts can be read, for three ways that the year may go. */
export function Forecasts({ classId, year }: { classId: string; year: ClassYear }) {
  const [loseWeek, setLoseWeek] = useState(() => addDays(year.today, 7))
  const [perWeek, setPerWeek] = useState(year.per_week >= 5 ? year.per_week - 1 : 5)
  const asked = useForecast(classId, { lose_week: loseWeek, per_week: perWeek })
  if (asked.error && !asked.data) return <Failed error={asked.error} />
  if (!asked.data) return <Waiting what="Reading ahead …" />
  const list = asked.data
  const label = (f: Forecast) =>
    f.name === 'as planned'
      ? `as planned, ${f.per_week} a week`
      : f.name === 'a week lost'
        ? `if we lose ${f.lost.length} ${f.lost.length === 1 ? 'day' : 'days'}`
        : `if we do ${f.per_week} a week`
  return (
    <div className="flex flex-col gap-5" aria-busy={asked.isFetching}>
      <p className="flex flex-wrap items-center gap-2 text-lg">
        As planned, beside: if we lose the week of
        <span className="w-44">
          <Input
            type="date"
            aria-label="A day of the week that is lost"
            value={loseWeek}
            min={year.today}
            onChange={(e) => e.target.value && setLoseWeek(e.target.value)}
          />
        </span>
        and if we do
        <Inline aria-label="New sounds a week" value={perWeek} onChange={(e) => setPerWeek(Number(e.target.value))}>
          {[1, 2, 3, 4, 5, 6, 8, 10].map((n) => (
            <option key={n} value={n}>
              {n} a week
            </option>
          ))}
        </Inline>
      </p>
      {list.every((f) => f.weeks.length === 0) && <Notice>This class has met every sound of the order.</Notice>}
      <div className="flex flex-wrap items-start gap-x-8 gap-y-4">
        <Curve list={list} label={label} />
        <Ends list={list} year={year} label={label} />
      </div>
      {list[0] && <Weeks forecast={list[0]} />}
    </div>
  )
}

function Curve({ list, label }: { list: Forecast[]; label: (f: Forecast) => string }) {
  const { lines, most } = curves(list, width, height)
  const weeks = Math.max(1, ...list.map((f) => f.weeks.length))
  return (
    <figure className="min-w-0 flex-1 basis-[34rem]">
      <svg
        viewBox={`-44 -10 ${width + 60} ${height + 40}`}
        className="w-full max-w-3xl"
        role="img"
        aria-label={`Familiar words that can be read over ${weeks} weeks: ${list.map((f, i) => `${label(f)} ${lines[i]?.last.words ?? 0}`).join('; ')}`}
      >
        {[0, 0.25, 0.5, 0.75, 1].map((p) => (
          <g key={p}>
            <line x1={0} x2={width} y1={height * (1 - p)} y2={height * (1 - p)} className="stroke-line" />
            <text x={-6} y={height * (1 - p) + 5} textAnchor="end" className="fill-soft text-[14px]">
              {Math.round(most * p)}
            </text>
          </g>
        ))}
        {lines.map((l, i) => (
          <polyline key={l.name} points={l.points} fill="none" strokeWidth={3.5} className={styles[i]} />
        ))}
        <text x={0} y={height + 22} className="fill-soft text-[14px]">
          today
        </text>
        <text x={width} y={height + 22} textAnchor="end" className="fill-soft text-[14px]">
          in {weeks} weeks
        </text>
      </svg>
      <figcaption className="flex flex-wrap gap-x-5 gap-y-1 text-base">
        {list.map((f, i) => (
          <span key={f.name} className="flex items-center gap-2">
            <svg viewBox="0 0 40 8" className="w-10" aria-hidden>
              <line x1="0" x2="40" y1="4" y2="4" strokeWidth="4" className={styles[i]} />
            </svg>
            {label(f)}
          </span>
        ))}
        <span className="text-soft">familiar words that can be read</span>
      </figcaption>
    </figure>
  )
}

function Ends({ list, year, label }: { list: Forecast[]; year: ClassYear; label: (f: Forecast) => string }) {
  const coming = year.school.school.terms.filter((t) => t.last >= year.today)
  const points =
    coming.length > 0
      ? coming.map((t) => ({ name: `End of ${t.name.toLowerCase()}`, date: t.last }))
      : [{ name: 'In ten weeks', date: addDays(year.today, 70) }]
  return (
    <table className="text-left">
      <caption className="sr-only">What can be read when, side by side</caption>
      <thead>
        <tr className="border-b-2 border-ink align-bottom">
          <th className="pr-4">
            <span className="sr-only">by when</span>
          </th>
          {list.map((f) => (
            <th key={f.name} className="w-36 px-3 py-1">
              {label(f)}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {points.map((p) => (
          <tr key={p.name} className="border-b border-line align-top">
            <th className="py-2 pr-4 font-normal">
              {p.name}
              <br />
              <span className="text-sm text-soft">{short(p.date)}</span>
            </th>
            {list.map((f) => {
              const { words, texts } = by(f, p.date)
              return (
                <td key={f.name} className="px-3 py-2">
                  <b className="text-xl">{words}</b> words
                  <br />
                  <span className="text-sm">
                    {texts} new {texts === 1 ? 'text' : 'texts'} of the bank
                  </span>
                </td>
              )
            })}
          </tr>
        ))}
        <tr className="align-top">
          <th className="py-2 pr-4 font-normal">The last new sound</th>
          {list.map((f) => (
            <td key={f.name} className="px-3 py-2">
              <b>{f.ends ? short(f.ends) : '–'}</b>
              {f.left > 0 && (
                <>
                  <br />
                  <span className="text-sm font-bold text-brick">{f.left} left over</span>
                </>
              )}
            </td>
          ))}
        </tr>
      </tbody>
    </table>
  )
}

function Weeks({ forecast }: { forecast: Forecast }) {
  const bank = new Map((useBankTexts().data ?? []).map((t) => [t.text_id, t.body]))
  return (
    <section className="flex flex-col gap-1">
      <h2 className="writing-line font-child text-2xl font-bold">Week by week</h2>
      <ol>
        {forecast.weeks.map((w) => (
          <li key={w.monday} className="grid gap-x-4 border-b border-line py-1 sm:grid-cols-[7rem_9rem_1fr]">
            <b>{short(w.monday)}</b>
            <span>
              {w.words} words{w.new > 0 && <span className="text-soft"> (+{w.new})</span>}
            </span>
            <span>
              <span className="font-child text-lg">{w.best.join('  ·  ')}</span>
              {w.texts.map((id) => (
                <span key={id} className="block text-sm">
                  ✓ text: {(bank.get(id) ?? '').slice(0, 90)}
                </span>
              ))}
            </span>
          </li>
        ))}
      </ol>
    </section>
  )
}
