import { useMutation, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { CallError, client, data, keys, queryClient, type Conventions, type Me, type Routine } from '../../api/client'
import { mayI, useClasses, useMe } from '../../api/shared'
import { Button, Failed, Field, Heading, Input, LinkButton, Notice, Waiting, inputLook } from '../../ui/parts'
import { LinesForm } from './LinesForm'

export function TeamPage() {
  const me = useMe()
  const routine = useQuery({ queryKey: ['routine'], queryFn: () => data(client.GET('/routine')) })
  if (routine.error && !routine.data) return <Failed error={routine.error} />
  if (!me.data || !routine.data) return <Waiting what="Looking up the team …" />
  const lead = mayI(me.data.rights, 'agree')
  return (
    <div className="mx-auto grid max-w-6xl gap-8 p-6 lg:grid-cols-2">
      <h1 className="sr-only">Team</h1>
      <ConventionsForm me={me.data} lead={lead} />
      <RoutineForm key={JSON.stringify(routine.data)} routine={routine.data} lead={lead} />
      <Classes />
      <Members lead={lead} />
      <CarryPack />
      <section className="flex flex-col gap-3">
        <Heading level={2}>Print all cards</Heading>
        <p>At true size: print at 100 %, not “fit to page”.</p>
        {prints.map(([label, query]) => (
          <p key={label} className="flex flex-wrap items-center gap-3">
            <span className="w-40 font-bold">{label}</span>
            {query.map(([name, q]) => (
              <LinkButton key={q} href={`/api/cards.pdf?cards=all&${q}`} target="_blank">
                {name}
              </LinkButton>
            ))}
          </p>
        ))}
      </section>
    </div>
  )
}

/** What the class writes with in the Hand step, each with what to watch for. */
function Materials({
  c,
  lead,
  onChange,
}: {
  c: Conventions
  lead: boolean
  onChange: (part: Pick<Conventions, 'materials' | 'one_material'>) => void
}) {
  const all = useQuery({
    queryKey: ['materials'],
    queryFn: () => data(client.GET('/materials')).then((d) => d ?? []),
    staleTime: Infinity,
  })
  const names = (all.data ?? []).map((m) => m.name)
  const chosen = c.materials?.length ? c.materials : names
  return (
    <fieldset disabled={!lead} className="flex flex-col">
      <legend className="text-sm font-bold">Trays and materials for writing</legend>
      {all.data?.map((m) => (
        <label key={m.name} className="flex min-h-11 items-center gap-3">
          <input
            type="checkbox"
            checked={chosen.includes(m.name)}
            onChange={(e) =>
              onChange({ materials: names.filter((n) => (n === m.name ? e.target.checked : chosen.includes(n))) })
            }
            className="size-6 shrink-0 accent-slate"
          />
          <span>
            <b>{m.name}</b> <span className="text-sm text-soft">{m.caution}</span>
          </span>
        </label>
      ))}
      <label className="flex min-h-11 items-center gap-3">
        <input
          type="checkbox"
          checked={!c.one_material}
          onChange={(e) => onChange({ one_material: !e.target.checked })}
          className="size-6 shrink-0 accent-slate"
        />
        <span>
          <b>Another material each day</b> <span className="text-sm text-soft">(otherwise the first of these)</span>
        </span>
      </label>
    </fieldset>
  )
}

/** One file for a USB stick: cards, sounds, strokes, introductions, without a network. */
function CarryPack() {
  const classes = useClasses()
  return (
    <section className="flex flex-col gap-3">
      <Heading level={2}>Carry pack</Heading>
      <p>
        One file that works from a USB stick on a phone or an old laptop: cards, sounds, strokes, turnover,
        introductions. It holds voices: give it to adults of the school only, and delete it when a speaker withdraws.
      </p>
      <div className="flex flex-wrap gap-3">
        <LinkButton href="/api/pack.html?size=order" download="carry-pack.html">
          The whole order
        </LinkButton>
        {classes.data?.map((c) => (
          <LinkButton key={c.class_id} href={`/api/pack.html?size=week&class=${c.class_id}`} download="carry-pack.html">
            This week of {c.name}
          </LinkButton>
        ))}
        <LinkButton href="/api/bundle.zip" download="bright-chalk-library.zip">
          ZIP of open files
        </LinkButton>
      </div>
    </section>
  )
}

const prints: [string, [string, string][]][] = [
  [
    '90 by 120 mm',
    [
      ['Two-sided', 'layout=duplex'],
      ['To fold', 'layout=fold'],
      ['One side', 'layout=single'],
    ],
  ],
  [
    '60 by 80 mm',
    [
      ['Two-sided', 'layout=duplex&size=small'],
      ['To fold', 'layout=fold&size=small'],
      ['One side', 'layout=single&size=small'],
    ],
  ],
  ['For the wall', [['Frieze', 'layout=frieze']]],
]

const switches: [keyof Conventions, string, string][] = [
  ['letter_names', 'Letter names from day one', 'otherwise only the sound is said'],
  ['capitals', 'Capitals with the small letter', 'otherwise as a set later'],
  ['groups_first', 'Look for letter groups first', 'otherwise sound out from left to right'],
  ['doubles_apart', 'Doubled letters have cards of their own', 'otherwise a class that knows b reads rabbit'],
  ['whole_by_sight', 'Exception words as wholes', 'otherwise the odd part is marked'],
]

const units: [keyof Conventions['units'], string][] = [
  ['qu_two', 'q and u are two units'],
  ['nk_one', 'nk is one unit'],
  ['doubles_two', 'double letters are two units'],
  ['x_one', 'x counts as one sound'],
  ['yoo_two', 'the yoo of mule counts as two sounds'],
]

function ConventionsForm({ me, lead }: { me: Me; lead: boolean }) {
  const [c, setC] = useState(me.conventions)
  const save = useMutation({
    mutationFn: () => data(client.PUT('/conventions', { body: c })),
    onSuccess: () => queryClient.invalidateQueries(),
  })
  return (
    <section className="flex flex-col gap-3">
      <Heading level={2}>What we agreed</Heading>
      <Field label="Accent of the team" hint="Sounds, words and bridges follow it everywhere.">
        {(ids) => (
          <select
            {...ids}
            disabled={!lead}
            value={c.accent}
            onChange={(e) => setC({ ...c, accent: e.target.value as Conventions['accent'] })}
            className={inputLook}
          >
            <option value="southern-british">Southern British</option>
            <option value="northern-english">Northern English (short bath; cup as in put)</option>
            <option value="northern-english-strut">Northern English (short bath; cup and put apart)</option>
            <option value="general-american">General American</option>
          </select>
        )}
      </Field>
      <Field label="Paper">
        {(ids) => (
          <select
            {...ids}
            disabled={!lead}
            value={c.paper}
            onChange={(e) => setC({ ...c, paper: e.target.value as Conventions['paper'] })}
            className={inputLook}
          >
            <option>A4</option>
            <option>Letter</option>
          </select>
        )}
      </Field>
      {switches.map(([key, label, otherwise]) => (
        <label key={key} className="flex min-h-11 items-center gap-3">
          <input
            type="checkbox"
            disabled={!lead}
            checked={Boolean(c[key])}
            onChange={(e) => setC({ ...c, [key]: e.target.checked })}
            className="size-6 shrink-0 accent-slate"
          />
          <span>
            <b>{label}</b> <span className="text-sm text-soft">({otherwise})</span>
          </span>
        </label>
      ))}
      <fieldset className="flex flex-col">
        <legend className="text-sm font-bold">What counts as one unit</legend>
        {units.map(([key, label]) => (
          <label key={key} className="flex min-h-11 items-center gap-3">
            <input
              type="checkbox"
              disabled={!lead}
              checked={Boolean(c.units[key])}
              onChange={(e) => setC({ ...c, units: { ...c.units, [key]: e.target.checked } })}
              className="size-6 shrink-0 accent-slate"
            />
            <span>{label}</span>
          </label>
        ))}
      </fieldset>
      {c.lines && <LinesForm lines={c.lines} lead={lead} onChange={(lines) => setC({ ...c, lines })} />}
      <Materials c={c} lead={lead} onChange={(part) => setC({ ...c, ...part })} />
      <Allowed list={c.allowed ?? []} lead={lead} onChange={(allowed) => setC({ ...c, allowed })} />
      <Departures list={c.departures ?? []} lead={lead} onChange={(departures) => setC({ ...c, departures })} />
      {lead ? (
        <Button look="main" onClick={() => save.mutate()} disabled={save.isPending}>
          Agree these
        </Button>
      ) : (
        <Notice>The lead sets these.</Notice>
      )}
      {save.isSuccess && <Notice kind="good">Agreed. New introductions follow it.</Notice>}
      {save.error && <Notice kind="wrong">{save.error.message}</Notice>}
    </section>
  )
}

const kinds: [string, string][] = [
  ['warm-up', 'Warm-up'],
  ['listen', 'Listen'],
  ['mouth', 'Mouth'],
  ['ear', 'Ear'],
  ['picture', 'Picture'],
  ['letter', 'Letter'],
  ['turnover', 'Turnover'],
  ['hand', 'Hand'],
  ['mix-in', 'Mix-in'],
  ['blend', 'Blend by ear'],
  ['read', 'Read'],
  ['spell', 'Spell'],
  ['sentence', 'Sentence'],
  ['page', 'Page'],
  ['close', 'Close'],
]

/** Single words of refused themes that the team allows; a theme cannot be allowed. */
function Allowed({ list, lead, onChange }: { list: string[]; lead: boolean; onChange: (list: string[]) => void }) {
  const [word, setWord] = useState('')
  const add = () => {
    const w = word.trim().toLowerCase()
    if (w && !list.includes(w)) onChange([...list, w])
    setWord('')
  }
  return (
    <fieldset className="flex flex-col gap-2">
      <legend className="text-sm font-bold">Single words that we allow all the same</legend>
      <p className="text-sm text-soft">
        Words about violence, illness, drink and the like are kept from children, with all their forms. One word can be
        allowed, a theme never.
      </p>
      <div className="flex flex-wrap gap-2">
        {list.map((w) => (
          <span
            key={w}
            className="flex items-center gap-2 rounded-full border-2 border-ink bg-sheet pl-4 font-child text-xl"
          >
            {w}
            <button
              type="button"
              disabled={!lead}
              aria-label={`Allow ${w} no longer`}
              className="size-11 rounded-full text-lg hover:bg-coral/40"
              onClick={() => onChange(list.filter((x) => x !== w))}
            >
              ×
            </button>
          </span>
        ))}
      </div>
      {lead && (
        <div className="flex max-w-md gap-2">
          <Input
            aria-label="A word to allow"
            placeholder="one word"
            maxLength={24}
            value={word}
            onChange={(e) => setWord(e.target.value)}
            onKeyDown={(e) => e.key === 'Enter' && (e.preventDefault(), add())}
          />
          <Button onClick={add}>Allow it</Button>
        </div>
      )}
    </fieldset>
  )
}

type Departure = NonNullable<Conventions['departures']>[number]

/** Words that the team says in another accent than its own. */
function Departures({
  list,
  lead,
  onChange,
}: {
  list: Departure[]
  lead: boolean
  onChange: (list: Departure[]) => void
}) {
  const set = (i: number, part: Partial<Departure>) => onChange(list.map((d, k) => (k === i ? { ...d, ...part } : d)))
  return (
    <fieldset className="flex flex-col gap-2">
      <legend className="text-sm font-bold">Words that we say in another accent</legend>
      {list.map((d, i) => (
        <div key={i} className="grid grid-cols-[7rem_10rem_1fr_auto] gap-2">
          <Input
            aria-label={`Word ${i + 1}`}
            placeholder="word"
            disabled={!lead}
            maxLength={24}
            value={d.word}
            onChange={(e) => set(i, { word: e.target.value })}
          />
          <select
            aria-label={`Accent of word ${i + 1}`}
            disabled={!lead}
            value={d.accent}
            onChange={(e) => set(i, { accent: e.target.value as Departure['accent'] })}
            className={inputLook}
          >
            <option value="southern-british">Southern British</option>
            <option value="northern-english">Northern English</option>
            <option value="northern-english-strut">Northern English, cup and put apart</option>
            <option value="general-american">General American</option>
          </select>
          <Input
            aria-label={`Why, for word ${i + 1}`}
            placeholder="why"
            disabled={!lead}
            maxLength={200}
            value={d.note}
            onChange={(e) => set(i, { note: e.target.value })}
          />
          {lead && (
            <Button
              aria-label={`Leave out ${d.word || 'this word'}`}
              onClick={() => onChange(list.filter((_, k) => k !== i))}
            >
              ×
            </Button>
          )}
        </div>
      ))}
      {lead && (
        <div>
          <Button onClick={() => onChange([...list, { word: '', accent: 'northern-english', note: '' }])}>
            + a word
          </Button>
        </div>
      )}
    </fieldset>
  )
}

function RoutineForm({ routine, lead }: { routine: Routine; lead: boolean }) {
  const [steps, setSteps] = useState(routine.steps ?? [])
  const save = useMutation({
    mutationFn: () => data(client.PUT('/routine', { body: { name: routine.name, steps } })),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: ['routine'] }),
  })
  const move = (i: number, by: number) => {
    const next = [...steps]
    const [one] = next.splice(i, 1)
    if (one) next.splice(i + by, 0, one)
    setSteps(next)
  }
  const left = kinds.filter(([k]) => !steps.some((s) => s.kind === k))
  return (
    <section className="flex flex-col gap-3">
      <Heading level={2}>Our routine</Heading>
      <ol className="flex flex-col gap-1">
        {steps.map((s, i) => (
          <li key={s.kind} className="flex items-center gap-2">
            <span className="w-6 shrink-0 text-right text-soft">{i + 1}</span>
            <Input
              aria-label={`Name of step ${i + 1}`}
              maxLength={40}
              disabled={!lead}
              value={s.name ?? ''}
              onChange={(e) => setSteps(steps.map((x, k) => (k === i ? { ...x, name: e.target.value } : x)))}
            />
            <select
              aria-label={`Time of ${s.name ?? s.kind}`}
              disabled={!lead}
              value={s.weight ?? 1}
              onChange={(e) => setSteps(steps.map((x, k) => (k === i ? { ...x, weight: Number(e.target.value) } : x)))}
              className="min-h-11 rounded-md border-2 border-line bg-sheet px-2"
            >
              <option value={0.5}>short</option>
              <option value={1}>usual</option>
              <option value={2}>long</option>
            </select>
            {lead && (
              <>
                <Button aria-label={`Move ${s.name ?? s.kind} up`} disabled={i === 0} onClick={() => move(i, -1)}>
                  ↑
                </Button>
                <Button
                  aria-label={`Move ${s.name ?? s.kind} down`}
                  disabled={i === steps.length - 1}
                  onClick={() => move(i, 1)}
                >
                  ↓
                </Button>
                <Button
                  aria-label={`Drop ${s.name ?? s.kind}`}
                  onClick={() => setSteps(steps.filter((_, k) => k !== i))}
                >
                  ×
                </Button>
              </>
            )}
          </li>
        ))}
      </ol>
      {lead && (
        <div className="flex flex-wrap gap-2">
          {left.map(([k, name]) => (
            <Button key={k} onClick={() => setSteps([...steps, { kind: k, name }])}>
              + {name}
            </Button>
          ))}
          <Button look="main" disabled={save.isPending} onClick={() => save.mutate()}>
            Agree this routine
          </Button>
        </div>
      )}
      {save.isSuccess && <Notice kind="good">Agreed. New introductions run in this order.</Notice>}
      {save.error && <Notice kind="wrong">{save.error.message}</Notice>}
    </section>
  )
}

