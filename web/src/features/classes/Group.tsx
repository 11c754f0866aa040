import type { WallCard } from '../../api/client'
import { Heading, Notice, Check } from '../../ui/parts'
import { asIn } from '../../ui/pair'
import { useSetFlow, type ClassView } from './api'

/** What a group catches up on, whose children are in it, and whether its log counts for them. */
export function Group({ klass, wall, may }: { klass: ClassView; wall: readonly WallCard[]; may: boolean }) {
  const flow = useSetFlow(klass.class_id)
  const cards = new Map(wall.map((c) => [c.card_id, c]))
  const flows = klass.from.every((f) => f.flows_back)
  return (
    <section className="flex flex-col gap-2">
      <Heading level={2}>What it catches up on</Heading>
      <ul className="flex flex-wrap gap-4">
        {klass.focus.map((id) => {
          const c = cards.get(id)
          return (
            <li key={id} className="rounded-lg border-2 border-ink bg-sheet px-4 py-1 text-center">
              <b className="block font-child text-4xl leading-tight">{c?.pair.grapheme}</b>
              <span className="text-sm">{c && asIn(c)}</span>
            </li>
          )
        })}
      </ul>
      <p>Children of {klass.from.map((f) => f.name).join(' and ')}.</p>
      <Check checked={flows} disabled={!may || flow.isPending} onChange={(e) => flow.mutate(e.target.checked)}>
        What it practises counts for {klass.from.length === 1 ? 'its class' : 'its classes'} too
      </Check>
      {flow.error && <Notice kind="wrong">{flow.error.message}</Notice>}
    </section>
  )
}
