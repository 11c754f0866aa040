import type { ReactNode } from 'react'
import { isOpen, useBegin, useJobs, type JobAsk } from '../../api/jobs'
import { Button, Notice } from '../parts'

/** Asks for something that takes long; how far it is shows at the edge of every page. */
export function JobButton({ ask, children }: { ask: JobAsk; children: ReactNode }) {
  const begin = useBegin()
  const goesOn = useJobs().data?.some((j) => isOpen(j) && j.job_id === begin.data?.job_id)
  return (
    <>
      <Button
        disabled={begin.isPending || goesOn}
        onClick={() => begin.mutate(ask)}
        className="max-w-full [overflow-wrap:anywhere]"
      >
        {children}
      </Button>
      {begin.error && <Notice kind="wrong">{begin.error.message}</Notice>}
    </>
  )
}
