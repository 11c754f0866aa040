import { Link, useNavigate } from '@tanstack/react-router'
import { useState } from 'react'
import { callThen, useWall } from '../../api/shared'
import { useKept } from '../../api/useKept'
import { fieldName } from '../../ui/fields'
import { Failed, Heading, Notice, Select, Waiting, Check } from '../../ui/parts'
import {
  useProposeOrder,
  useTable,
  useTakeTable,
  type Parcel,
  type TableAsk,
  type TableLine,
  type TableView,
} from './api'
import { count, kinds, many, offered, takable, withColumn } from './model'
import { Sign, TakeBar } from './parts'

type Form = { ask: TableAsk; off: number[]; on: number[] }
const first: Form = { ask: { sheet: 0 }, off: [], on: [] }

/** A table of the team's own: which column is what, and what would become of each line. */
export function TableLook({ parcel }: { parcel: Parcel }) {
  const form = useKept<Form>(`table ${parcel.parcel_id}`, first)
  const [done, setDone] = useState<string>()
  const view = useTable(parcel.parcel_id, form.value.ask, done === undefined)
  if (done !== undefined)
    return (
      <div className="mx-auto flex max-w-3xl flex-col gap-4 p-6">
        <Notice kind="good">
          <span className="text-lg">{done}</span>
        </Notice>
        <p className="flex gap-4 text-lg">
          <Link to="/" className="min-h-11 content-center font-bold underline underline-offset-4">
            To the library
          </Link>
          <Link to="/bring" className="min-h-11 content-center font-bold underline underline-offset-4">
            Bring in more
          </Link>
        </p>
      </div>
    )
  if (view.error && !view.data) return <Failed error={view.error} />
  if (!view.data) return <Waiting what="Reading the columns …" />
  return <Look view={view.data} form={form} error={view.error?.message} onDone={setDone} />
}

type LookProps = {
  view: TableView
  form: ReturnType<typeof useKept<Form>>
  error: string | undefined
  onDone: (what: string) => void
}

function Look({ view, form, error, onDone }: LookProps) {
  const { ask, on, off } = form.value
  const take = useTakeTable(view.parcel_id)
  const propose = useProposeOrder()
  const go = useNavigate()
  const set = (next: Partial<TableAsk>) =>
    form.set({ ask: { ...ask, kind: view.kind, columns: view.columns, header: view.header, ...next }, on: [], off: [] })
  const anew = (next: TableAsk) => form.set({ ask: next, on: [], off: [] })
  const rows = [...offered(view.lines).filter((r) => !off.includes(r)), ...on]
  const missing = view.wanted.filter((c) => c.needed && !(c.key in view.columns))
  const isOrder = view.kind === 'order'
  const send = () =>
    isOrder
      ? callThen(propose, { order: view.order, note: `From the table ${view.name}` }, () => {
          form.settle()
          void go({ to: '/order' })
        })
      : callThen(take, { ...ask, kind: view.kind, columns: view.columns, header: view.header, rows }, (b) => {
          form.settle()
          const cards = b.cards.length - b.added
          onDone(
            [
              `${many(b.lines, 'line')} came in`,
              b.added > 0 && `${many(b.added, 'new card')} at the end of the order`,
              cards > 0 && `${many(cards, 'card')} changed, as drafts beside what is agreed`,
              b.bank > 0 && `${many(b.bank, 'sentence')} in the bank`,
            ]
              .filter(Boolean)
              .join(': ') + '.',
          )
        })
  return (
    <div className="mx-auto flex max-w-5xl flex-col gap-6 p-4 pb-32 sm:p-6 sm:pb-32">
      <Heading>{view.name || 'A table'}</Heading>
      {view.notes.map((n) => (
        <Notice key={n} kind="care">
          <span className="text-base">{n}</span>
        </Notice>
      ))}
      <Reading view={view} set={set} anew={anew} />
      {error && <Notice kind="wrong">{error}</Notice>}
      {missing.length > 0 && (
        <Notice kind="care">
          <span className="text-base">Say in which column the {missing[0]?.title.toLowerCase()} stands.</span>
        </Notice>
      )}
      {missing.length === 0 && (
        <Lines
          view={view}
          picked={rows}
          onPick={(row, yes) => {
            const given = offered(view.lines).includes(row)
            form.set({
              ask,
              off: given ? (yes ? off.filter((r) => r !== row) : [...off, row]) : off,
              on: given ? on : yes ? [...on, row] : on.filter((r) => r !== row),
            })
          }}
        />
      )}
      <TakeBar
        sum={
          isOrder
            ? view.lines.length > count(view.lines, 'unfit')
              ? `An order of ${many(view.lines.length - count(view.lines, 'unfit'), 'step')}; ${many(view.unnamed.length, 'card')} it does not name stay behind them.`
              : ''
            : rows.length > 0
              ? `Takes ${many(rows.length, 'line')} of ${view.lines.length}.`
              : ''
        }
        none="No line is chosen."
        busy={take.isPending || propose.isPending}
        error={(take.error ?? propose.error)?.message}
        label={isOrder ? 'Propose this order' : `Take ${many(rows.length, 'line')}`}
        onTake={send}
      />
    </div>
  )
}

