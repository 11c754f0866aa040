import type { ButtonHTMLAttributes, InputHTMLAttributes, ReactNode, SelectHTMLAttributes } from 'react'
import { useId } from 'react'

type ButtonProps = ButtonHTMLAttributes<HTMLButtonElement> & { look?: 'main' | 'plain' | 'quiet' | 'danger' }

const looks = {
  main: 'bg-slate text-chalk hover:bg-slate-deep',
  plain: 'bg-sheet text-ink border-2 border-ink/70 hover:bg-marigold/25',
  quiet: 'text-ink underline decoration-2 underline-offset-4 decoration-line hover:decoration-ink',
  danger: 'bg-sheet text-brick border-2 border-brick hover:bg-coral/25',
}

export function Button({ look = 'plain', className = '', ...rest }: ButtonProps) {
  return (
    <button
      type="button"
      {...rest}
      className={`only-screen inline-flex min-h-11 items-center justify-center gap-2 rounded-lg px-4 text-base font-bold disabled:cursor-not-allowed disabled:opacity-55 ${looks[look]} ${className}`}
    />
  )
}

/** Chooses a file: a button to the eye, a field to the keyboard and to a reader of the screen. */
export function FileButton({
  look = 'plain',
  onFile,
  children,
  className = '',
  ...rest
}: Omit<InputHTMLAttributes<HTMLInputElement>, 'type' | 'onChange'> & {
  look?: keyof typeof looks
  onFile: (file: File) => void
}) {
  return (
    <label
      className={`only-screen relative inline-flex min-h-11 cursor-pointer items-center justify-center gap-2 rounded-lg px-4 text-base font-bold focus-within:outline-3 has-disabled:cursor-not-allowed has-disabled:opacity-55 ${looks[look]} ${className}`}
    >
      {children}
      {/* eslint-disable-next-line no-restricted-syntax -- the one place */}
      <input
        {...rest}
        type="file"
        className="sr-only"
        onChange={(e) => {
          const file = e.target.files?.[0]
          if (file) onFile(file)
          e.target.value = '' // the same file may be chosen again
        }}
      />
    </label>
  )
}

export function LinkButton({
  href,
  look = 'plain',
  children,
  ...rest
}: {
  href: string
  look?: keyof typeof looks
  children: ReactNode
  target?: string
  download?: string
}) {
  return (
    <a
      href={href}
      {...rest}
      className={`only-screen inline-flex min-h-11 items-center justify-center gap-2 rounded-lg px-4 font-bold ${looks[look]}`}
    >
      {children}
    </a>
  )
}

export function Heading({ children, level = 1, id }: { children: ReactNode; level?: 1 | 2; id?: string }) {
  const Tag = level === 1 ? 'h1' : 'h2'
  return (
    <Tag id={id} className={`writing-line font-child font-bold ${level === 1 ? 'text-4xl' : 'text-3xl'}`}>
      {children}
    </Tag>
  )
}

type FieldProps = {
  label: string
  hint?: string
  error?: string | undefined
  children: (ids: { id: string; 'aria-describedby': string | undefined; 'aria-invalid': boolean }) => ReactNode
}

/** A labelled field whose error stands right under it. */
export function Field({ label, hint, error, children }: FieldProps) {
  const id = useId()
  const noteId = `${id}-note`
  return (
    <div className="flex flex-col gap-1">
      <label htmlFor={id} className="text-sm font-bold">
        {label}
      </label>
      {children({ id, 'aria-describedby': error || hint ? noteId : undefined, 'aria-invalid': Boolean(error) })}
      {(error || hint) && (
        <p
          id={noteId}
          role={error ? 'alert' : undefined}
          className={`text-sm ${error ? 'font-bold text-brick' : 'text-soft'}`}
        >
          {error ? `! ${error}` : hint}
        </p>
      )}
    </div>
  )
}

