import { callThen } from '../../api/shared'
import { faultOf } from '../../api/client'
import { useKept } from '../../api/useKept'
import { Button, Failed, Field, Heading, Input, Notice, Waiting } from '../../ui/parts'
import { useSchoolYear, useSetSchoolYear, type Rule, type School, type SchoolYear } from './api'
import { DaysOff } from './DaysOff'
import { rules, short } from './model'
import { Weekdays } from './Weekdays'

/** Terms, days off, teaching days and the rule for lost days: the frame that every plan stands in. */
export function SchoolYearForm({ lead }: { lead: boolean }) {
  const asked = useSchoolYear()
  if (asked.error && !asked.data) return <Failed error={asked.error} />
  if (!asked.data) return <Waiting what="Looking up the school year …" />
  return <Form kept={asked.data} lead={lead} />
}

function Form({ kept: standing, lead }: { kept: SchoolYear; lead: boolean }) {
  const kept = useKept('school year', standing.school)
  const save = useSetSchoolYear()
  const school = kept.value
  const set = (part: Partial<School>) => kept.set({ ...school, ...part })
  const named = ['terms', 'off', 'assess', 'teaching', 'per_week', 'speeds', 'rule']
  return (
    <form
      className="flex flex-col gap-8"
      onSubmit={(e) => {
        e.preventDefault()
        callThen(save, { revision: standing.revision, school }, kept.settle)
      }}
    >
      <fieldset disabled={!lead} className="grid gap-x-10 gap-y-8 lg:grid-cols-2">
        <Terms school={school} suggested={standing.suggested ?? []} set={set} error={faultOf(save.error, 'terms')} />
        <section className="flex flex-col gap-4">
          <Heading level={2}>The week</Heading>
          <Field label="New sounds a week" error={faultOf(save.error, 'per_week')}>
            {(ids) => (
              <Input
                {...ids}
                type="number"
                min={1}
                max={15}
                value={Number.isNaN(school.per_week) ? '' : school.per_week}
                onChange={(e) => set({ per_week: e.target.valueAsNumber })}
              />
            )}
          </Field>
          <Weekdays
            label="Days with a lesson"
            value={school.teaching}
            may={lead}
            onChange={(teaching) => set({ teaching })}
            error={faultOf(save.error, 'teaching')}
          />
          <Weekdays
            label="Days that always revise"
            hint="None ticked: what is left of the week revises."
            value={school.revising}
            may={lead}
            onChange={(revising) => set({ revising })}
          />
          <fieldset className="flex flex-col">
            <legend className="text-sm font-bold">When a day is lost</legend>
            {Object.entries(rules).map(([id, r]) => (
              <label key={id} className="flex min-h-11 items-center gap-3">
                <input
                  type="radio"
                  name="school-rule"
                  checked={school.rule === id}
                  onChange={() => set({ rule: id as Rule })}
                  className="size-6 shrink-0 accent-slate"
                />
                <span>
                  <b>{r.name}</b>: {r.about}
                </span>
              </label>
            ))}
          </fieldset>
        </section>
        <DaysOff school={school} lead={lead} set={set} error={faultOf(save.error, 'off')} />
        <section className="flex flex-col gap-6">
          <Assess school={school} set={set} error={faultOf(save.error, 'assess')} />
          <Speeds school={school} set={set} error={faultOf(save.error, 'speeds')} />
        </section>
      </fieldset>
      {kept.others && (
        <Notice kind="care">Somebody else changed the school year; what you have is on top of theirs.</Notice>
      )}
      {save.error && !named.some((f) => faultOf(save.error, f)) && <Notice kind="wrong">{save.error.message}</Notice>}
      {save.isSuccess && !kept.dirty && <Notice kind="good">Kept. Every plan is laid out anew.</Notice>}
      {lead ? (
        <div className="sticky bottom-0 flex items-center gap-3 border-t-2 border-line bg-paper py-3">
          <Button type="submit" look="main" disabled={!kept.dirty || save.isPending}>
            Keep the school year
          </Button>
          {kept.dirty && <Button onClick={kept.settle}>As it was</Button>}
          {kept.dirty && <span className="text-soft">Not kept yet.</span>}
        </div>
      ) : (
        <Notice>A lead changes the school year.</Notice>
      )}
    </form>
  )
}

type Part = { school: School; set: (part: Partial<School>) => void; error: string | undefined }