function Classes() {
  const classes = useClasses()
  const [form, setForm] = useState({ name: '', kind: 'class' as 'class' | 'group' })
  const add = useMutation({
    mutationFn: () => data(client.POST('/classes', { body: form })),
    onSuccess: () => {
      setForm({ ...form, name: '' })
      return queryClient.invalidateQueries({ queryKey: keys.classes })
    },
  })
  return (
    <section className="flex flex-col gap-3">
      <Heading level={2}>Classes and groups</Heading>
      <ul>
        {classes.data?.map((c) => (
          <li key={c.class_id} className="flex min-h-11 items-center justify-between border-b border-line">
            <b>{c.name}</b>
            <span>
              {c.kind}, {c.taught} cards taught
            </span>
          </li>
        ))}
      </ul>
      <form
        className="flex items-end gap-2"
        onSubmit={(e) => {
          e.preventDefault()
          add.mutate()
        }}
      >
        <div className="flex-1">
          <Field label="A new class or group" hint="Its name only, never a child’s." error={add.error?.message}>
            {(ids) => (
              <Input
                {...ids}
                maxLength={60}
                value={form.name}
                onChange={(e) => setForm({ ...form, name: e.target.value })}
              />
            )}
          </Field>
        </div>
        <select
          aria-label="Class or group"
          value={form.kind}
          onChange={(e) => setForm({ ...form, kind: e.target.value as 'class' | 'group' })}
          className="min-h-11 rounded-md border-2 border-line bg-sheet px-2"
        >
          <option>class</option>
          <option>group</option>
        </select>
        <Button type="submit" disabled={add.isPending}>
          Add
        </Button>
      </form>
    </section>
  )
}

