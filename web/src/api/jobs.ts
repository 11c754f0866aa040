import { useMutation, useQuery } from '@tanstack/react-query'
import { client, data, keys, queryClient, type Schemas } from './client'

export type Job = Schemas['JobsView']
export type JobAsk = Schemas['JobsAsk']

export const isOpen = (j: Job) => j.state === 'waiting' || j.state === 'running'

const asksAgain = 2000 // milliseconds, should the line for news be down

/** What oneself asked for that takes long, the newest first. */
export const useJobs = () =>
  useQuery({
    queryKey: keys.jobs,
    queryFn: () => data(client.GET('/jobs')),
    refetchInterval: (q) => (q.state.data?.some(isOpen) ? asksAgain : false),
  })

/** The same where somebody has asked for it already: nothing is fetched. */
export const useKnownJobs = () =>
  useQuery({ queryKey: keys.jobs, queryFn: () => data(client.GET('/jobs')), enabled: false }).data

/** Begun in this tab: their files are saved as soon as they are made. */
const awaited = new Set<string>()
export const isAwaited = (j: Job) => awaited.has(j.job_id)
export const saved = (j: Job) => void awaited.delete(j.job_id)

/** Changes the list here; an answer on its way would know nothing of it. */
async function put(change: (list: Job[]) => Job[]) {
  await queryClient.cancelQueries({ queryKey: keys.jobs })
  queryClient.setQueryData<Job[]>(keys.jobs, (list) => change(list ?? []))
  void queryClient.invalidateQueries({ queryKey: keys.jobs })
}

export const useBegin = () =>
  useMutation({
    mutationFn: (body: JobAsk) => data(client.POST('/jobs', { body })),
    onSuccess: (job) => {
      awaited.add(job.job_id)
      return put((list) => [job, ...list.filter((j) => j.job_id !== job.job_id)])
    },
  })

/** Stops a job that goes on, and forgets one that has ended. */
export const useStop = () =>
  useMutation({
    mutationFn: (id: string) => data(client.DELETE('/jobs/{id}', { params: { path: { id } } })),
    onSuccess: (_, id) => put((list) => list.filter((j) => j.job_id !== id)),
  })

export const fileOf = (j: Job) => `/api/jobs/${j.job_id}/file`
