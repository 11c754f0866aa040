import type { Choice, Lesson } from '../../api/client'
import { Bridges } from '../../ui/Bridges'
import { label } from './model'

const baskets = { has: 'has it: ', 'has-not': 'has it not: ', first: 'first: ', last: 'last: ' } as const

type Props = { choice: Choice; lesson: Lesson; disabled: boolean; onSwap: () => void; onLock: () => void }

/** One choice with its reason; it can be swapped for the next best, or locked. */
export function ChoiceCard({ choice, lesson, disabled, onSwap, onLock }: Props) {
  const name = label(choice, lesson)
  return (
    <li
      data-slot={choice.slot}
      className={`flex items-center gap-3 rounded-md border-2 bg-paper py-1 pr-1 pl-3 ${choice.locked ? 'border-ink' : 'border-line'}`}
    >
      {choice.kind === 'picture' && <img src={`/api/word-pictures/${choice.value}`} alt="" className="size-9" />}
      <span
        className={
          choice.kind === 'sentence' || choice.kind === 'page' ? 'font-child text-lg' : 'min-w-16 font-child text-2xl'
        }
      >
        {choice.kind === 'word' ? <Bridges word={choice.value} bits={lesson.word_bits[choice.value]} /> : name}
      </span>
      <span className="min-w-0 flex-1 text-sm">
        {choice.kind === 'picture' && <b>{choice.basket && baskets[choice.basket]}</b>}
        {choice.kind === 'word' && <b>{choice.detail}: </b>}
        {choice.swapped && 'swapped in: '}
        {choice.because}
      </span>
      <button
        type="button"
        disabled={disabled || choice.next.length === 0}
        onClick={onSwap}
        className="min-h-11 rounded px-2 font-bold underline underline-offset-4 hover:bg-marigold/30 disabled:no-underline disabled:opacity-50"
        aria-label={`swap ${name} for the next best`}
      >
        swap
      </button>
      <button
        type="button"
        disabled={disabled}
        aria-pressed={choice.locked}
        onClick={onLock}
        className="min-h-11 rounded px-2 font-bold hover:bg-marigold/30"
        aria-label={`${choice.locked ? 'locked' : 'lock'}: ${name}`}
      >
        <span aria-hidden>{choice.locked ? '■' : '□'}</span> {choice.locked ? 'locked' : 'lock'}
      </button>
    </li>
  )
}
