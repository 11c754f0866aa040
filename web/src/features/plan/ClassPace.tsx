import { useState } from 'react'
import { callThen } from '../../api/shared'
import { faultOf } from '../../api/client'
import { useKept } from '../../api/useKept'
import { Button, Field, Heading, Input, Notice, Select } from '../../ui/parts'
import { useEndFeed, useNewFeed, useSetPace, type ClassYear } from './api'
import { long, pacesOf } from './model'
import { Weekdays } from './Weekdays'

/** How this class goes through the year where it differs, and its calendar for other programs. */
export function ClassPace({ classId, year, may }: { classId: string; year: ClassYear; may: boolean }) {
  const kept = useKept(`pace ${classId}`, year.pace)
  const save = useSetPace(classId)
  const pace = kept.value
  const choices = pacesOf(year.school.school)
  const set = (part: Partial<typeof pace>) => kept.set({ ...pace, ...part })
  return (
    <div className="grid gap-8 lg:grid-cols-2">
      <form
        className="flex flex-col gap-4"
        onSubmit={(e) => {
          e.preventDefault()
          callThen(save, { revision: year.pace_revision, pace }, kept.settle)
        }}
      >
        <Heading level={2}>The pace of {year.class.name}</Heading>
        <Field
          label="Its first lesson"
          hint="Empty: the first day of the first term."
          error={faultOf(save.error, 'start')}
        >
          {(ids) => (
            <Input
              {...ids}
              type="date"
              value={pace.start}
              disabled={!may}
              onChange={(e) => set({ start: e.target.value })}
            />
          )}
        </Field>
        <Field label="New sounds a week" error={faultOf(save.error, 'per_week') ?? faultOf(save.error, 'speed')}>
          {(ids) => (
            <Select
              {...ids}
              disabled={!may}
              value={choices.findIndex((c) => c.speed === pace.speed && c.per_week === pace.per_week)}
              onChange={(e) => {
                const chosen = choices[Number(e.target.value)]
                if (chosen) set({ speed: chosen.speed, per_week: chosen.per_week })
              }}
            >
              {choices.map((c, i) => (
                <option key={i} value={i}>
                  {c.says}
                </option>
              ))}
            </Select>
          )}
        </Field>
        <Weekdays
          label="Days with a lesson"
          hint="None ticked: as the school."
          value={pace.teaching}
          may={may}
          onChange={(teaching) => set({ teaching })}
        />
        {kept.others && (
          <Notice kind="care">Somebody changed this in the meantime; saving puts yours in its place.</Notice>
        )}
        {save.error && !['start', 'per_week', 'speed'].some((f) => faultOf(save.error, f)) && (
          <Notice kind="wrong">{save.error.message}</Notice>
        )}
        {save.isSuccess && !kept.dirty && <Notice kind="good">Kept. The year is laid out anew.</Notice>}
        {may && (
          <div className="flex gap-3">
            <Button type="submit" look="main" disabled={!kept.dirty || save.isPending}>
              Keep this pace
            </Button>
            {kept.dirty && <Button onClick={kept.settle}>As it was</Button>}
          </div>
        )}
      </form>
      <Subscription classId={classId} year={year} may={may} />
    </div>
  )
}

function Subscription({ classId, year, may }: { classId: string; year: ClassYear; may: boolean }) {
  const make = useNewFeed(classId)
  const end = useEndFeed(classId)
  const [copied, setCopied] = useState(false)
  const address = make.data ? `${location.origin}${make.data.path}` : ''
  return (
    <section className="flex flex-col gap-3">
      <Heading level={2}>In your own calendar</Heading>
      <p>
        Calendar programs can follow the plan of {year.class.name} by an address: a line for each day, with the sounds.
        It holds no names. Whoever has the address can read the plan, so pass it on only to the team.
      </p>
      {year.feed_made && !address && (
        <p>An address was made on {long(year.feed_made.slice(0, 10))}. It is shown once only; a new one ends it.</p>
      )}
      {address && (
        <>
          <Input
            readOnly
            aria-label="Address of the calendar"
            value={address}
            onFocus={(e) => e.target.select()}
            className="font-mono text-sm"
          />
          <p className="flex flex-wrap items-center gap-3">
            <Button
              onClick={() =>
                void navigator.clipboard.writeText(address).then(
                  () => setCopied(true),
                  () => setCopied(false),
                )
              }
            >
              Copy it
            </Button>
            <span role="status">{copied ? '✓ copied' : 'Shown this once: paste it into your calendar now.'}</span>
          </p>
        </>
      )}
      {(make.error ?? end.error) && <Notice kind="wrong">{(make.error ?? end.error)?.message}</Notice>}
      {may && (
        <p className="flex flex-wrap gap-3">
          <Button
            disabled={make.isPending}
            onClick={() => make.mutate(undefined, { onSuccess: () => setCopied(false) })}
          >
            {year.feed_made ? 'A new address' : 'Make an address'}
          </Button>
          {year.feed_made && (
            <Button
              look="danger"
              disabled={end.isPending}
              onClick={() => end.mutate(undefined, { onSuccess: make.reset })}
            >
              End all subscriptions
            </Button>
          )}
        </p>
      )}
    </section>
  )
}
