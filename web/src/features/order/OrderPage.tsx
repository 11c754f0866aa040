import { lazy, Suspense, useMemo, useState } from 'react'
import { mayI, useMe, useWall } from '../../api/shared'
import { useKept } from '../../api/useKept'
import { Button, Failed, Key, LinkButton, Notice, Waiting } from '../../ui/parts'
import { PlanLinks } from '../../ui/PlanLinks'
import { useKeys } from '../../ui/useKeys'
import { useLook, useOrder, useSentences, type OrderView } from './api'
import { Ledges } from './Ledges'
import { fitted, moveBy } from './model'
import { OnePanel } from './OnePanel'
import { Proposals, ProposeForm } from './Proposals'
import { SumPanel } from './SumPanel'
import type { WallCard } from '../../api/client'

const BetterDialog = lazy(() => import('./BetterDialog'))
const TableDialog = lazy(() => import('./TableDialog'))

/** The order of teaching as ledges: moved, judged, proposed and agreed as a whole. */
export function OrderPage() {
  const order = useOrder()
  const wall = useWall()
  const error = order.error ?? wall.error
  if (error && !(order.data && wall.data)) return <Failed error={error} />
  if (!order.data || !wall.data) return <Waiting what="Setting out the order …" />
  return <Desk view={order.data} wall={wall.data} />
}

const deskKeys = {
  ArrowRight: 'the next step',
  ArrowLeft: 'the step before',
  ArrowDown: 'a ledge on',
  ArrowUp: 'a ledge back',
  'alt+ArrowRight': 'move it, or what is picked, one step on',
  'alt+ArrowLeft': 'one step back',
  'alt+ArrowDown': 'a ledge on',
  'alt+ArrowUp': 'a ledge back',
  p: 'pick it, to move several',
  k: 'keep it at its place when a better order is sought',
  z: 'take the last move back',
}

