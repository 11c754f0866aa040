import { useState } from 'react'
import { faultOf } from '../../api/client'
import { callThen, useClasses } from '../../api/shared'
import { useKept } from '../../api/useKept'
import { Button, Failed, Field, Heading, Input, inputLook, LinkButton, Notice, Select, Waiting } from '../../ui/parts'
import { recall, remember } from '../../ui/remembered'
import { useAddPage, useBooks, type Book } from './api'
import { bookWhen, fromWhen } from './model'

/** The school's reading books, page by page, with the week from which a class can read each. */
export function Books({ may }: { may: boolean }) {
  const classes = useClasses()
  const [chosen, choose] = useState(recall('wall-class') ?? '')
  const id = classes.data?.find((c) => c.class_id === chosen)?.class_id ?? classes.data?.[0]?.class_id ?? ''
  const books = useBooks(id)
  const error = classes.error ?? books.error
  if (error && !books.data) return <Failed error={error} />
  if (classes.data?.length === 0) return <p className="text-lg">Add a class first: a book is read by somebody.</p>
  if (!classes.data || !books.data) return <Waiting what="Opening the book box …" />
  return (
    <div className="flex flex-col gap-6">
      <div className="flex flex-wrap items-center gap-3 text-lg">
        <label className="flex max-w-full flex-wrap items-center gap-2">
          For
          <Select
            value={id}
            onChange={(e) => {
              choose(e.target.value)
              remember('wall-class', e.target.value)
            }}
          >
            {classes.data.map((c) => (
              <option key={c.class_id} value={c.class_id}>
                {c.name}
              </option>
            ))}
          </Select>
        </label>
        {may && <LinkButton href="/bring">Bring in a table of pages</LinkButton>}
      </div>
      {books.data.length === 0 && (
        <p className="max-w-prose text-lg">
          No book is here yet. Type a page below, or bring in a table with the columns book, page, text. Type only what
          your school has the right to keep.
        </p>
      )}
      {books.data.map((b) => (
        <OneBook key={b.title} book={b} />
      ))}
      {may && <NewPage titles={books.data.map((b) => b.title)} />}
    </div>
  )
}

const mostNeeded = 5

/** The spellings that a page still needs, the first few. */
function needed(pairs: readonly string[]) {
  const spellings = [...new Set(pairs.map((x) => x.split('=')[0]))]
  return spellings.slice(0, mostNeeded).join(', ') + (spellings.length > mostNeeded ? ' …' : '')
}

function OneBook({ book: b }: { book: Book }) {
  const all = b.ready === b.pages.length
  return (
    <section>
      <Heading level={2}>{b.title}</Heading>
      <p className="pt-1 text-lg">
        <b>
          {all ? '✓ ' : ''}
          {bookWhen(b)}
        </b>
        {!all && b.ready > 0 && `; ${b.ready} of ${b.pages.length} pages today`}
      </p>
      <ol className="divide-y divide-line">
        {b.pages.map((p) => (
          <li key={p.text_id} className="flex flex-wrap items-baseline gap-x-4 gap-y-1 py-2">
            <span className="w-16 text-base text-soft">{p.page > 0 ? `page ${p.page}` : ''}</span>
            <span className="min-w-56 flex-1 font-child text-xl whitespace-pre-line">{p.body}</span>
            <span className="text-base">
              <span aria-hidden>{p.now ? '✓ ' : p.from ? '◷ ' : '✕ '}</span>
              {fromWhen(p.now, p.from)}
              {!p.now && p.lacks.length > 0 && <span className="block text-soft">needs {needed(p.lacks)}</span>}
            </span>
          </li>
        ))}
      </ol>
    </section>
  )
}

const none = { book: '', page: '', body: '' }

function NewPage({ titles }: { titles: string[] }) {
  const form = useKept('book page', none)
  const add = useAddPage()
  const v = form.value
  const page = Number(v.page) || 0
  return (
    <form
      className="flex flex-col gap-3 rounded-xl border-2 border-slate/30 p-4"
      onSubmit={(e) => {
        e.preventDefault()
        callThen(add, { book: v.book, page, body: v.body }, () => {
          form.settle()
          form.set({ book: v.book, page: page > 0 ? String(page + 1) : '', body: '' })
        })
      }}
    >
      <Heading level={2}>A page</Heading>
      <div className="flex flex-wrap gap-3">
        <div className="min-w-56 flex-1">
          <Field label="Book" error={faultOf(add.error, 'book')}>
            {(ids) => (
              <Input
                {...ids}
                list="book-titles"
                maxLength={80}
                value={v.book}
                onChange={(e) => form.set({ ...v, book: e.target.value })}
              />
            )}
          </Field>
          <datalist id="book-titles">
            {titles.map((t) => (
              <option key={t} value={t} />
            ))}
          </datalist>
        </div>
        <div className="w-28">
          <Field label="Page">
            {(ids) => (
              <Input
                {...ids}
                inputMode="numeric"
                maxLength={3}
                value={v.page}
                onChange={(e) => form.set({ ...v, page: e.target.value.replace(/\D/g, '') })}
              />
            )}
          </Field>
        </div>
      </div>
      <Field label="What stands on it" error={faultOf(add.error, 'body')}>
        {(ids) => (
          <textarea
            {...ids}
            rows={3}
            maxLength={2000}
            className={`${inputLook} font-child text-xl`}
            value={v.body}
            onChange={(e) => form.set({ ...v, body: e.target.value })}
          />
        )}
      </Field>
      <div>
        <Button type="submit" look="main" disabled={add.isPending || !v.book.trim() || !v.body.trim()}>
          Keep this page
        </Button>
      </div>
      {add.error && !faultOf(add.error, 'book') && !faultOf(add.error, 'body') && (
        <Notice kind="wrong">{add.error.message}</Notice>
      )}
    </form>
  )
}