/** How the sheet is read, in sentences. */
function Reading({
  view,
  set,
  anew,
}: {
  view: TableView
  set: (next: Partial<TableAsk>) => void
  anew: (next: TableAsk) => void
}) {
  const wall = useWall()
  const heads = view.heads.map((h, i) => (view.header && h.trim() ? h.trim() : `Column ${String.fromCharCode(65 + i)}`))
  const goesTo = view.kind === 'words' || view.kind === 'sentences'
  return (
    <section className="flex flex-col gap-3 rounded-xl border-2 border-slate/30 p-4">
      <div className="flex flex-wrap items-center gap-3 text-lg">
        <label className="flex max-w-full flex-wrap items-center gap-2">
          These are
          <Select
            value={view.kind}
            onChange={(e) => anew({ sheet: sheetOf(view), kind: e.target.value as TableView['kind'] })}
          >
            {kinds.map((k) => (
              <option key={k.kind} value={k.kind}>
                {k.name.toLowerCase()}
              </option>
            ))}
          </Select>
        </label>
        {view.sheets.length > 1 && (
          <label className="flex max-w-full flex-wrap items-center gap-2">
            on the sheet
            <Select value={sheetOf(view)} onChange={(e) => anew({ sheet: Number(e.target.value) })}>
              {view.sheets.map((s, i) => (
                <option key={i} value={i}>
                  {s}
                </option>
              ))}
            </Select>
          </label>
        )}
        <Check checked={view.header} onChange={(e) => set({ header: e.target.checked })}>
          the first line names the columns
        </Check>
      </div>
      <div className="flex flex-wrap gap-x-5 gap-y-2 text-lg">
        {view.wanted.map((c) => (
          <label key={c.key} className="flex max-w-full flex-wrap items-center gap-2">
            {c.title}
            {c.needed ? '' : ' (if any)'}
            <Select
              value={view.columns[c.key] ?? -1}
              onChange={(e) => set({ columns: withColumn(view, c.key, Number(e.target.value)) })}
            >
              <option value={-1}>–</option>
              {heads.map((h, i) => (
                <option key={i} value={i}>
                  {h}
                </option>
              ))}
            </Select>
          </label>
        ))}
      </div>
      {goesTo && !('grapheme' in view.columns) && (
        <label className="flex flex-wrap items-center gap-2 text-lg">
          They go to
          <Select value={view.card_id} onChange={(e) => set({ card_id: e.target.value })} aria-label="They go to">
            <option value="">{view.kind === 'words' ? 'the card that opens each' : 'the bank of texts'}</option>
            {wall.data?.map((c) => (
              <option key={c.card_id} value={c.card_id}>
                {c.pair.grapheme} {c.keyword && `(${c.keyword})`}
              </option>
            ))}
          </Select>
        </label>
      )}
    </section>
  )
}

const sheetOf = (view: TableView) => view.sheet

function Lines({
  view,
  picked,
  onPick,
}: {
  view: TableView
  picked: number[]
  onPick: (row: number, yes: boolean) => void
}) {
  const chosen = new Set(picked)
  const order = view.kind === 'order'
  const groups = [
    { title: 'To look at first', list: view.lines.filter((l) => takable(l) && l.doubt) },
    { title: 'Different from ours', list: view.lines.filter((l) => l.standing === 'different') },
    {
      title: order ? 'Steps' : 'New',
      list: view.lines.filter((l) => (order ? l.standing === 'same' : l.standing === 'new' && !l.doubt)),
    },
    { title: 'No place for these', list: view.lines.filter((l) => l.standing === 'unfit') },
    { title: 'Here already', list: order ? [] : view.lines.filter((l) => l.standing === 'same') },
  ].filter((g) => g.list.length > 0)
  if (groups.length === 0) return <p className="text-lg">There are no lines on this sheet.</p>
  return (
    <>
      {groups.map((g) => (
        <section key={g.title}>
          <Heading level={2}>
            {g.title} ({g.list.length})
          </Heading>
          <ul className="divide-y divide-line">
            {g.list.map((l) => (
              <Line
                key={l.row}
                line={l}
                order={order}
                picked={chosen.has(l.row)}
                onPick={(yes) => onPick(l.row, yes)}
              />
            ))}
          </ul>
        </section>
      ))}
    </>
  )
}

function Line({
  line: l,
  order,
  picked,
  onPick,
}: {
  line: TableLine
  order: boolean
  picked: boolean
  onPick: (yes: boolean) => void
}) {
  const name = [l.text, l.pair.grapheme].filter(Boolean).join(', ')
  return (
    <li className="flex flex-wrap items-center gap-x-4 gap-y-1 py-1 [contain-intrinsic-size:auto_52px] [content-visibility:auto]">
      {!order && takable(l) ? (
        <Check
          className="size-11 justify-center"
          aria-label={`Take line ${l.row}: ${name}`}
          checked={picked}
          onChange={(e) => onPick(e.target.checked)}
        ></Check>
      ) : (
        <span className="w-11" />
      )}
      <span className="w-16 text-base text-soft">line {l.row}</span>
      <span className="w-16 font-child text-2xl font-bold">{l.pair.grapheme}</span>
      <span className="min-w-40 flex-1 font-child text-xl">{order ? '' : l.text}</span>
      {!order && <Sign standing={l.standing} />}
      {l.why && <span className="min-w-56 text-base">{l.why}</span>}
      {l.standing === 'different' && l.fields.length > 0 && (
        <span className="basis-full pl-15 text-base">
          {l.fields.map((f) => (
            <span key={f.field} className="block">
              <b className="first-letter:uppercase">{fieldName(f.field)}</b>:{' '}
              <s className="text-soft">{f.mine || 'nothing'}</s> {f.theirs}
            </span>
          ))}
        </span>
      )}
    </li>
  )
}
