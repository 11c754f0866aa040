import { Veil } from '../../ui/Modal'
import { useNavigate } from '@tanstack/react-router'
import { Dialog } from 'radix-ui'
import { useDeferredValue, useId, useState } from 'react'
import { useBankTexts, useClasses, useLessons, useWall } from '../../api/shared'
import { inputLook } from '../../ui/parts'
import { keysOn } from '../../ui/useKeys'
import { hits, type Hit } from './model'

const none: never[] = []

/** Everything that can be gone to, by a few letters. */
export default function SearchDialog({ onClose }: { onClose: () => void }) {
  const [text, setText] = useState('')
  const [at, setAt] = useState(0)
  const list = useId()
  const go = useNavigate()
  const cards = useWall().data ?? none
  const lessons = useLessons().data ?? none
  const classes = useClasses().data ?? none
  const texts = useBankTexts().data ?? none
  const found = hits(useDeferredValue(text), { cards, lessons, classes, texts })
  const now = Math.min(at, Math.max(0, found.length - 1))
  const open = (h: Hit | undefined) => {
    if (!h) return
    onClose()
    void go({ to: h.to, search: h.search ?? {} } as never)
  }
  const move = (by: number) => () => {
    const to = Math.max(0, Math.min(found.length - 1, now + by))
    setAt(to)
    document.getElementById(`${list}-${to}`)?.scrollIntoView({ block: 'nearest' })
  }
  return (
    <Dialog.Root open onOpenChange={(o) => !o && onClose()}>
      <Dialog.Portal>
        <Veil />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-[8vh] left-1/2 z-50 flex max-h-[84vh] w-[94vw] max-w-2xl -translate-x-1/2 flex-col gap-3 rounded-xl bg-paper p-4 text-ink shadow-2xl"
        >
          <Dialog.Title className="sr-only">Search</Dialog.Title>
          <input
            type="text"
            role="combobox"
            aria-label="Search cards, lessons, classes, texts, words and pages"
            aria-expanded={found.length > 0}
            aria-controls={found.length > 0 ? list : undefined}
            aria-activedescendant={found.length > 0 ? `${list}-${now}` : undefined}
            autoComplete="off"
            value={text}
            maxLength={60}
            placeholder="sh, kettle, Heron class, password …"
            onChange={(e) => {
              setText(e.target.value)
              setAt(0)
            }}
            onKeyDown={keysOn({ ArrowDown: move(1), ArrowUp: move(-1), Enter: () => open(found[now]) })}
            className={`${inputLook} text-xl!`}
          />
          {found.length > 0 && (
            <ul id={list} role="listbox" aria-label="What was found" className="overflow-y-auto" tabIndex={-1}>
              {found.map((h, i) => (
                <li
                  key={h.id}
                  id={`${list}-${i}`}
                  role="option"
                  aria-selected={i === now}
                  onClick={() => open(h)}
                  onPointerMove={() => setAt(i)}
                  className={`flex min-h-11 cursor-pointer items-center gap-3 rounded-md px-3 py-1 ${i === now ? 'bg-marigold/40' : ''}`}
                >
                  <span className="w-18 shrink-0 text-sm text-soft">
                    {found[i - 1]?.group === h.group ? '' : h.group}
                  </span>
                  <b className={h.group === 'Pages' ? 'text-lg' : 'font-child text-2xl leading-tight'}>{h.title}</b>
                  <span className="ml-auto text-right text-sm">{h.about}</span>
                </li>
              ))}
            </ul>
          )}
          {found.length === 0 && <p role="status">Nothing has “{text.trim()}” in it. Try fewer letters.</p>}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}
