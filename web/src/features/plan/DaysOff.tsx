import { useState } from 'react'
import { Button, FileButton, Heading, Input, Notice } from '../../ui/parts'
import { useReadDaysOff, type School } from './api'
import { daysBetween, runs, short } from './model'

type Props = {
  school: School
  lead: boolean
  set: (part: Partial<School>) => void
  error: string | undefined
}

type Off = School['off'][number]

const joined = (a: readonly Off[], b: readonly Off[]) =>
  [...a.filter((x) => !b.some((y) => y.date === x.date)), ...b].sort((x, y) => x.date.localeCompare(y.date))

/** Days without lessons inside the terms: by hand, or out of a calendar or a table. */
export function DaysOff({ school, lead, set, error }: Props) {
  const [from, setFrom] = useState('')
  const [to, setTo] = useState('')
  const [name, setName] = useState('')
  const add = () => {
    set({
      off: joined(
        school.off,
        daysBetween(from, to || from).map((date) => ({ date, name: name.trim() || 'day off' })),
      ),
    })
    setFrom('')
    setTo('')
    setName('')
  }
  const backwards = to !== '' && to < from
  return (
    <section className="flex flex-col gap-3">
      <Heading level={2}>Days off</Heading>
      <ul tabIndex={0} className="flex max-h-72 flex-col overflow-y-auto">
        {runs(school.off).map((r) => (
          <li key={r.from} className="flex min-h-11 items-center gap-3 border-b border-line">
            <span className="w-40">{r.from === r.to ? short(r.from) : `${short(r.from)} to ${short(r.to)}`}</span>
            <span className="flex-1">{r.name}</span>
            {lead && (
              <Button
                aria-label={`Take out ${r.name}, ${short(r.from)}`}
                onClick={() => set({ off: school.off.filter((d) => d.date < r.from || d.date > r.to) })}
              >
                ×
              </Button>
            )}
          </li>
        ))}
      </ul>
      {school.off.length === 0 && <p className="text-soft">None yet. Holidays inside a term belong here.</p>}
      {error && (
        <p role="alert" className="text-sm font-bold text-brick">
          ! {error}
        </p>
      )}
      {lead && (
        <>
          <div className="grid grid-cols-[auto_auto_1fr_auto] items-center gap-2 max-sm:grid-cols-2">
            <Input type="date" aria-label="First day off" value={from} onChange={(e) => setFrom(e.target.value)} />
            <Input type="date" aria-label="Last day off" value={to} onChange={(e) => setTo(e.target.value)} />
            <Input
              aria-label="What it is"
              placeholder="half term"
              maxLength={80}
              value={name}
              onChange={(e) => setName(e.target.value)}
            />
            <Button disabled={!from || backwards} onClick={add}>
              Add
            </Button>
          </div>
          {backwards && (
            <p role="alert" className="text-sm font-bold text-brick">
              ! The last day comes before the first.
            </p>
          )}
          <FromFile school={school} set={set} />
        </>
      )}
    </section>
  )
}

/** Days off out of a file: shown before they are taken. */
function FromFile({ school, set }: Pick<Props, 'school' | 'set'>) {
  const read = useReadDaysOff()
  const found = read.data
  return (
    <div className="flex flex-col gap-2 rounded-lg border-2 border-dashed border-line p-3">
      <p>Out of a calendar (.ics) or a table with a date and a name in each line (.csv):</p>
      <FileButton
        accept=".ics,.csv,text/calendar,text/csv"
        aria-label="Choose a file with days off"
        className="self-start"
        disabled={read.isPending}
        onFile={(file) => read.mutate(file)}
      >
        Choose a file
      </FileButton>
      {read.error && <Notice kind="wrong">{read.error.message}</Notice>}
      {found && found.days.length === 0 && (
        <Notice>
          There is no day off within your terms in it{found.outside > 0 && `, and ${found.outside} outside`}.
        </Notice>
      )}
      {found && found.days.length > 0 && (
        <>
          <ul tabIndex={0} className="max-h-40 overflow-y-auto">
            {runs(found.days).map((r) => (
              <li key={r.from} className="flex gap-3 border-b border-line">
                <span className="w-40">{r.from === r.to ? short(r.from) : `${short(r.from)} to ${short(r.to)}`}</span>
                {r.name}
              </li>
            ))}
          </ul>
          <p className="text-sm text-soft">
            {found.outside > 0 && `${found.outside} days outside the terms and `}
            {found.skipped} {found.skipped === 1 ? 'event' : 'events'} that fill no whole day are left out.
          </p>
          <div className="flex gap-3">
            <Button
              look="main"
              onClick={() => {
                set({ off: joined(school.off, found.days) })
                read.reset()
              }}
            >
              Take these {found.days.length} days
            </Button>
            <Button onClick={read.reset}>Leave them</Button>
          </div>
        </>
      )}
    </div>
  )
}
