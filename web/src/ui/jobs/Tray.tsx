import { useEffect, useRef, useState } from 'react'
import { fileOf, isAwaited, isOpen, saved, useJobs, useStop, type Job } from '../../api/jobs'
import { LinkButton } from '../parts'
import { JobProgress } from './JobProgress'

/** What is being made for somebody, and what is ready to be fetched, at the edge of every page. */
export default function Tray() {
  const jobs = useJobs()
  const shown = jobs.data?.filter((j) => j.kind !== 'search' && (isOpen(j) || j.state === 'failed' || j.file)) ?? []
  const busy = shown.filter(isOpen).length
  const [wide, setWide] = useState(() => shown.some(isAwaited))
  const [was, setWas] = useState(0)
  if (busy !== was) {
    setWas(busy)
    if (busy > was) setWide(true) // what was just asked for is seen, also when it is done
  }
  if (shown.length === 0) return null
  return (
    <section
      aria-label="Made for you"
      className="only-screen fixed right-3 bottom-3 z-10 flex max-h-[45vh] max-w-[calc(100vw-1.5rem)] flex-col rounded-lg border-2 border-ink bg-sheet shadow-2xl"
    >
      <button
        type="button"
        aria-expanded={wide}
        onClick={() => setWide(!wide)}
        className="flex min-h-11 items-center gap-2 rounded-lg px-4 font-bold hover:bg-marigold/25"
      >
        <span aria-hidden>{wide ? '▾' : '▴'}</span>
        <span role="status">{busy > 0 ? `${busy} being made` : `${shown.length} made for you`}</span>
        {wide && <span className="ml-auto text-sm font-normal text-soft">kept for an hour</span>}
      </button>
      {wide && (
        <ul className="w-md max-w-full divide-y divide-line overflow-y-auto px-4 pb-1">
          {shown.map((j) => (
            <One key={j.job_id} job={j} />
          ))}
        </ul>
      )}
    </section>
  )
}

/** Pages to print are opened, files to keep are saved. */
const opens = (job: Job) => job.kind === 'cards' || job.kind === 'sheets'

function One({ job }: { job: Job }) {
  const stop = useStop()
  const row = useRef<HTMLLIElement>(null)
  useEffect(() => {
    if (!job.file || !isAwaited(job)) return
    saved(job)
    row.current?.querySelector('a')?.click()
  }, [job])
  const open = isOpen(job)
  return (
    <li ref={row} className="flex flex-col gap-1 py-2">
      <div className="flex items-center gap-3">
        <b className="min-w-0 flex-1">
          {job.state === 'failed' && '× '}
          {job.title}
        </b>
        {job.file && (
          <LinkButton href={fileOf(job)} look="main" {...(opens(job) ? { target: '_blank' } : { download: '' })}>
            {opens(job) ? 'Open' : 'Save'}
          </LinkButton>
        )}
        {!open && (
          <button
            type="button"
            aria-label={`Put away: ${job.title}`}
            onClick={() => stop.mutate(job.job_id)}
            className="min-h-11 min-w-11 rounded-lg text-2xl hover:bg-marigold/25"
          >
            ×
          </button>
        )}
      </div>
      {open && <JobProgress job={job} />}
      {job.state === 'failed' && <p>{job.said}</p>}
      {stop.error && <p>{stop.error.message}</p>}
    </li>
  )
}
