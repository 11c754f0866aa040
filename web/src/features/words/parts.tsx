import { asIn } from '../../ui/pair'
import type { FoundWord } from '../../api/client'
import { useWall } from '../../api/shared'
import { Bridges } from '../../ui/Bridges'
import { Inline } from '../../ui/parts'
import { keysOn } from '../../ui/useKeys'
import { useTray } from './useTray'

/** A choice of one of the team's sounds. */
export function SoundPick({
  value,
  onChange,
  label = 'Sound',
  none,
}: {
  value: string
  onChange: (id: string) => void
  label?: string
  none?: string
}) {
  const wall = useWall()
  return (
    <Inline aria-label={label} value={value} onChange={(e) => onChange(e.target.value)}>
      {none && <option value="">{none}</option>}
      {wall.data?.map((c) => (
        <option key={c.card_id} value={c.card_id}>
          {c.pair.grapheme} {asIn(c)}
        </option>
      ))}
    </Inline>
  )
}

type ChipProps = {
  word: FoundWord
  made?: boolean
  onTake?: (() => void) | undefined
  onRefuse?: (() => void) | undefined
}

/** A word with its bridges. One key picks it, takes it on to the card, or refuses it. */
export function WordChip({ word, made = false, onTake, onRefuse }: ChipProps) {
  const tray = useTray()
  const picked = tray.words.includes(word.word)
  const round = 'size-11 rounded-full text-lg font-bold'
  return (
    <span
      tabIndex={0}
      role="group"
      aria-label={`${word.word}: ${word.because}`}
      title={word.because}
      onKeyDown={keysOn({ t: () => tray.toggle(word.word), a: onTake, x: onRefuse })}
      className={`flex items-center gap-1 rounded-full border-2 py-0.5 pl-4 pr-1 text-2xl ${made ? 'border-dashed border-ink/60' : 'border-ink'} ${picked ? 'bg-marigold/50' : 'bg-sheet'}`}
    >
      <Bridges word={word.word} bits={word.bits} />
      {word.picture && <img src={`/api/word-pictures/${word.word}`} alt="" className="ml-1 size-8" />}
      <span className="ml-1 text-sm text-soft" title="sounds to count on fingers">
        {word.sounds}
      </span>
      <button
        type="button"
        tabIndex={-1}
        aria-pressed={picked}
        aria-label={`Pick ${word.word}`}
        className={`${round} hover:bg-marigold/50`}
        onClick={() => tray.toggle(word.word)}
      >
        {picked ? '–' : '+'}
      </button>
      {onTake && (
        <button
          type="button"
          tabIndex={-1}
          aria-label={`Take ${word.word}`}
          className={`${round} text-leaf hover:bg-mint/50`}
          onClick={onTake}
        >
          ✓
        </button>
      )}
      {onRefuse && (
        <button
          type="button"
          tabIndex={-1}
          aria-label={`Refuse ${word.word}`}
          className={`${round} text-brick hover:bg-coral/40`}
          onClick={onRefuse}
        >
          ×
        </button>
      )}
    </span>
  )
}