function Desk({ view, wall }: { view: OrderView; wall: WallCard[] }) {
  const me = useMe()
  const may = mayI(me.data?.rights, 'edit')
  const kept = useKept('order', view.order)
  const ids = useMemo(() => fitted(kept.value, view.order), [kept.value, view.order])
  const [former, setFormer] = useState<string[][]>([])
  const [picked, setPicked] = useState<ReadonlySet<string>>(new Set())
  const [keep, setKeep] = useState<ReadonlySet<string>>(new Set())
  const [at, setAt] = useState('')
  const [reasons, setReasons] = useState<ReadonlyMap<string, string>>(new Map())
  const [best, setBest] = useState<string[]>()
  const [open, setOpen] = useState<'better' | 'table' | ''>('')
  const look = useLook(ids)
  const sentences = useSentences(ids)
  const cards = useMemo(() => new Map(wall.map((c) => [c.card_id, c])), [wall])
  const current = ids.includes(at) ? at : (ids[0] ?? '')
  const size = look.data?.after.per_week ?? 4
  const changed = kept.dirty && ids.some((id, i) => id !== view.order[i])

  const put = (next: string[]) => {
    if (!may || next.every((id, i) => id === ids[i])) return
    setFormer([...former.slice(-99), ids])
    kept.set(next)
  }
  const undo = () => {
    const last = former.at(-1)
    if (!last) return false
    setFormer(former.slice(0, -1))
    kept.set(fitted(last, view.order))
    return true
  }
  const go = (by: number) => () => {
    const to = ids[ids.indexOf(current) + by]
    if (to === undefined) return
    setAt(to)
    document.getElementById(`step-${to}`)?.focus()
  }
  const shift = (by: number) => () => {
    put(moveBy(ids, picked.has(current) ? picked : new Set([current]), by))
    requestAnimationFrame(() => document.getElementById(`step-${current}`)?.focus())
  }
  const toggle = (set: ReadonlySet<string>, id: string) => {
    const next = new Set(set)
    if (!next.delete(id)) next.add(id)
    return next
  }
  const board = useKeys(
    {
      ArrowRight: go(1),
      ArrowLeft: go(-1),
      ArrowDown: go(size),
      ArrowUp: go(-size),
      'alt+ArrowRight': shift(1),
      'alt+ArrowLeft': shift(-1),
      'alt+ArrowDown': shift(size),
      'alt+ArrowUp': shift(-size),
      p: () => setPicked(toggle(picked, current)),
      k: () => setKeep(toggle(keep, current)),
      z: undo,
      Escape: () => setPicked(new Set()),
    },
    { repeat: true, says: deskKeys },
  )

  if (wall.length === 0)
    return (
      <div className="mx-auto flex max-w-6xl flex-col gap-4 p-5">
        <PlanLinks />
        <Notice>The library is empty. Cards that you add on the wall stand here in their order.</Notice>
      </div>
    )
  return (
    <div className="mx-auto flex max-w-[110rem] flex-col gap-3 p-3 sm:p-5">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-2">
        <h1 className="sr-only">The order of teaching</h1>
        <PlanLinks />
        <span className="ml-auto flex flex-wrap gap-2">
          {may && (
            <>
              <Button disabled={former.length === 0} onClick={undo}>
                Take back <Key>z</Key>
              </Button>
              <Button
                disabled={!changed}
                onClick={() => {
                  setFormer([...former, ids])
                  kept.settle()
                  setReasons(new Map())
                }}
              >
                As it stands
              </Button>
              <Button look="main" onClick={() => setOpen('better')}>
                Look for a better order
              </Button>
              <Button onClick={() => setOpen('table')}>From a table</Button>
            </>
          )}
          <LinkButton href="/api/order.csv">As a table (CSV)</LinkButton>
        </span>
      </div>
      {look.error && !look.data && <Notice kind="wrong">{look.error.message}</Notice>}
      <div className="grid items-start gap-5 lg:grid-cols-[1fr_23rem]">
        <div ref={board} className="min-w-0">
          <Ledges
            ids={ids}
            standing={view.order}
            size={size}
            steps={look.data?.steps ?? []}
            cards={cards}
            current={current}
            picked={picked}
            keep={keep}
            may={may}
            onAt={setAt}
            onPick={setPicked}
            onPut={put}
          />
          <p className="pt-3 text-sm text-soft">
            Drag a card, or <Key>alt</Key> with the arrows. <Key>p</Key> picks several, <Key>k</Key> keeps one at its
            place, <Key>z</Key> takes back.
          </p>
        </div>
        <aside className="flex flex-col gap-4 lg:sticky lg:top-3 lg:max-h-[calc(100vh-1.5rem)] lg:overflow-y-auto">
          <OnePanel
            id={current}
            step={look.data?.steps.find((s) => s.card_id === current)}
            card={cards.get(current)}
            number={ids.indexOf(current) + 1}
            was={view.order.indexOf(current) + 1}
            sentence={sentences.data?.[ids.indexOf(current)] ?? ''}
            waiting={sentences.isFetching}
            because={reasons.get(current) ?? ''}
            kept={keep.has(current)}
            onKeep={() => setKeep(toggle(keep, current))}
          />
          {look.data && <SumPanel look={look.data} best={best} now={ids} cards={cards} changed={changed} />}
          {may && changed && (
            <ProposeForm ids={ids} lead={mayI(me.data?.rights, 'agree')} standing={view.order} onDone={kept.settle} />
          )}
          <Proposals
            list={view.proposals}
            standing={view.order}
            lead={mayI(me.data?.rights, 'agree')}
            onShow={(after) => put(fitted(after, view.order))}
          />
        </aside>
      </div>
      <Suspense>
        {open === 'better' && (
          <BetterDialog
            ids={ids}
            keep={[...keep]}
            picked={[...picked]}
            weights={view.weights}
            before={look.data?.after.sum ?? 0}
            cards={cards}
            onFound={(found) => {
              put(found.order)
              setBest(found.order)
              const byPair = new Map(wall.map((c) => [`${c.pair.grapheme}=${c.pair.sound}`, c.card_id]))
              setReasons(new Map(found.moves.map((m) => [byPair.get(m.pair) ?? '', m.because])))
            }}
            onClose={() => setOpen('')}
          />
        )}
        {open === 'table' && (
          <TableDialog cards={cards} onTake={(order) => put(fitted(order, view.order))} onClose={() => setOpen('')} />
        )}
      </Suspense>
    </div>
  )
}
