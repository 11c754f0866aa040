import type { CallError, CardView, Content } from '../../api/client'

/** Theirs for the fields that both changed, ours for the rest: what stands after "take theirs". */
export function takeTheirs(mine: Content, theirs: Content, fields: readonly string[]): Content {
  const out: Record<string, unknown> = { ...mine }
  for (const f of fields) out[f] = theirs[f as keyof Content]
  return out as Content
}

/**
 * What stands of theirs where mine has not been touched since base: a change by others shows without losing what is
 * being typed.
 */
export function follow(base: Content, mine: Content, theirs: Content): Content {
  const out: Record<string, unknown> = { ...mine }
  for (const f of Object.keys(mine) as (keyof Content)[]) {
    if (JSON.stringify(mine[f]) === JSON.stringify(base[f])) out[f] = theirs[f]
  }
  return out as Content
}

export type Saving = { kind: 'saved' } | { kind: 'typing' } | { kind: 'saving' } | { kind: 'failed'; error: CallError }

/** What the sections of the card's page share. */
export type Desk = {
  draft: Content
  change: (part: Partial<Content>) => void
  readOnly: boolean
  error: (field: keyof Content) => string | undefined
}

/** What is wrong with a field: what the server said of it, or a contradiction found on the card. */
export function errorOf(field: keyof Content, saving: Saving, findings: CardView['findings']): string | undefined {
  if (saving.kind === 'failed' && saving.error.problem.field?.endsWith(field)) return saving.error.message
  return findings.find((f) => f.field === field)?.text
}

/** The sections of the page, with the gaps that each of them fills. */
export const sections = [
  { id: 'say', title: 'Say it', parts: ['cue'] },
  { id: 'record', title: 'Record it', parts: ['take'] },
  { id: 'see', title: 'See it, do it', parts: ['picture', 'rhyme', 'action'] },
  { id: 'write', title: 'Write it', parts: ['strokes'] },
  { id: 'words', title: 'Words', parts: ['words'] },
  { id: 'sentence', title: 'Sentence', parts: ['sentence'] },
  { id: 'notes', title: 'Notes', parts: [] },
] as const satisfies readonly { id: string; title: string; parts: readonly string[] }[]

export type SectionId = (typeof sections)[number]['id']

/** What a section still lacks. */
export const lacking = (parts: readonly string[], gaps: CardView['gaps']) => gaps.filter((g) => parts.includes(g.part))

/** The field that fills a gap, where it is one. */
export const fieldOf: Partial<Record<string, keyof Content>> = {
  cue: 'mouth_cue',
  picture: 'picture',
  rhyme: 'rhyme',
  action: 'action',
  strokes: 'stroke_words',
}

/** The things of a tray as they were written in one line. */
export const thingsOf = (line: string) =>
  [
    ...new Set(
      line
        .split(/[,;]/)
        .map((t) => t.trim())
        .filter(Boolean),
    ),
  ].slice(0, 12)
