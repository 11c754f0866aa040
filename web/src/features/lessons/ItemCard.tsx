import { useRef, useState } from 'react'
import type { Item, Lesson } from '../../api/client'
import { Bridges } from '../../ui/Bridges'
import { Button, Input, Select } from '../../ui/parts'
import type { Voice } from './api'
import { label, voices } from './model'

const baskets = { has: 'has it: ', 'has-not': 'has it not: ', first: 'first: ', last: 'last: ' } as const
const sides = { has: 'left: ', 'has-not': 'right: ', first: '', last: '' } as const

type Props = {
  item: Item
  lesson: Lesson
  disabled: boolean
  last: boolean
  at: number
  contrast: boolean
  spoken: boolean
  onVoice: (v: Voice) => void
  onClue: (clue: string) => void
  onSwap: () => void
  onLock: () => void
  onRemove: () => void
  onMove: (to: number) => void
  onDropHere: (slot: string) => void
}

const press = 'min-h-11 min-w-9 rounded px-1.5 font-bold hover:bg-marigold/30 disabled:opacity-40'

/** One item with its reason; it can be swapped for the next best, locked, moved, taken out. */
export function ItemCard({
  item,
  lesson,
  disabled,
  last,
  at,
  contrast,
  spoken,
  onVoice,
  onClue,
  onSwap,
  onLock,
  onRemove,
  onMove,
  onDropHere,
}: Props) {
  const [explaining, setExplaining] = useState(false)
  const means = useRef<HTMLButtonElement>(null)
  const name = label(item, lesson)
  const text = item.kind === 'sentence' || item.kind === 'page' || item.kind === 'question' || item.kind === 'text'
  return (
    <li
      data-slot={item.slot}
      draggable={!disabled}
      onDragStart={(e) => e.dataTransfer.setData('text/slot', item.slot)}
      onDragOver={(e) => e.preventDefault()}
      onDrop={(e) => {
        e.preventDefault()
        onDropHere(e.dataTransfer.getData('text/slot'))
      }}
      className={`flex flex-wrap items-center gap-2 rounded-md border-2 bg-paper py-0.5 pr-1 pl-3 ${item.locked ? 'border-ink' : 'border-line'}`}
    >
      {item.kind === 'picture' && <img src={`/api/word-pictures/${item.value}`} alt="" className="size-9" />}
      <span className={text ? 'max-w-[50%] font-child text-lg whitespace-pre-line' : 'min-w-16 font-child text-2xl'}>
        {item.kind === 'word' ? <Bridges word={item.value} bits={lesson.word_bits[item.value]} /> : name}
      </span>
      <span className="min-w-0 flex-1 text-sm">
        {item.basket && <b>{contrast ? sides[item.basket] : baskets[item.basket]}</b>}
        {item.kind === 'word' && item.detail && !contrast && <b>{item.detail}: </b>}
        {item.role === 'older' && <b>older: </b>}
        {item.role === 'made-up' && <b>made up: </b>}
        {item.swapped && 'swapped in: '}
        {item.because.text}
      </span>
      {spoken && (
        <Select
          aria-label={`who says ${name}`}
          disabled={disabled}
          value={item.voice ?? ''}
          onChange={(e) => onVoice(e.target.value as Voice)}
        >
          {voices.map(([id, who]) => (
            <option key={id} value={id}>
              {who}
            </option>
          ))}
        </Select>
      )}
      <span className="flex shrink-0">
        {item.kind === 'word' && item.role !== 'made-up' && (
          <button
            ref={means}
            type="button"
            className={press}
            aria-expanded={explaining}
            onClick={() => setExplaining(!explaining)}
            aria-label={`what ${name} means`}
          >
            means
          </button>
        )}
        <button
          type="button"
          className={press}
          disabled={disabled || at === 0}
          onClick={() => onMove(at - 1)}
          aria-label={`${name} up`}
        >
          ↑
        </button>
        <button
          type="button"
          className={press}
          disabled={disabled || last}
          onClick={() => onMove(at + 1)}
          aria-label={`${name} down`}
        >
          ↓
        </button>
        <button
          type="button"
          disabled={disabled || item.next.length === 0}
          onClick={onSwap}
          className={`${press} underline underline-offset-4 disabled:no-underline`}
          aria-label={`swap ${name} for the next best`}
        >
          swap
        </button>
        <button
          type="button"
          disabled={disabled}
          aria-pressed={item.locked}
          onClick={onLock}
          className={press}
          aria-label={`${item.locked ? 'locked' : 'lock'}: ${name}`}
        >
          <span aria-hidden>{item.locked ? '■' : '□'}</span> {item.locked ? 'locked' : 'lock'}
        </button>
        <button type="button" className={press} disabled={disabled} onClick={onRemove} aria-label={`take out ${name}`}>
          ×
        </button>
      </span>
      {explaining && (
        <Meaning
          key={item.clue}
          item={item}
          disabled={disabled}
          onKeep={(clue) => {
            onClue(clue)
            setExplaining(false)
            means.current?.focus()
          }}
        />
      )}
    </li>
  )
}

/** What a word means, in the team's words once they were written. */
function Meaning({ item, disabled, onKeep }: { item: Item; disabled: boolean; onKeep: (clue: string) => void }) {
  const [clue, setClue] = useState(item.clue ?? '')
  return (
    <form
      className="flex w-full flex-wrap items-center gap-2 pb-1"
      onSubmit={(e) => {
        e.preventDefault()
        onKeep(clue)
      }}
    >
      <span className="min-w-60 flex-1">
        <Input
          aria-label={`What ${item.value} means, in plain words`}
          placeholder="in plain words, twelve at the most"
          maxLength={160}
          disabled={disabled}
          value={clue}
          onChange={(e) => setClue(e.target.value)}
        />
      </span>
      <Button type="submit" disabled={disabled}>
        Keep for all lessons
      </Button>
      <span className="text-sm">Read it before you use it. Left empty, the plain one comes back.</span>
    </form>
  )
}
