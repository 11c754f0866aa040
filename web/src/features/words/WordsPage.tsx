import { Tabs } from 'radix-ui'
import { useDeferredValue, useState } from 'react'
import { mayI, useClass, useClasses, useMe, useWall } from '../../api/shared'
import { Bridges } from '../../ui/Bridges'
import { Button, Failed, Inline, Key, Notice, Waiting, inputLook } from '../../ui/parts'
import { useCheck, useFound, useSend, useSort, type Ask } from './api'

const tabs: [string, string][] = [
  ['find', 'Find words'],
  ['make', 'Make words up'],
  ['sort', 'Sort by ear'],
  ['check', 'Check a text'],
]

/** The workbench: what this class may read, hear and sort today. */
export function WordsPage() {
  const classes = useClasses()
  const wall = useWall()
  const [chosen, setChosen] = useState(() => localStorage.getItem('wall-class') ?? '')
  if (classes.error && !classes.data) return <Failed error={classes.error} />
  if (!classes.data || !wall.data) return <Waiting what="Opening the word box …" />
  const classId = classes.data.find((c) => c.class_id === chosen)?.class_id ?? classes.data[0]?.class_id ?? ''
  const pick = (
    <Inline
      aria-label="Class"
      value={classId}
      onChange={(e) => {
        setChosen(e.target.value)
        localStorage.setItem('wall-class', e.target.value)
      }}
    >
      {classes.data.map((c) => (
        <option key={c.class_id} value={c.class_id}>
          {c.name}
        </option>
      ))}
    </Inline>
  )
  return (
    <div className="mx-auto max-w-[1300px] p-5">
      <h1 className="sr-only">Words</h1>
      {classId === '' && <Notice>Make a class under “Team” first: words depend on what it has been taught.</Notice>}
      <Tabs.Root defaultValue="find">
        <Tabs.List aria-label="What to look for" className="flex gap-1 border-b-2 border-ink">
          {tabs.map(([id, name]) => (
            <Tabs.Trigger key={id} value={id} className="min-h-11 rounded-t-lg border-2 border-b-0 border-transparent px-5 text-lg font-bold data-[state=active]:border-ink data-[state=active]:bg-sheet">
              {name}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        <Tabs.Content value="find" className="pt-4">
          <Finder key={classId} kind="words" classId={classId} pick={pick} />
        </Tabs.Content>
        <Tabs.Content value="make" className="pt-4">
          <Finder key={classId} kind="made-up" classId={classId} pick={pick} />
        </Tabs.Content>
        <Tabs.Content value="sort" className="pt-4">
          <Sorter key={classId} classId={classId} pick={pick} />
        </Tabs.Content>
        <Tabs.Content value="check" className="pt-4">
          <Checker classId={classId} pick={pick} />
        </Tabs.Content>
      </Tabs.Root>
    </div>
  )
}

const shapes = ['', 'VC', 'CVC', 'CCVC', 'CVCC', 'CCVCC']
const chips = 'flex items-center gap-2 rounded-full border-2 bg-sheet py-1 pl-4 pr-2 text-2xl'

function Finder({ kind, classId, pick }: { kind: 'words' | 'made-up'; classId: string; pick: React.ReactNode }) {
  const wall = useWall()
  const klass = useClass(classId)
  const me = useMe()
  const made = kind === 'made-up'
  const [part, setPart] = useState<Partial<Ask>>({})
  const ask: Ask = { class: classId, card: klass.data?.next ?? '', position: 'any', frame: made ? 'CVC' : '', pictures: false, seed: 1, ...part }
  const found = useFound(kind, ask)
  const send = useSend(ask.card)
  const change = (p: Partial<Ask>) => setPart({ ...part, ...p })
  const edits = !made && ask.card !== '' && mayI(me.data?.rights, 'edit')
  return (
    <div className="flex flex-col gap-5">
      <p className="flex flex-wrap items-center gap-2 text-xl">
        <span>{made ? 'Made-up words with' : 'Words with'}</span>
        <Inline aria-label="Sound" value={ask.card} onChange={(e) => change({ card: e.target.value })}>
          <option value="">any taught sound</option>
          {wall.data?.map((c) => (
            <option key={c.card_id} value={c.card_id}>
              {c.pair.grapheme} {c.keyword ? `(${c.keyword})` : `/${c.pair.sound}/`}
            </option>
          ))}
        </Inline>
        {!made && (
          <Inline aria-label="Place" value={ask.position} onChange={(e) => change({ position: e.target.value as Ask['position'] })}>
            <option value="any">at any place,</option>
            <option value="initial">at the start,</option>
            <option value="medial">in the middle,</option>
            <option value="final">at the end,</option>
          </Inline>
        )}
        <span>shaped</span>
        <Inline aria-label="Shape" value={ask.frame} onChange={(e) => change({ frame: e.target.value })}>
          {shapes.filter((s) => !made || s).map((s) => (
            <option key={s} value={s}>
              {s || 'in any way'}
            </option>
          ))}
        </Inline>
        <span>that</span>
        {pick}
        <span>can read</span>
        {made ? (
          <Button onClick={() => change({ seed: ask.seed + 1 })}>Others</Button>
        ) : (
          <Inline aria-label="Picture" value={ask.pictures ? 'yes' : ''} onChange={(e) => change({ pictures: e.target.value !== '' })}>
            <option value="">with or without a picture</option>
            <option value="yes">with a picture</option>
          </Inline>
        )}
      </p>
      {found.error && <Notice kind="wrong">{found.error.message}</Notice>}
      {send.error && <Notice kind="wrong">{send.error.message}</Notice>}
      {found.data?.note && <Notice>{found.data.note}</Notice>}
      {found.data && found.data.total > 0 && (
        <p className="text-sm text-soft">
          {found.data.total} found, the best first.{' '}
          {edits && (
            <>
              <Key>a</Key> takes a word on to the card, <Key>x</Key> refuses it for the whole team.
            </>
          )}
        </p>
      )}
      <ul className="flex flex-wrap gap-3">
        {found.data?.words?.map((w) => (
          <li key={w.word}>
            <span
              tabIndex={0}
              role="group"
              aria-label={`${w.word}: ${w.because}`}
              title={w.because}
              onKeyDown={(e) => {
                if (!edits || (e.key !== 'a' && e.key !== 'x')) return
                e.preventDefault()
                send.mutate({ word: w.word, list: e.key === 'a' ? 'words' : 'rejected' })
              }}
              className={`${chips} ${made ? 'border-dashed border-ink/60' : 'border-ink'}`}
            >
              <Bridges word={w.word} bits={w.bits} />
              {w.picture && <img src={`/api/word-pictures/${w.word}`} alt="" className="size-8" />}
              <span className="text-sm text-soft">{w.sounds}</span>
              {edits && (
                <>
                  <button type="button" tabIndex={-1} aria-label={`Take ${w.word}`} className="size-11 rounded-full text-lg font-bold text-leaf hover:bg-mint/50" onClick={() => send.mutate({ word: w.word, list: 'words' })}>
                    ✓
                  </button>
                  <button type="button" tabIndex={-1} aria-label={`Refuse ${w.word}`} className="size-11 rounded-full text-lg font-bold text-brick hover:bg-coral/40" onClick={() => send.mutate({ word: w.word, list: 'rejected' })}>
                    ×
                  </button>
                </>
              )}
            </span>
          </li>
        ))}
      </ul>
    </div>
  )
}

function Sorter({ classId, pick }: { classId: string; pick: React.ReactNode }) {
  const wall = useWall()
  const klass = useClass(classId)
  const offered = [klass.data?.next ?? '', klass.data?.cards?.find((c) => c.pair.grapheme === 's' || c.pair.grapheme === 'm')?.card_id ?? ''].filter(Boolean)
  const [own, setOwn] = useState<string[]>()
  const [per, setPer] = useState(4)
  const [position, setPosition] = useState<'initial' | 'medial' | 'final'>('initial')
  const [seed, setSeed] = useState(1)
  const cards = own ?? offered
  const sort = useSort(cards, per, position, seed)
  const set = (i: number, id: string) => setOwn(id ? cards.map((c, k) => (k === i ? id : c)) : cards.filter((_, k) => k !== i))
  return (
    <div className="flex flex-col gap-5">
      <p className="flex flex-wrap items-center gap-2 text-xl">
        <span>For</span>
        {pick}
        <Inline aria-label="Pictures for each sound" value={per} onChange={(e) => setPer(Number(e.target.value))}>
          {[3, 4, 5].map((n) => (
            <option key={n} value={n}>
              {n} pictures each
            </option>
          ))}
        </Inline>
        <Inline aria-label="Place" value={position} onChange={(e) => setPosition(e.target.value as typeof position)}>
          <option value="initial">that start with</option>
          <option value="final">that end with</option>
          <option value="medial">that hold</option>
        </Inline>
        {cards.map((id, i) => (
          <Inline key={`${i}-${id}`} aria-label={`Sound ${i + 1}`} value={id} onChange={(e) => set(i, e.target.value)}>
            {cards.length > 2 && <option value="">(leave out)</option>}
            {wall.data?.map((c) => (
              <option key={c.card_id} value={c.card_id}>
                {c.pair.grapheme} {c.keyword && `(${c.keyword})`}
              </option>
            ))}
          </Inline>
        ))}
        {cards.length < 7 && <Button onClick={() => setOwn([...cards, wall.data?.find((c) => !cards.includes(c.card_id))?.card_id ?? ''])}>+ one more</Button>}
        <Button onClick={() => setSeed(seed + 1)}>Others</Button>
      </p>
      {sort.error && <Notice kind="wrong">{sort.error.message}</Notice>}
      <div className="flex flex-wrap gap-6">
        {!sort.error &&
          sort.data?.map((b, i) => (
            <section key={b.sound} aria-label={`Basket ${i + 1}`} className="min-w-64 flex-1 rounded-xl border-2 border-ink bg-sheet p-4">
              <h2 className="font-child text-5xl">{wall.data?.find((c) => c.card_id === cards[i])?.pair.grapheme}</h2>
              <ul className="mt-3 grid grid-cols-2 gap-3">
                {b.pictures?.map((p) => (
                  <li key={p} className="flex flex-col items-center rounded-lg border border-line bg-paper p-2">
                    <img src={`/api/word-pictures/${p}`} alt="" className="size-24" />
                    <span className="text-lg">{p}</span>
                  </li>
                ))}
              </ul>
            </section>
          ))}
      </div>
      <p className="text-sm text-soft">Equal numbers; no picture has two of the sounds. Pictures: Fluent emoji by Microsoft, MIT licence.</p>
    </div>
  )
}

const marks: Record<string, { look: string; says: string }> = {
  decodable: { look: 'border-transparent', says: 'can be read' },
  exception: { look: 'border-violet border-solid', says: 'taught exception word' },
  untaught: { look: 'border-brick border-dashed', says: 'not yet taught' },
  ambiguous: { look: 'border-marigold border-dashed', says: 'can be read in two ways, one not yet taught' },
  unknown: { look: 'border-sky border-dotted', says: 'not in the word list; read by rule' },
  name: { look: 'border-sky border-dotted', says: 'a name' },
}

function Checker({ classId, pick }: { classId: string; pick: React.ReactNode }) {
  const [text, setText] = useState('')
  const late = useDeferredValue(text)
  const check = useCheck(classId, late)
  const result = text.trim() ? check.data : undefined
  const untaught = [...new Set(result?.words?.flatMap((w) => w.untaught ?? []))]
  return (
    <div className="flex flex-col gap-4">
      <div className="flex flex-wrap items-center gap-2 text-xl">
        <label htmlFor="text-to-check">A sentence or a page for</label>
        {pick}
      </div>
      <textarea id="text-to-check" rows={4} maxLength={20000} value={text} onChange={(e) => setText(e.target.value)} placeholder="Type or paste here." className={`${inputLook} font-child text-2xl`} />
      {check.error && <Notice kind="wrong">{check.error.message}</Notice>}
      {result && (
        <>
          <p role="status" className="text-xl">
            <b>{Math.round(result.decodable * 100)} %</b> of {result.words?.length} words can be read.
            {untaught.length > 0 && <span> Not yet taught: {untaught.join(', ')}.</span>}
          </p>
          {result.remarks?.map((r) => (
            <Notice key={r} kind="care">
              {r}
            </Notice>
          ))}
          <ol className="flex flex-wrap items-start gap-x-4 gap-y-5 rounded-xl border-2 border-line bg-sheet p-5">
            {result.words?.map((w) => (
              <li key={w.start} data-status={w.status} className={`rounded-lg border-3 px-1 text-4xl ${marks[w.status]?.look ?? ''}`} title={`${marks[w.status]?.says}${w.untaught?.length ? `: ${w.untaught.join(', ')}` : ''}`}>
                <Bridges word={w.text} bits={w.bits} />
                {w.status !== 'decodable' && (
                  <span className="block max-w-56 text-sm leading-tight">
                    {marks[w.status]?.says}
                    {w.untaught?.length ? `: ${w.untaught.join(', ')}` : ''}
                    {w.instead?.length ? <span className="block text-leaf">try {w.instead.join(', ')}</span> : null}
                  </span>
                )}
              </li>
            ))}
          </ol>
        </>
      )}
    </div>
  )
}