/** A box to tick, with what it says. */
export function Check({ children, className = '', ...rest }: Omit<InputHTMLAttributes<HTMLInputElement>, 'type'>) {
  return (
    <label className={`flex min-h-11 items-center gap-3 ${className}`}>
      <input type="checkbox" {...rest} className="size-6 shrink-0 accent-slate" />
      <span>{children}</span>
    </label>
  )
}

export const inputLook =
  'min-h-11 w-full rounded-md border-2 border-edge bg-sheet px-3 py-2 text-base aria-invalid:border-brick focus:border-ink'

export function Input(props: InputHTMLAttributes<HTMLInputElement>) {
  return <input {...props} className={`${inputLook} ${props.className ?? ''}`} />
}

/** A choice among a few; a wide one fills its field. */
export function Select({ wide, className, ...rest }: SelectHTMLAttributes<HTMLSelectElement> & { wide?: boolean }) {
  const look = wide ? inputLook : 'min-h-11 max-w-full rounded-md border-2 border-edge bg-sheet px-2 text-base'
  // eslint-disable-next-line no-restricted-syntax -- the one place
  return <select {...rest} className={`${look} ${className ?? ''}`} />
}

/** A choice inside a sentence: "Cards that need *a picture*". */
export function Inline({ children, ...rest }: SelectHTMLAttributes<HTMLSelectElement>) {
  return (
    // eslint-disable-next-line no-restricted-syntax -- the other look
    <select
      {...rest}
      className="pick field-sizing-content min-h-11 max-w-[min(18rem,100%)] border-b-2 border-dashed border-ink pl-1 text-lg font-bold italic"
    >
      {children}
    </select>
  )
}

export function Notice({
  kind = 'plain',
  children,
}: {
  kind?: 'plain' | 'care' | 'wrong' | 'good'
  children: ReactNode
}) {
  const mark = { plain: 'i', care: '!', wrong: '×', good: '✓' }[kind]
  const tone = {
    plain: 'border-sky bg-sky/20',
    care: 'border-marigold bg-marigold/20',
    wrong: 'border-brick bg-coral/20',
    good: 'border-leaf bg-mint/30',
  }[kind]
  return (
    <div
      role={kind === 'wrong' ? 'alert' : undefined}
      className={`flex gap-3 rounded-md border-l-4 px-3 py-2 text-sm ${tone}`}
    >
      <span
        aria-hidden
        className="flex size-6 shrink-0 items-center justify-center rounded-full border-2 border-ink font-bold leading-none"
      >
        {mark}
      </span>
      <div className="self-center">{children}</div>
    </div>
  )
}

export function Waiting({ what }: { what: string }) {
  return (
    <p role="status" className="p-8 text-lg text-soft">
      {what}
    </p>
  )
}

/** A page that cannot be shown: why, and a way back. */
export function Failed({ error }: { error: Error }) {
  return (
    <div className="mx-auto flex max-w-2xl flex-col gap-4 p-8">
      <Heading>This page cannot be shown now</Heading>
      <Notice kind="wrong">{error.message}</Notice>
      <p className="flex flex-wrap gap-3">
        <Button onClick={() => location.reload()}>Try again</Button>
        <LinkButton href="/">To the library</LinkButton>
      </p>
    </div>
  )
}

export function Key({ children }: { children: ReactNode }) {
  return <kbd className="rounded border border-current px-1.5 text-sm font-bold">{children}</kbd>
}

/** How far something has come. */
export function Progress({ value, most, label }: { value: number; most: number; label: string }) {
  return (
    <div
      role="progressbar"
      aria-label={label}
      aria-valuenow={value}
      aria-valuemin={0}
      aria-valuemax={most}
      className="h-4 w-64 max-w-full overflow-hidden rounded-full border-2 border-ink bg-sheet"
    >
      <div className="h-full bg-slate" style={{ width: `${(100 * value) / Math.max(1, most)}%` }} />
    </div>
  )
}