type NewMember = { name: string; email: string; role: 'lead' | 'teacher' | 'assistant'; password: string }

function Members({ lead }: { lead: boolean }) {
  const members = useQuery({ queryKey: ['members'], queryFn: () => data(client.GET('/members')).then((d) => d ?? []) })
  const empty: NewMember = { name: '', email: '', role: 'teacher', password: '' }
  const [form, setForm] = useState(empty)
  const add = useMutation({
    mutationFn: () => data(client.POST('/members', { body: form })),
    onSuccess: () => {
      setForm(empty)
      return queryClient.invalidateQueries({ queryKey: ['members'] })
    },
  })
  const wrong = (f: string) =>
    add.error instanceof CallError && add.error.problem.field === f ? add.error.message : undefined
  return (
    <section className="flex flex-col gap-3">
      <Heading level={2}>People</Heading>
      <ul>
        {members.data?.map((m) => (
          <li key={m.email} className="flex min-h-11 items-center justify-between gap-3 border-b border-line">
            <b>{m.name}</b>
            <span className="truncate text-soft">{m.email}</span>
            <span>{m.role}</span>
          </li>
        ))}
      </ul>
      {lead && (
        <details>
          <summary className="min-h-11 content-center font-bold">Add a person</summary>
          <form
            className="grid gap-3 sm:grid-cols-2"
            onSubmit={(e) => {
              e.preventDefault()
              add.mutate()
            }}
          >
            <Field label="Name" error={wrong('name')}>
              {(ids) => (
                <Input {...ids} value={form.name} onChange={(e) => setForm({ ...form, name: e.target.value })} />
              )}
            </Field>
            <Field label="E-mail" error={wrong('email')}>
              {(ids) => (
                <Input
                  {...ids}
                  type="email"
                  value={form.email}
                  onChange={(e) => setForm({ ...form, email: e.target.value })}
                />
              )}
            </Field>
            <Field label="Role">
              {(ids) => (
                <select
                  {...ids}
                  value={form.role}
                  onChange={(e) => setForm({ ...form, role: e.target.value as NewMember['role'] })}
                  className={inputLook}
                >
                  <option>teacher</option>
                  <option>assistant</option>
                  <option>lead</option>
                </select>
              )}
            </Field>
            <Field label="First password" error={wrong('password')}>
              {(ids) => (
                <Input
                  {...ids}
                  type="password"
                  autoComplete="new-password"
                  value={form.password}
                  onChange={(e) => setForm({ ...form, password: e.target.value })}
                />
              )}
            </Field>
            <Button type="submit" disabled={add.isPending}>
              Add
            </Button>
          </form>
        </details>
      )}
    </section>
  )
}