function Terms({ school, suggested, set, error }: Part & { suggested: School['terms'] }) {
  const change = (i: number, part: Partial<School['terms'][number]>) =>
    set({ terms: school.terms.map((t, k) => (k === i ? { ...t, ...part } : t)) })
  return (
    <section className="flex flex-col gap-3">
      <Heading level={2}>Terms</Heading>
      {school.terms.length === 0 && (
        <div className="flex flex-col items-start gap-2">
          <Notice>Without terms a plan knows no holidays.</Notice>
          {suggested.length > 0 && (
            <Button look="main" onClick={() => set({ terms: suggested })}>
              Begin with {suggested.length} usual terms, {suggested[0] && short(suggested[0].first)} to{' '}
              {short(suggested.at(-1)?.last ?? '')}
            </Button>
          )}
        </div>
      )}
      <ul className="flex flex-col gap-2">
        {school.terms.map((t, i) => (
          <li key={i} className="grid grid-cols-[1fr_auto_auto_auto] items-center gap-2 max-sm:grid-cols-2">
            <Input
              aria-label={`Name of term ${i + 1}`}
              maxLength={40}
              value={t.name}
              onChange={(e) => change(i, { name: e.target.value })}
            />
            <Input
              type="date"
              aria-label={`First day of term ${i + 1}`}
              value={t.first}
              onChange={(e) => change(i, { first: e.target.value })}
            />
            <Input
              type="date"
              aria-label={`Last day of term ${i + 1}`}
              value={t.last}
              onChange={(e) => change(i, { last: e.target.value })}
            />
            <Button
              aria-label={`Take out term ${i + 1}`}
              onClick={() => set({ terms: school.terms.filter((_, k) => k !== i) })}
            >
              ×
            </Button>
          </li>
        ))}
      </ul>
      {error && (
        <p role="alert" className="text-sm font-bold text-brick">
          ! {error}
        </p>
      )}
      <Button
        className="self-start"
        onClick={() =>
          set({ terms: [...school.terms, { name: `Term ${school.terms.length + 1}`, first: '', last: '' }] })
        }
      >
        + a term
      </Button>
    </section>
  )
}

function Assess({ school, set, error }: Part) {
  return (
    <div className="flex flex-col gap-2">
      <Heading level={2}>Weeks to look back</Heading>
      <p className="text-sm text-soft">In these weeks nothing new comes: quick looks and revision.</p>
      <ul className="flex flex-wrap gap-2">
        {school.assess.map((d) => (
          <li key={d} className="flex items-center rounded-lg border-2 border-ink bg-sheet pl-3">
            week of {short(d)}
            <button
              type="button"
              aria-label={`Not the week of ${short(d)}`}
              onClick={() => set({ assess: school.assess.filter((x) => x !== d) })}
              className="min-h-11 min-w-11 text-xl hover:bg-marigold/25"
            >
              ×
            </button>
          </li>
        ))}
      </ul>
      <Field label="Add a week by one of its days" error={error}>
        {(ids) => (
          <Input
            {...ids}
            type="date"
            value=""
            onChange={(e) => e.target.value && set({ assess: [...school.assess, e.target.value].sort() })}
          />
        )}
      </Field>
    </div>
  )
}

function Speeds({ school, set, error }: Part) {
  const change = (i: number, part: Partial<School['speeds'][number]>) =>
    set({ speeds: school.speeds.map((s, k) => (k === i ? { ...s, ...part } : s)) })
  return (
    <div className="flex flex-col gap-2">
      <Heading level={2}>Other speeds</Heading>
      <p className="text-sm text-soft">
        For year groups that go slower or faster. Under “Pace” a class says to which it belongs.
      </p>
      <ul className="flex flex-col gap-2">
        {school.speeds.map((s, i) => (
          <li key={i} className="flex items-center gap-2">
            <Input
              aria-label={`Name of year group ${i + 1}`}
              maxLength={40}
              value={s.name}
              onChange={(e) => change(i, { name: e.target.value })}
            />
            <Input
              type="number"
              min={1}
              max={15}
              aria-label={`New sounds a week of ${s.name}`}
              value={Number.isNaN(s.per_week) ? '' : s.per_week}
              onChange={(e) => change(i, { per_week: e.target.valueAsNumber })}
            />
            <Button
              aria-label={`Take out ${s.name}`}
              onClick={() => set({ speeds: school.speeds.filter((_, k) => k !== i) })}
            >
              ×
            </Button>
          </li>
        ))}
      </ul>
      {error && (
        <p role="alert" className="text-sm font-bold text-brick">
          ! {error}
        </p>
      )}
      <Button
        className="self-start"
        onClick={() => set({ speeds: [...school.speeds, { name: '', per_week: school.per_week }] })}
      >
        + a year group
      </Button>
    </div>
  )
}
