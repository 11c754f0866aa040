import type { Schemas } from '../../api/client'

export type Checked = Schemas['CheckedText']

/** Is it one sentence, or more: the bank keeps them apart. */
export function kindOf(checked: Pick<Checked, 'sentences'>): 'sentence' | 'page' {
  return checked.sentences.length > 1 ? 'page' : 'sentence'
}

/** The text cut where its sentences begin, so that each stands on its own line. Starts are rune offsets. */
export function lines<W extends { start: number }>(
  words: readonly W[],
  sentences: readonly { start: number }[],
): W[][] {
  return sentences.map((s, i) =>
    words.filter((w) => w.start >= s.start && w.start < (sentences[i + 1]?.start ?? Infinity)),
  )
}
