import { recall, remember } from '../../ui/remembered'
import { Link, useNavigate } from '@tanstack/react-router'
import { lazy, Suspense, useEffect, useMemo, useRef, useState } from 'react'
import { mayI, useClass, useClasses, useMe, useWall } from '../../api/shared'
import { Button, Failed, Inline, Key, Notice, Waiting } from '../../ui/parts'
import { keysOn, useKeys } from '../../ui/useKeys'
import { useAddress } from '../../ui/useAddress'
import { everything, filterOf, ledges, ledgeSize, needs, sideOf, sides, standing, step, type Side } from './model'
import { SoundCard } from './SoundCard'

const inView = 6
const findKey = { f: 'find a card on the wall' }
const boardKeys = {
  ' ': 'turn the card',
  ArrowRight: 'the next card',
  ArrowLeft: 'the card before',
  ArrowDown: 'the ledge below',
  ArrowUp: 'the ledge above',
  Enter: 'open the card',
}
const NewCardDialog = lazy(() => import('./NewCardDialog'))

export function WallPage() {
  const wall = useWall()
  const classes = useClasses()
  const me = useMe()
  const [classId, setClassId] = useState(() => recall('wall-class') ?? '')
  const chosen = classes.data?.find((c) => c.class_id === classId) ?? classes.data?.[0]
  const klass = useClass(classId === 'none' ? '' : (chosen?.class_id ?? ''))
  const [asked, setFilter] = useAddress(everything)
  const filter = useMemo(() => filterOf(asked), [asked])
  const [at, setAt] = useState('')
  const [turned, setTurned] = useState('')
  const [side, setSide] = useState<Side>(() => sideOf(recall('wall-side')))
  const search = useRef<HTMLInputElement>(null)
  const go = useNavigate()
  const rows = useMemo(() => ledges(wall.data ?? [], filter), [wall.data, filter])
  const taught = useMemo(() => (klass.data ? new Set(klass.data.cards.map((c) => c.card_id)) : undefined), [klass.data])
  const current = rows.some((r) => r.cards.some((c) => c.card_id === at)) ? at : rows[0]?.cards[0]?.card_id

  const onward = (key: string) => () => {
    const next = current && document.activeElement !== document.body && step(rows, current, key)
    if (!next) return false
    setAt(next)
    document.getElementById(`card-${next}`)?.focus()
  }
  useKeys({ f: () => search.current?.focus() }, { everywhere: true, says: findKey })
  const board = useKeys(
    {
      ' ': () => current && setTurned(turned === current ? '' : current),
      ArrowLeft: onward('ArrowLeft'),
      ArrowRight: onward('ArrowRight'),
      ArrowUp: onward('ArrowUp'),
      ArrowDown: onward('ArrowDown'),
    },
    { repeat: true, says: boardKeys },
  )

  // The ledges in view are painted first; the others follow when the browser has a moment.
  const ready = Boolean(wall.data)
  const [whole, setWhole] = useState(false)
  useEffect(() => {
    if (!ready) return
    requestAnimationFrame(() =>
      requestAnimationFrame(() => {
        performance.mark('wall-painted')
        setTimeout(() => setWhole(true))
      }),
    )
  }, [ready])

  if (wall.error && !wall.data) return <Failed error={wall.error} />
  if (!wall.data) return <Waiting what="Setting out the cards …" />
  const complete = wall.data.filter((c) => c.gaps.length === 0).length
  return (
    <div className="mx-auto px-3 pb-10 sm:px-5" ref={board}>
      <div className="flex flex-wrap items-center gap-x-2 gap-y-2 py-3 text-lg">
        <h1 className="sr-only">Library</h1>
        <label htmlFor="wall-class">As</label>
        <Inline
          id="wall-class"
          value={classId === 'none' ? 'none' : (chosen?.class_id ?? '')}
          onChange={(e) => {
            setClassId(e.target.value)
            remember('wall-class', e.target.value)
          }}
        >
          {(classes.data ?? []).map((c) => (
            <option key={c.class_id} value={c.class_id}>
              {c.name}
            </option>
          ))}
          <option value="none">no class</option>
        </Inline>
        <label htmlFor="wall-state">stands,</label>
        <Inline id="wall-state" value={filter.state} onChange={(e) => setFilter({ state: e.target.value })}>
          <option value="any">all cards</option>
          <option value="draft">drafts</option>
          <option value="in review">cards in review</option>
          <option value="agreed">agreed cards</option>
        </Inline>
        <label htmlFor="wall-needs">that need</label>
        <Inline id="wall-needs" value={filter.needs} onChange={(e) => setFilter({ needs: e.target.value })}>
          {Object.entries(needs).map(([k, text]) => (
            <option key={k} value={k}>
              {text}
            </option>
          ))}
        </Inline>
        <label className="flex items-center gap-2">
          <span className="sr-only">Find a card</span>
          <input
            ref={search}
            type="search"
            value={filter.text}
            onChange={(e) => setFilter({ text: e.target.value })}
            onKeyDown={keysOn({
              Escape: () => setFilter(everything),
              Enter: () => current && void go({ to: '/cards/$cardId', params: { cardId: current } }),
            })}
            placeholder="Find: sh, kettle …"
            className="border-b-2 border-ink min-h-11 w-36 bg-transparent px-1 font-child placeholder:text-soft"
          />
          <Key>f</Key>
        </label>
        <label htmlFor="wall-side">showing</label>
        <Inline
          id="wall-side"
          value={side}
          onChange={(e) => {
            const to = sideOf(e.target.value)
            setSide(to)
            remember('wall-side', to)
          }}
        >
          {Object.entries(sides).map(([k, text]) => (
            <option key={k} value={k}>
              {text}
            </option>
          ))}
        </Inline>
        <Link
          to="/audit"
          title="What stands out over the whole library"
          className="ml-auto inline-flex min-h-11 items-center text-base underline decoration-line decoration-2 underline-offset-4 hover:decoration-ink"
        >
          {complete} of {wall.data.length} complete
        </Link>
        {whole && mayI(me.data?.rights, 'edit') && (
          <Suspense>
            <NewCardDialog nextStep={Math.max(0, ...wall.data.map((c) => c.step)) + 1} />
          </Suspense>
        )}
      </div>
      {rows.length === 0 && (
        <div className="flex items-center gap-4">
          <Notice>
            {wall.data.length
              ? 'No card fits. Ask for less, or clear the filter.'
              : 'The library is empty. Add the first card of your order.'}
          </Notice>
          {wall.data.length > 0 && <Button onClick={() => setFilter(everything)}>Show all cards</Button>}
        </div>
      )}
      <div className="grid grid-cols-1 gap-x-8 xl:grid-cols-2 min-[130rem]:grid-cols-3">
        {rows.slice(0, whole ? undefined : inView).map((row) => (
          <section key={row.week} aria-label={`Week ${row.week}`} className="flex flex-col justify-end pt-5">
            <div className="flex items-end gap-3 px-2 max-sm:flex-col max-sm:items-stretch">
              <span className="w-11 shrink-0 self-center text-center text-sm leading-tight text-soft max-sm:flex max-sm:w-auto max-sm:items-baseline max-sm:gap-1 max-sm:self-start">
                week
                <br className="max-sm:hidden" />
                <b className="text-2xl text-ink">{row.week}</b>
              </span>
              <div className="grid min-w-0 flex-1 grid-cols-2 items-end gap-3 sm:grid-cols-4">
                {row.cards.map((c) => (
                  <SoundCard
                    key={c.card_id}
                    card={c}
                    standing={standing(c, taught, klass.data?.next)}
                    side={side}
                    turned={turned === c.card_id}
                    current={current === c.card_id}
                    onFocus={() => setAt(c.card_id)}
                  />
                ))}
              </div>
            </div>
            <div aria-hidden className="h-3 rounded-sm border-t-2 border-[#b9ad92] bg-ledge shadow-md" />
          </section>
        ))}
      </div>
      <p className="pt-6 text-sm text-soft">
        <Key>f</Key> find · arrows move · <Key>space</Key> turns a card · <Key>enter</Key> opens it. {ledgeSize} cards a
        ledge, one ledge a week.
      </p>
    </div>
  )
}
