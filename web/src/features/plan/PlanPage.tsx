import { lazy, Suspense, useMemo, useState } from 'react'
import { mayI, useChosenClass, useMe, useWall } from '../../api/shared'
import { Failed, Inline, LinkButton, Notice, Waiting } from '../../ui/parts'
import { PlanLinks } from '../../ui/PlanLinks'
import { Tabbed } from '../../ui/Tabbed'
import { useAddress } from '../../ui/useAddress'
import { useYear } from './api'
import { DayPanel } from './DayPanel'
import { LoseDialog } from './LoseDialog'
import { addDays, find, losable, weekOf } from './model'
import { WeekView } from './WeekView'
import { YearView } from './YearView'

const Forecasts = lazy(() => import('./Forecasts').then((m) => ({ default: m.Forecasts })))
const SchoolYearForm = lazy(() => import('./SchoolYearForm').then((m) => ({ default: m.SchoolYearForm })))
const ClassPace = lazy(() => import('./ClassPace').then((m) => ({ default: m.ClassPace })))

const tabs = ['week', 'year', 'reading', 'pace', 'school'] as const
const plain = { tab: 'week', day: '' }

/** What comes when in a class: this week, the year, and what follows from it. */
export function PlanPage() {
  const { classes, classId, choose } = useChosenClass()
  const year = useYear(classId)
  const wall = useWall()
  const me = useMe()
  const [at, change] = useAddress(plain)
  const [losing, setLosing] = useState('')
  const cards = useMemo(() => new Map((wall.data ?? []).map((c) => [c.card_id, c])), [wall.data])
  const error = classes.error ?? year.error ?? wall.error
  if (error && !(classes.data && year.data && wall.data)) return <Failed error={error} />
  if (classes.data?.length === 0)
    return (
      <div className="mx-auto flex max-w-6xl flex-col gap-4 p-5">
        <PlanLinks />
        <Notice>There is no class yet. Make one under “Team”; then its year is laid out here.</Notice>
      </div>
    )
  if (!year.data || !wall.data) return <Waiting what="Laying out the year …" />
  const y = year.data
  const day = at.day || y.today
  const week = weekOf(y, day)
  const may = mayI(me.data?.rights, 'teach')
  const tab = tabs.find((t) => t === at.tab) ?? 'week'
  const noTerms = y.school.school.terms.length === 0
  const today = find(y, y.today)
  return (
    <div className="mx-auto flex max-w-[100rem] flex-col gap-3 p-3 sm:p-5">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-2 text-lg">
        <h1 className="sr-only">The year of a class</h1>
        <PlanLinks />
        <label htmlFor="plan-class">of</label>
        <Inline id="plan-class" value={classId} onChange={(e) => choose(e.target.value)}>
          {classes.data?.map((c) => (
            <option key={c.class_id} value={c.class_id}>
              {c.name}
            </option>
          ))}
        </Inline>
        <span className="text-base text-soft">
          {y.per_week} new {y.per_week === 1 ? 'sound' : 'sounds'} a week
          {y.behind > 0 && `, ${y.behind} behind a year without a lost day`}
          {y.behind < 0 && `, ${-y.behind} ahead of the plan`}
        </span>
        {may && today && losable(today) && (
          <button
            type="button"
            onClick={() => setLosing(y.today)}
            className="ml-auto min-h-11 rounded-lg border-2 border-brick bg-sheet px-4 font-bold text-brick hover:bg-coral/25"
          >
            Lost today
          </button>
        )}
      </div>
      {noTerms && tab !== 'school' && (
        <Notice kind="care">
          The school year has no terms yet, so the plan runs on through the holidays.{' '}
          <button type="button" className="min-h-11 font-bold underline" onClick={() => change({ tab: 'school' })}>
            Set the terms
          </button>
        </Notice>
      )}
      {y.left.length > 0 && (
        <Notice kind="care">
          {y.left.length} {y.left.length === 1 ? 'sound finds' : 'sounds find'} no room before the last term ends. More
          a week, or a shorter order, would help.
        </Notice>
      )}
      <Tabbed
        label="Views of the plan"
        at={tab}
        onTab={(t) => change({ tab: t })}
        views={[
          {
            id: 'week',
            name: 'Week',
            view: week && (
              <WeekView
                year={y}
                week={week}
                cards={cards}
                may={may}
                onGo={(by) => change({ day: addDays(week.monday, by * 7) })}
                onToday={() => change({ day: '' })}
                onLose={setLosing}
              />
            ),
          },
          {
            id: 'year',
            name: 'Year',
            view: (
              <>
                {' '}
                <YearView
                  year={y}
                  cards={cards}
                  at={day}
                  onDay={(d) => change({ day: d })}
                  onLose={may ? setLosing : undefined}
                />
                <DayPanel year={y} date={day} cards={cards} may={may} onLose={setLosing} />
              </>
            ),
          },
          {
            id: 'reading',
            name: 'What they will read',
            view: (
              <Suspense fallback={<Waiting what="Working it out …" />}>
                <Forecasts classId={classId} year={y} />
              </Suspense>
            ),
          },
          {
            id: 'pace',
            name: 'Pace',
            view: (
              <Suspense fallback={<Waiting what="Working it out …" />}>
                <ClassPace key={classId} classId={classId} year={y} may={mayI(me.data?.rights, 'edit')} />
              </Suspense>
            ),
          },
          {
            id: 'school',
            name: 'School year',
            view: (
              <Suspense fallback={<Waiting what="Working it out …" />}>
                <SchoolYearForm lead={mayI(me.data?.rights, 'agree')} />
              </Suspense>
            ),
          },
        ]}
      />
      {tab !== 'school' && tab !== 'pace' && (
        <p className="flex flex-wrap gap-3">
          <LinkButton href={`/api/classes/${classId}/year.csv`}>As a table (CSV)</LinkButton>
        </p>
      )}
      {losing && <LoseDialog classId={classId} year={y} date={losing} cards={cards} onClose={() => setLosing('')} />}
    </div>
  )
}
