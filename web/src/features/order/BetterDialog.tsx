import { Modal, ModalClose } from '../../ui/Modal'
import { useEffect, useState } from 'react'
import type { WallCard } from '../../api/client'
import { isOpen, useBegin, useJobs, useStop } from '../../api/jobs'
import { Button, Notice, Progress, Select, Check } from '../../ui/parts'
import type { Found, Weights } from './api'
import { percent } from './model'

const wishes: { key: keyof Weights; name: string; most: number }[] = [
  { key: 'pictures', name: 'words with a picture come early', most: 2 },
  { key: 'alike', name: 'look-alikes and sound-alikes lie far apart', most: 3 },
  { key: 'sounds', name: 'spellings of one sound lie apart', most: 2 },
  { key: 'stretch', name: 'sounds that can be held come first', most: 2 },
  { key: 'writing', name: 'what is easy to write comes first', most: 2 },
  { key: 'vowels', name: 'vowels are spread evenly', most: 2 },
  { key: 'together', name: 'what belongs together stays together', most: 2 },
]

type Props = {
  ids: string[]
  keep: string[]
  picked: string[]
  weights: Weights
  before: number
  cards: ReadonlyMap<string, WallCard>
  onFound: (found: Found) => void
  onClose: () => void
}

/** Looks for a better order by what matters to the team; it can be stopped, and what is found is only shown. */
export default function BetterDialog({ ids, keep, picked, weights: usual, before, cards, onFound, onClose }: Props) {
  const [weights, setWeights] = useState(usual)
  const [seconds, setSeconds] = useState(10)
  const [together, setTogether] = useState(false)
  const jobs = useJobs()
  const start = useBegin()
  const { mutate: stop } = useStop()
  const id = start.data?.job_id
  const job = jobs.data?.find((j) => j.job_id === id)
  const part = start.isPending || (job && isOpen(job)) ? { done: job?.done ?? 0, sum: job?.note ?? 0 } : undefined
  const error = start.error?.message ?? (job?.state === 'failed' ? job.said : '')
  const found = job?.found
  useEffect(() => {
    if (!found) return
    onFound(found)
    onClose() // which drops the job
  }, [found, onFound, onClose])
  useEffect(
    () => () => {
      if (id) stop(id) // nobody waits for it any more
    },
    [id, stop],
  )
  const begin = () =>
    start.mutate({
      kind: 'search',
      search: { order: ids, keep, groups: together ? [picked] : [], weights, seconds },
    })
  const named = (list: string[]) => list.map((id) => cards.get(id)?.pair.grapheme).join(' ')
  return (
    <Modal
      title="A better order"
      about="Early readable words are what an order is for. Say what else matters; then it is sought among all orders of these cards. Nothing changes until you propose it."
      width="max-w-xl"
      onClose={onClose}
    >
      <fieldset disabled={part !== undefined} className="flex flex-col gap-1">
        {wishes.map((w) => (
          <label key={w.key} className="grid min-h-11 grid-cols-[1fr_9rem_4rem] items-center gap-3">
            <span>{w.name}</span>
            <input
              type="range"
              min={0}
              max={w.most}
              step={w.most / 20}
              value={weights[w.key]}
              onChange={(e) => setWeights({ ...weights, [w.key]: Number(e.target.value) })}
              className="min-h-11 accent-slate"
            />
            <span className="text-sm text-soft">{said(weights[w.key], usual[w.key], w.most)}</span>
          </label>
        ))}
        {picked.length > 1 && (
          <Check checked={together} onChange={(e) => setTogether(e.target.checked)}>
            <b className="font-child">{named(picked)}</b> belong together
          </Check>
        )}
        <label className="flex min-h-11 items-center gap-3">
          Look for
          <Select value={seconds} onChange={(e) => setSeconds(Number(e.target.value))}>
            {[5, 10, 20, 30].map((n) => (
              <option key={n} value={n}>
                {n} seconds
              </option>
            ))}
          </Select>
        </label>
      </fieldset>
      <p className="text-sm">
        {keep.length > 0 ? (
          <>
            Kept at their places: <b className="font-child text-base">{named(keep)}</b>
          </>
        ) : (
          'No card is kept at its place. Close this and press k on those that must stay.'
        )}
      </p>
      {error && <Notice kind="wrong">{error}</Notice>}
      {part && (
        <div className="flex flex-wrap items-center gap-3" role="status">
          <Progress value={part.done} most={100} label="How far the search has come" />
          <span>{part.sum > 0 ? `best so far ${percent(before, part.sum)} % more readable words` : 'looking …'}</span>
        </div>
      )}
      <div className="flex justify-end gap-3">
        {part ? (
          <Button onClick={() => id && stop(id)}>Stop looking</Button>
        ) : (
          <>
            <ModalClose>
              <Button>Leave it</Button>
            </ModalClose>
            <Button look="main" onClick={begin}>
              Look for it
            </Button>
          </>
        )}
      </div>
    </Modal>
  )
}

const said = (value: number, usual: number, most: number) =>
  value === 0 ? 'not at all' : Math.abs(value - usual) < most / 40 ? 'usual' : value > usual ? 'more' : 'less'
