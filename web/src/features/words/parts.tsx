import { asIn } from '../../ui/pair'
import type { FoundWord } from '../../api/client'
import { useWall } from '../../api/shared'
import { Bridges } from '../../ui/Bridges'
import { Inline } from '../../ui/parts'
import { RowMenu, type Action } from '../../ui/RowMenu'
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

/** A word with its bridges: a tap picks it; its menu takes it on to the card or refuses it. */
export function WordChip({ word, made = false, onTake, onRefuse }: ChipProps) {
  const tray = useTray()
  const picked = tray.words.includes(word.word)
  const actions: Action[] = [
    ...(onTake ? [{ name: 'Take it on to the card', hint: 'a', run: onTake }] : []),
    ...(onRefuse ? [{ name: 'Refuse it for the whole team', hint: 'x', run: onRefuse }] : []),
  ]
  return (
    <span
      className={`flex items-center rounded-full border-2 text-2xl ${made ? 'border-dashed border-ink/60' : 'border-ink'} ${picked ? 'bg-marigold' : 'bg-sheet'}`}
    >
      <button
        type="button"
        aria-pressed={picked}
        title={word.because}
        onClick={() => tray.toggle(word.word)}
        onKeyDown={keysOn({ t: () => tray.toggle(word.word), a: onTake, x: onRefuse })}
        className={`flex min-h-12 items-center gap-1.5 rounded-full py-0.5 pl-4 hover:bg-marigold/40 ${actions.length > 0 ? 'pr-1' : 'pr-4'}`}
      >
        {picked && (
          <span aria-hidden className="text-lg">
            ✓
          </span>
        )}
        <Bridges word={word.word} bits={word.bits} />
        {word.picture && <img src={`/api/word-pictures/${word.word}`} alt="" className="size-8" />}
        <span className="text-sm text-soft" title="sounds to count on fingers">
          {word.sounds}
          <span className="sr-only"> sounds</span>
        </span>
      </button>
      <RowMenu label={`More for ${word.word}`} actions={actions} />
    </span>
  )
}
