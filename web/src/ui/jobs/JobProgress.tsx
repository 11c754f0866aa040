import { useStop, type Job } from '../../api/jobs'
import { Button, Progress } from '../parts'

/** How far a job is, and a way to stop it. */
export function JobProgress({ job }: { job: Job }) {
  const stop = useStop()
  const known = job.of_all > 0
  return (
    <div className="flex flex-wrap items-center gap-3">
      <Progress value={known ? job.done : 0} most={known ? job.of_all : 1} label={job.title} />
      <span>
        {job.state === 'waiting' ? 'waits for a server' : known ? `${job.done} of ${job.of_all}` : 'begins …'}
      </span>
      <Button disabled={stop.isPending} onClick={() => stop.mutate(job.job_id)} aria-label={`Stop: ${job.title}`}>
        Stop
      </Button>
    </div>
  )
}
